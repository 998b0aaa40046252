// One row a setup within one move: its takes' numbers, their middle and their spread. No interval and no ranking: those come with repeats.

import { median } from "es-toolkit/math";
import type { Measures } from "../motion/index.ts";
import type { ComparisonResult } from "./comparing/compareSetups.ts";
import type { MoveKind, WalkPlan, WalkSetup } from "./plan.ts";
import { WALKING } from "./plan.ts";
import type { WalkTake } from "./session.ts";

export interface MeasuredTake {
  take: WalkTake;
  /** Null: no clip, or it could not be measured. */
  measures: Measures | null;
  /** Width of the control's field over the take's. */
  cropFactor: number | null;
  /** Null: no sound, or not measured. */
  sound: { floorDb: number; peaks: readonly { hz: number; overDb: number }[] } | null;
}

export interface SetupRow {
  setup: WalkSetup;
  isControl: boolean;
  takes: readonly MeasuredTake[];
  /** Takes somebody left out, in the order they were walked: they count nowhere. */
  leftOut: readonly MeasuredTake[];
  /** Geometric mean of the takes' jitter; null without one. */
  jitterFrac: number | null;
  cropFactor: number | null;
  wobblePx640: number | null;
  rollDeg: number | null;
  driftFrac: number | null;
  /** Of takes that pan: the pause before the picture follows, and its greatest speed over the steady one. Null without a start seen. */
  panStart: { delaySec: number; peakRatio: number } | null;
  /** Steps with a soft pulse among the steps walked, over all takes; null where no step rate was seen. */
  softSteps: { soft: number; steps: number } | null;
}

/** Good takes of a move, by setup, the steadiest first; setups without a number last, in the plan's order. */
export function rowsOf(plan: WalkPlan, moveId: string, measured: readonly MeasuredTake[]): SetupRow[] {
  const rows = plan.setups.map((setup): SetupRow => {
    const walked = measured.filter((m) => m.take.moveId === moveId && m.take.setupId === setup.id);
    const takes = walked.filter((m) => m.take.bad === null);
    const of = (pick: (m: Measures) => number | null): number[] =>
      takes.flatMap((t) => (t.measures === null ? [] : (pick(t.measures) ?? [])));
    const jitter = of((m) => m.jitterRmsFrac).filter((j) => j > 0);
    return {
      setup,
      isControl: setup.id === plan.controlId,
      takes,
      leftOut: walked.filter((m) => m.take.bad !== null),
      jitterFrac: jitter.length === 0 ? null : Math.exp(meanOf(jitter.map(Math.log))),
      cropFactor: medianOf(takes.flatMap((t) => t.cropFactor ?? [])),
      wobblePx640: medianOf(of((m) => m.wobbleHomographyPx640)),
      rollDeg: medianOf(of((m) => m.rollRmsDeg)),
      driftFrac: medianOf(of((m) => m.driftRmsFrac)),
      panStart: panStartOf(takes),
      softSteps: softStepsOf(takes),
    };
  });
  return rows.sort((a, b) => (a.jitterFrac ?? Number.POSITIVE_INFINITY) - (b.jitterFrac ?? Number.POSITIVE_INFINITY));
}

function panStartOf(takes: readonly MeasuredTake[]): SetupRow["panStart"] {
  const starts = takes.flatMap((t) => t.measures?.pan ?? []);
  const [delaySec, peakRatio] = [medianOf(starts.map((p) => p.delaySec)), medianOf(starts.map((p) => p.peakRatio))];
  return delaySec === null || peakRatio === null ? null : { delaySec, peakRatio };
}

function softStepsOf(takes: readonly MeasuredTake[]): SetupRow["softSteps"] {
  const known = takes.flatMap(({ measures: m }) => (m === null || m.stepHz === null ? [] : [softStepsIn(m, m.stepHz)]));
  if (known.length === 0) return null;
  return { soft: known.reduce((s, k) => s + k.soft, 0), steps: known.reduce((s, k) => s + k.of, 0) };
}

/** Of one take. Several pulses of one step are one soft step. */
export function softStepsIn({ frames, fps, dips }: Measures, stepHz: number): { soft: number; of: number } {
  const stepOf = (frame: number): number => Math.floor((frame / fps) * stepHz);
  const soft = new Set(dips.map((d) => stepOf((d.startFrame + d.endFrame) / 2)));
  return { soft: soft.size, of: Math.max(soft.size, Math.round((frames / fps) * stepHz)) };
}

export type ControlCheck =
  | { ok: true; says: "worst" | "not a walking move" }
  | { ok: false; reason: "no control" }
  | { ok: false; reason: "not measured" }
  /** Setups above it: chance can do that. */
  | { ok: false; reason: "not clear"; above: readonly string[] }
  /** Setups that shook more than the control beyond chance. */
  | { ok: false; reason: "not worst"; worse: readonly string[] };

/** The control must be worst in jitter on walking moves. Nobody says that it is not before repeats say so beyond chance. */
export function checkControl(rows: readonly SetupRow[], move: MoveKind, shake: ComparisonResult): ControlCheck {
  if (!WALKING.includes(move)) return { ok: true, says: "not a walking move" };
  const control = rows.find((r) => r.isControl);
  if (control === undefined) return { ok: false, reason: "no control" };
  const { jitterFrac } = control;
  if (jitterFrac === null || rows.filter((r) => r.jitterFrac !== null).length < 2) return { ok: false, reason: "not measured" };
  const names = (ids: readonly string[]): string[] => rows.filter((r) => ids.includes(r.setup.id)).map((r) => r.setup.name);
  if (shake.ok && shake.control.alarm.length > 0) return { ok: false, reason: "not worst", worse: names(shake.control.alarm) };
  const above = shake.ok ? shake.control.above : rows.filter((r) => (r.jitterFrac ?? 0) > jitterFrac).map((r) => r.setup.id);
  return above.length > 0 ? { ok: false, reason: "not clear", above: names(above) } : { ok: true, says: "worst" };
}

export interface AgainstControl {
  /** Steps a second more or less. */
  paceHz: number | null;
  lightStops: number;
}
/** Differences of a take from the middle of the control's takes; null without them. */
export function againstControl(m: Measures, control: SetupRow | undefined): AgainstControl | null {
  const known = (control?.takes ?? []).flatMap((t) => t.measures ?? []);
  const light = medianOf(known.map((c) => c.lightStops));
  if (light === null) return null;
  const pace = medianOf(known.flatMap((c) => c.stepHz ?? []));
  return { paceHz: pace === null || m.stepHz === null ? null : m.stepHz - pace, lightStops: m.lightStops - light };
}

/** Pace and light from which a take was walked under other conditions than its control: differences that change shake or sharpness by themselves. */
const PACE_HZ = 0.15;
const LIGHT_STOPS = 0.5;

export interface OddTake extends AgainstControl {
  take: WalkTake;
  setup: WalkSetup;
}
/** Takes whose pace or light differs from the control's middle. Without a measured control: none can be told. */
export function oddTakes(rows: readonly SetupRow[]): OddTake[] {
  const control = rows.find((r) => r.isControl);
  return rows.flatMap((row) =>
    row.takes.flatMap(({ take, measures }) => {
      const against = measures === null || row === control ? null : againstControl(measures, control);
      if (against === null) return [];
      const odd = Math.abs(against.paceHz ?? 0) > PACE_HZ || Math.abs(against.lightStops) > LIGHT_STOPS;
      return odd ? [{ ...against, take, setup: row.setup }] : [];
    }),
  );
}

const meanOf = (v: readonly number[]): number => v.reduce((a, b) => a + b, 0) / v.length;
/** Null of nothing. */
export const medianOf = (values: readonly number[]): number | null => (values.length === 0 ? null : median([...values]));
