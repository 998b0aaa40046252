// A temperature that was not tested, two ways. Physics: one lumped body whose plateau rises with ambient; time to shutdown from cold is
// tau ln(rise / (ambient - critical)), so below the critical ambient it never shuts down. Regression: log runtime falls by the same share a degree
// and knows no such floor. Both are shown; in the cool physics is to be trusted. Far outside what was tested both refuse.
// The body's time constant is known as a range only: rise and critical ambient are fitted at its middle and at both ends, and every range that is said
// covers all three. "Never" is said where none of them expects a shutdown.

import type { LimitSettings } from "../statistics/index.ts";
import { logNormalPdf, logNormalSf } from "../statistics/index.ts";
import { modeKey } from "../kit/index.ts";
import type { EffectsResult, Factor } from "./effects.ts";
import { predict } from "./effects.ts";
import type { RunRecord } from "./records.ts";

/** Two rooms nearer than this are one temperature. */
export const APART_C = 3;
/** Outside the tested range by more than this, or by half of it if that is more, nothing is said. */
export const REACH_C = 3;

export interface PhysicsFit {
  ok: true;
  criticalC: number;
  /** 90 % range by the profile of the likelihood, criticalC and rise together, over the range of the time constant. */
  criticalRange: { lo: number; hi: number };
  riseK: number;
  tauSec: number;
  tauFactor: number;
  testedC: { lo: number; hi: number };
  runIds: string[];
  /** Points of the grids within the range, for predictions. */
  within: readonly (Point & { tauSec: number })[];
}
/** As the limit knows it. */
export type PhysicsTau = Pick<LimitSettings, "tauSec" | "tauFactor">;
export type PhysicsResult = PhysicsFit | { ok: false; reason: "one-temperature" | "no-shutdown" | "no-floor-in-reach" };

const HALF_CHI_90 = 2.7055 / 2;

/** Records of one mode with the same settings but for ambient. The time constant lies within `tauFactor` of `tauSec`; `sd`: log scatter of runs. */
export function fitPhysics(records: readonly RunRecord[], { tauSec, tauFactor }: PhysicsTau, sd: number): PhysicsResult {
  if (!(tauSec > 0)) throw new RangeError(`tauSec must be positive, got ${tauSec}`);
  if (!(sd > 0)) throw new RangeError(`sd must be positive, got ${sd}`);
  const ended = records.filter((r) => r.event === 1);
  if (ended.length === 0) return { ok: false, reason: "no-shutdown" };
  const ambients = ended.map((r) => r.setup.ambient.valueC);
  const testedC = { lo: Math.min(...ambients), hi: Math.max(...ambients) };
  if (testedC.hi - testedC.lo < APART_C) return { ok: false, reason: "one-temperature" };
  const fits = [...new Set([tauSec, tauSec / tauFactor, tauSec * tauFactor])].map((tau) => {
    const value = likelihoodOf(records, tau, sd);
    const best = zoom(value, testedC);
    // The ends of the range only widen what is said: a coarser grid does.
    return { best, within: contour(value, best, testedC, tau === tauSec ? 30 : 16).map((p) => ({ ...p, tauSec: tau })) };
  });
  const { best } = fits[0] as (typeof fits)[number];
  const within = fits.flatMap((f) => f.within);
  const criticals = within.map((p) => p.criticalC);
  // At the far ends of the grid the runs do not tell how their times fall with ambient, and the body's law finds no floor.
  if (Math.min(...criticals) <= testedC.lo - FAR_C + 1 || best.riseK >= MOST_RISE_K - 1) return { ok: false, reason: "no-floor-in-reach" };
  return {
    ok: true,
    ...best,
    criticalRange: { lo: Math.min(...criticals), hi: Math.max(...criticals) },
    tauSec,
    tauFactor,
    testedC,
    runIds: records.map((r) => r.runId),
    within,
  };
}

/** Seconds to shutdown from cold; infinite at or below the critical ambient. */
export const timeAt = (tauSec: number, criticalC: number, riseK: number, ambientC: number): number =>
  ambientC <= criticalC ? Number.POSITIVE_INFINITY : riseK <= ambientC - criticalC ? 0 : tauSec * Math.log(riseK / (ambientC - criticalC));

/** Log likelihood along the rises at one critical ambient; minus infinity as soon as it is sure to lie below `least`: most points of a grid do. */
type Value = (criticalC: number) => (riseK: number, least?: number) => number;

function likelihoodOf(records: readonly RunRecord[], tauSec: number, sd: number): Value {
  // Shutdowns first: they are the ones that can still be bounded.
  const sorted = [...records].sort((a, b) => b.event - a.event);
  const ambient = Float64Array.from(sorted, (r) => r.setup.ambient.valueC);
  const log = Float64Array.from(sorted, (r) => Math.log(r.timeSec));
  const ended = sorted.filter((r) => r.event === 1).length;
  const peak = logNormalPdf(0);
  return (criticalC) => {
    const above = ambient.map((c) => Math.log(Math.max(0, c - criticalC)));
    return (riseK, least = Number.NEGATIVE_INFINITY) => {
      const logRise = Math.log(riseK);
      let sum = 0;
      for (let i = 0; i < log.length; i++) {
        // At or below the critical ambient it never shuts down: log 0 above it.
        const middle = tauSec * (logRise - (above[i] as number));
        if (!(middle > 0) || (middle === Number.POSITIVE_INFINITY && i < ended)) return Number.NEGATIVE_INFINITY;
        if (middle === Number.POSITIVE_INFINITY) continue;
        const z = ((log[i] as number) - Math.log(middle)) / sd;
        sum += i < ended ? logNormalPdf(z) : logNormalSf(z);
        // No run can add more than the peak of the density, and a censored one nothing.
        if (sum + Math.max(0, ended - 1 - i) * peak < least) return Number.NEGATIVE_INFINITY;
      }
      return sum;
    };
  };
}

const FAR_C = 60;
const MOST_RISE_K = 150;
const STEPS = 11;
interface Point {
  criticalC: number;
  riseK: number;
}

/** Largest likelihood by a grid that narrows on its best point. */
function zoom(value: Value, tested: { lo: number; hi: number }): Point {
  let [c0, c1, r0, r1] = [tested.lo - FAR_C, tested.lo - 0.01, 1, MOST_RISE_K];
  let best: Point & { value: number } = { criticalC: c1, riseK: r1, value: Number.NEGATIVE_INFINITY };
  for (let level = 0; level < 7; level++) {
    for (const criticalC of axis(c0, c1, STEPS)) {
      const along = value(criticalC);
      for (const riseK of axis(r0, r1, STEPS)) {
        const v = along(riseK, best.value);
        if (v > best.value) best = { criticalC, riseK, value: v };
      }
    }
    const [dc, dr] = [(c1 - c0) / 5, (r1 - r0) / 5];
    [c0, c1] = [Math.max(tested.lo - FAR_C, best.criticalC - dc), Math.min(tested.lo - 0.01, best.criticalC + dc)];
    [r0, r1] = [Math.max(1, best.riseK - dr), Math.min(MOST_RISE_K, best.riseK + dr)];
  }
  return { criticalC: best.criticalC, riseK: best.riseK };
}

function contour(value: Value, best: Point, tested: { lo: number; hi: number }, steps: number): Point[] {
  const floor = value(best.criticalC)(best.riseK) - HALF_CHI_90;
  const all: Point[] = [best];
  // Fine near the best point and coarse far from it: the range is a banana along equal times.
  for (const reach of [1.5, 6, FAR_C]) {
    const [c0, c1] = [Math.max(tested.lo - FAR_C, best.criticalC - reach), Math.min(tested.lo - 0.01, best.criticalC + reach)];
    const [r0, r1] = [Math.max(1, best.riseK - 2 * reach), Math.min(MOST_RISE_K, best.riseK + 2 * reach)];
    for (const criticalC of axis(c0, c1, steps)) {
      const along = value(criticalC);
      for (const riseK of axis(r0, r1, steps)) if (along(riseK, floor) >= floor) all.push({ criticalC, riseK });
    }
  }
  return edges(all);
}

/** Times rise with the rise: of the points at one critical ambient only the lowest and the highest can be extreme. */
function edges(all: readonly Point[]): Point[] {
  const at = new Map<number, { lo: Point; hi: Point }>();
  for (const p of all) {
    const { lo, hi } = at.get(p.criticalC) ?? { lo: p, hi: p };
    at.set(p.criticalC, { lo: p.riseK < lo.riseK ? p : lo, hi: p.riseK > hi.riseK ? p : hi });
  }
  return [...at.values()].flatMap(({ lo, hi }) => (lo === hi ? [lo] : [lo, hi]));
}

/** From end to end in `n` steps. */
const axis = (from: number, to: number, n: number): number[] => Array.from({ length: n + 1 }, (_, k) => from + ((to - from) * k) / n);

export type AmbientTime = { ok: true; time: Factor } | { ok: false; reason: "far-outside" | "never" | "no-slope" };

export interface AmbientPoint {
  ambientC: number;
  physics: AmbientTime;
  regression: AmbientTime;
}
export interface AmbientReading {
  physics: Omit<PhysicsResult & { ok: true }, "within"> | (PhysicsResult & { ok: false });
  /** Every degree in reach, and the settings shared by the runs behind it. */
  points: AmbientPoint[];
  tested: { ambientC: number; timeSec: number; event: 0 | 1; runId: string }[];
}

/** Typical seconds at an ambient; `hi`, and `mid` too, are infinite where never is within the range. "never": over the whole range it is below its critical ambient. */
export function physicsAt(fit: PhysicsFit, ambientC: number): AmbientTime {
  if (farOutside(fit.testedC, ambientC)) return { ok: false, reason: "far-outside" };
  if (ambientC <= fit.criticalRange.lo) return { ok: false, reason: "never" };
  const times = fit.within.map((p) => timeAt(p.tauSec, p.criticalC, p.riseK, ambientC));
  return {
    ok: true,
    time: { mid: timeAt(fit.tauSec, fit.criticalC, fit.riseK, ambientC), lo: Math.min(...times), hi: Math.max(...times) },
  };
}

export function farOutside(tested: { lo: number; hi: number }, ambientC: number): boolean {
  const reach = Math.max(REACH_C, (tested.hi - tested.lo) / 2);
  return ambientC < tested.lo - reach || ambientC > tested.hi + reach;
}

/** By the regression over all cells, at the settings of `like`; no slope: ambient did not vary, or came together with another cause. */
export function regressionOf(effects: EffectsResult, like: RunRecord | undefined): (ambientC: number) => AmbientTime {
  const none = (): AmbientTime => ({ ok: false, reason: "no-slope" });
  if (!effects.ok || !effects.model.columns.some((c) => c.cause === "ambient")) return none;
  const { columns, records } = effects.model;
  const i = records.findIndex((r) => r.runId === like?.runId);
  if (i < 0 || like === undefined) return none;
  const all = records.map((r) => r.setup.ambient.valueC);
  const tested = { lo: Math.min(...all), hi: Math.max(...all) };
  const mode = modeKey(like.setup.mode);
  return (ambientC) => {
    if (farOutside(tested, ambientC)) return { ok: false, reason: "far-outside" };
    const values = columns.map((c) => (c.cause === "ambient" ? ambientC : c.cause === "start heat" ? 0 : (c.values[i] ?? 0)));
    const time = predict(effects, mode, values);
    return time === null ? none() : { ok: true, time };
  };
}

export type Agreement = { ok: true; agree: boolean; ratio: number } | { ok: false };
/** Do the two ways agree: does either middle lie within the other's range? */
export function agreement(a: AmbientTime, b: AmbientTime): Agreement {
  if (!a.ok || !b.ok || !Number.isFinite(a.time.mid) || !Number.isFinite(b.time.mid)) return { ok: false };
  const inside = (t: number, range: Factor): boolean => t >= range.lo && t <= range.hi;
  return { ok: true, agree: inside(a.time.mid, b.time) || inside(b.time.mid, a.time), ratio: a.time.mid / b.time.mid };
}
