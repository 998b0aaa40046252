// Is the maker's figure true, and why does another tester's differ? A run speaks about a rating only where its end and its temperature allow; the
// difference to an outside figure is laid out on the log scale, cause by cause, with what is left unexplained and what was not said.

import { isLit } from "../kit/index.ts";
import { clopperPearsonLower, clopperPearsonUpper, isDoubtful, takenAsEnd } from "../statistics/index.ts";
import type { Figure, ModeSnapshot, WithTime } from "../kit/index.ts";
import { modeKey, namesTime, saidOf } from "../kit/index.ts";
import type { Cause } from "./causes.ts";
import { SLOPES } from "./causes.ts";
import type { EffectsResult, Factor } from "./effects.ts";
import type { RunRecord } from "./records.ts";

/** Rooms within this of the figure's temperature are compared fairly. */
export const FAIR_C = 3;

export type RatingVerdict = "holds" | "not contradicted" | "falls short" | "cannot tell" | "no limit stated";
export interface RatingCheck {
  outlasted: string[];
  fellShort: string[];
  /** Ended otherwise before the rated time, or at a temperature or in a sun that makes it unfair. */
  silent: string[];
  /** Of the silent ones those that heat may have ended before it, for all that anybody said: they lower `atLeast`. */
  maybeShort: string[];
  /** Share of runs that outlast it, one-sided each way, with the confidence; null with no run that speaks. */
  atLeast: number | null;
  atMost: number | null;
  /** What proves that it holds: the dependable limit of a fair cell, or the share of runs alone; null: it is not proved. */
  provedBy: "limit" | "share" | null;
  verdict: RatingVerdict;
}

/** `limitSec`: that the asked share is known to outlast in every fair cell with a limit; null: none has one. */
export function checkRating(
  figure: Figure,
  records: readonly RunRecord[],
  levels: { share: number; confidence: number },
  limitSec: number | null,
): RatingCheck {
  const mine = records.filter((r) => r.setup.mode.id === figure.modeId);
  return namesTime(figure) ? checkTime(figure, mine, levels, limitSec) : checkNoLimit(figure, mine);
}

/** No time to hold runs against: what ended by heat is told, and no share is claimed. */
function checkNoLimit(figure: Figure, mine: readonly RunRecord[]): RatingCheck {
  const ended = mine.filter((r) => endedBefore(r, Number.POSITIVE_INFINITY) && fallsShortFairly(figure, r)).map((r) => r.runId);
  const silent = mine.map((r) => r.runId).filter((id) => !ended.includes(id));
  return {
    outlasted: [],
    fellShort: ended,
    silent,
    maybeShort: [],
    atLeast: null,
    atMost: null,
    provedBy: null,
    verdict: "no limit stated",
  };
}

/** A room nobody recorded is neither cooler nor warmer than the figure's. */
const isKnown = ({ basis }: RunRecord["setup"]["ambient"]): boolean => basis !== "not recorded";

/** In a room no hotter than the figure's, and out of the sun: what ends there speaks against it. */
const fallsShortFairly = (figure: Figure, { setup }: RunRecord): boolean =>
  (figure.ambientC === null || (isKnown(setup.ambient) && setup.ambient.valueC - figure.ambientC <= FAIR_C)) &&
  setup.condition.sun !== "direct";

function checkTime(
  figure: WithTime<Figure>,
  mine: readonly RunRecord[],
  levels: { share: number; confidence: number },
  limitSec: number | null,
): RatingCheck {
  const says = (r: RunRecord): "outlasted" | "fell short" | "nothing" => {
    const off = figure.ambientC === null ? 0 : r.setup.ambient.valueC - figure.ambientC;
    // Outlasted in a cooler room, or under a fan, it says nothing of the rating's condition.
    if (figure.ambientC !== null && !isKnown(r.setup.ambient)) return "nothing";
    if (r.timeSec >= figure.limitSec) return off >= -FAIR_C && r.setup.condition.air !== "fan" ? "outlasted" : "nothing";
    return endedBefore(r, figure.limitSec) && fallsShortFairly(figure, r) ? "fell short" : "nothing";
  };
  const of = (what: ReturnType<typeof says>): string[] => mine.filter((r) => says(r) === what).map((r) => r.runId);
  const [outlasted, fellShort, silent] = [of("outlasted"), of("fell short"), of("nothing")];
  const n = outlasted.length + fellShort.length;
  const maybeShort = mine
    .filter((r) => says(r) === "nothing" && maybeEndedBefore(r, figure.limitSec) && fallsShortFairly(figure, r))
    .map((r) => r.runId);
  const atLeast = n === 0 ? null : clopperPearsonLower(outlasted.length, n + maybeShort.length, levels.confidence);
  const atMost = n === 0 ? null : clopperPearsonUpper(outlasted.length, n, levels.confidence);
  // At the very edge nothing is proved: 0 of 1 at 90 % is as likely as not to be chance.
  const byShare = atLeast !== null && atLeast > levels.share + EDGE;
  const byLimit = limitSec !== null && limitSec >= figure.limitSec;
  const short = atMost !== null && atMost < levels.share - EDGE;
  const holds = !short && fellShort.length === 0 && (byShare || byLimit);
  const provedBy = !holds ? null : byLimit ? "limit" : "share";
  const verdict: RatingVerdict =
    n === 0 ? "cannot tell" : short ? "falls short" : holds ? "holds" : fellShort.length === 0 ? "not contradicted" : "cannot tell";
  return { outlasted, fellShort, silent, maybeShort, atLeast, atMost, provedBy, verdict };
}

/** Shares nearer than this are equal: the tails are computed to twelve digits. */
const EDGE = 1e-9;

/** Heat ended it before that time for certain: found off, or after a gap, only by the late end of what is known. */
export function endedBefore({ lasted }: RunRecord, sec: number): boolean {
  return lasted.kind === "exact" ? lasted.sec < sec : lasted.kind === "interval" && lasted.hiSec < sec;
}

/** It may have: nobody said what ended it, or it was found off on both sides of that time. */
function maybeEndedBefore({ lasted }: RunRecord, sec: number): boolean {
  const read = takenAsEnd(lasted);
  return (read.kind === "exact" && isDoubtful(lasted) && read.sec < sec) || (read.kind === "interval" && read.loSec < sec);
}

export interface Bar {
  what: Cause | "codec" | "unexplained";
  /** Their time over ours is multiplied by this; the rest of a known cause as its interval. */
  factor: Factor;
}
export interface Waterfall {
  ok: true;
  /** Their time over our typical time. */
  ratio: number;
  bars: Bar[];
  /** Settings the figure does not tell, and by how much each could move it either way, from our own effects. */
  unsaid: { what: Cause; factor: Factor }[];
}
/** A figure of another kind than a time, or of no time at all, is not laid out: there is no difference to explain. */
export type WaterfallResult = Waterfall | { ok: false; reason: "no-typical-time" | "no-effects" | "no-time" };

/** Our typical seconds at our conditions against the figure. `codec`: runtime of the figure's compression over ours, where both were tested. */
export function waterfall(
  figure: Figure,
  ours: RunRecord,
  typicalSec: number | null,
  effects: EffectsResult,
  codec: Factor | null,
): WaterfallResult {
  if (figure.limitSec === null || figure.stated === "more than") return { ok: false, reason: "no-time" };
  if (typicalSec === null) return { ok: false, reason: "no-typical-time" };
  const ratio = figure.limitSec / typicalSec;
  const known = effects.ok ? effects.effects : [];
  if (known.length === 0 && codec === null) return { ok: false, reason: "no-effects" };
  const bars: Bar[] =
    codec === null || saidOf(figure.says?.compression) === undefined || figure.says?.compression === ours.setup.mode.compression
      ? []
      : [{ what: "codec", factor: codec }];
  const unsaid: Waterfall["unsaid"] = [];
  for (const { cause, factor } of known) {
    const steps = stepsTo(cause, figure, ours);
    if (steps === null) {
      const most = ONE_WAY[cause];
      if (most !== undefined) unsaid.push({ what: cause, factor: power(factor, most) });
    } else if (steps !== 0) bars.push({ what: cause, factor: power(factor, steps) });
  }
  const explained = bars.reduce((product, b) => product * b.factor.mid, 1);
  const rest = ratio / explained;
  return { ok: true, ratio, bars: [...bars, { what: "unexplained", factor: { mid: rest, lo: rest, hi: rest } }], unsaid };
}

function power({ mid, lo, hi }: Factor, steps: number): Factor {
  const ends = [lo ** steps, hi ** steps];
  return { mid: mid ** steps, lo: Math.min(...ends), hi: Math.max(...ends) };
}

/** What a cause left unsaid is taken to be able to do: one step of a yes/no, half the shutdown rise of start heat. */
const ONE_WAY: Readonly<Partial<Record<Cause, number>>> = {
  "direct sun": 1,
  breeze: 1,
  fan: 1,
  "screen lit": -1,
  "outside power": 1,
  "high power-off setting": 1,
  "start heat": 5,
};

/** Steps of the cause from our run to the figure; null: the figure does not say. */
export function stepsTo(cause: Cause, { says, ambientC }: Pick<Figure, "says" | "ambientC">, { setup }: RunRecord): number | null {
  const c = setup.condition;
  const yesNo = <T extends string>(value: T | "not said" | undefined, ours: T, is: (v: T) => boolean): number | null => {
    const said = saidOf(value);
    return said === undefined ? null : Number(is(said)) - Number(is(ours));
  };
  switch (cause) {
    case "ambient":
      return ambientC === null ? null : ambientC - setup.ambient.valueC;
    case "direct sun":
      return yesNo(says?.sun, c.sun, (v) => v === "direct");
    case "breeze":
    case "fan":
      return yesNo(says?.air, c.air, (v) => v === cause);
    case "screen lit":
      return yesNo(says?.screen, c.screen, isLit);
    case "outside power":
      return yesNo(says?.power, c.power, (v) => v === "dummy or mains" || v === "USB");
    case "high power-off setting":
      return yesNo(says?.powerOffSetting, c.powerOffSetting, (v) => v === "high");
    case "start heat":
      // "Warm" without a number is taken as three tenths of the rise (ours); "cold" as none.
      return saidOf(says?.start) === undefined ? null : says?.start === "cold" ? 0 : 0.3 / (SLOPES["start heat"] ?? 1);
    case "autofocus hunting":
    case "newer firmware":
      return null;
    case "pauses":
      return 0;
  }
}

/** A tested mode equal but for codec, compression and bitrate: what the figure's codec does to runtime, from the mode factors. */
export function codecFactor(effects: EffectsResult, ours: ModeSnapshot, wanted: ModeSnapshot["compression"] | undefined): Factor | null {
  if (!effects.ok || wanted === undefined || wanted === ours.compression) return null;
  const { modes, records, fit } = effects.model;
  const same = (m: ModeSnapshot): boolean =>
    m.widthPx === ours.widthPx &&
    m.heightPx === ours.heightPx &&
    m.fpsNum * ours.fpsDen === ours.fpsNum * m.fpsDen &&
    m.readout === ours.readout;
  const other = records.map((r) => r.setup.mode).find((m) => same(m) && m.compression === wanted);
  if (other === undefined) return null;
  const at = (m: ModeSnapshot): number => modes.indexOf(modeKey(m));
  const [i, j] = [at(ours), at(other)];
  if (i < 0 || j < 0) return null;
  const b = (k: number): number => (k === 0 ? 0 : (fit.coef[k] ?? 0));
  const v = (k: number, l: number): number => (k === 0 || l === 0 ? 0 : (fit.covariance[k]?.[l] ?? 0));
  const se = Math.sqrt(Math.max(0, v(i, i) + v(j, j) - 2 * v(i, j)));
  const mid = b(j) - b(i);
  return { mid: Math.exp(mid), lo: Math.exp(mid - 1.7 * se), hi: Math.exp(mid + 1.7 * se) };
}
