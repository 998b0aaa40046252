// The shade of a strip: the heat state along a run, from the best witness there is, and which witness that was.

import type { RunFold } from "./fold.ts";
import type { Touch } from "./vocabulary.ts";

export type HeatWitness = "gauge" | "surface temperature" | "touch" | "warnings" | "none";
/** `level` 0..1 holds from `fromMs` (elapsed) until the next step. */
export interface HeatStep {
  fromMs: number;
  level: number;
}
export interface HeatTrace {
  witness: HeatWitness;
  steps: HeatStep[];
}
export interface ChannelReading {
  atMs: number;
  value: number;
}

const TOUCH_LEVEL: Readonly<Record<Touch, number | null>> = {
  cool: 0.1,
  warm: 0.4,
  "hot, can be held": 0.7,
  "hot, let go at once": 1,
  "not said": null,
};
/** Surface temperatures map linearly from 20 °C to 60 °C; a display scale, not a verdict. */
const levelFromShellC = (shellC: number): number => Math.min(1, Math.max(0, (shellC - 20) / 40));

/** Order of witnesses: gauge (marks, else the device's channel), surface temperature, touch, warnings. */
export function heatTrace(
  fold: RunFold,
  gaugeChannel: readonly ChannelReading[] = [],
  shellChannel: readonly ChannelReading[] = [],
): HeatTrace {
  const startMs = fold.startMs;
  if (startMs === null) return { witness: "none", steps: [] };
  const untilMs = fold.end?.hiMs ?? Number.POSITIVE_INFINITY;
  const marked = (key: "gauge" | "shellC"): ChannelReading[] =>
    fold.readings.flatMap((m) => (m.body[key] === undefined ? [] : [{ atMs: m.atMs, value: m.body[key] }]));
  const within = (rows: readonly ChannelReading[]): ChannelReading[] =>
    rows.filter((r) => r.atMs >= startMs && r.atMs <= untilMs).sort((a, b) => a.atMs - b.atMs);
  const steps = (rows: readonly ChannelReading[], level: (v: number) => number): HeatStep[] =>
    mergeEqual([{ fromMs: 0, level: 0 }, ...rows.map((r) => ({ fromMs: r.atMs - startMs, level: level(r.value) }))]);
  const gauge = within([...marked("gauge"), ...gaugeChannel]);
  if (gauge.length > 0) return { witness: "gauge", steps: steps(gauge, (v) => Math.min(1, Math.max(0, v / 10))) };
  const shell = within([...marked("shellC"), ...shellChannel]);
  if (shell.length > 0) return { witness: "surface temperature", steps: steps(shell, levelFromShellC) };
  const touch = within(
    fold.touches.flatMap((m) => {
      const value = TOUCH_LEVEL[m.body.feel];
      return value === null ? [] : [{ atMs: m.atMs, value }];
    }),
  );
  if (touch.length > 0) return { witness: "touch", steps: steps(touch, (v) => v) };
  const warned = within(
    fold.warnings.flatMap((w) => [{ atMs: w.shownMs, value: 0.75 }, ...w.escalatedMs.map((atMs) => ({ atMs, value: 0.95 }))]),
  );
  if (warned.length > 0) return { witness: "warnings", steps: steps(warned, (v) => v) };
  return { witness: "none", steps: [{ fromMs: 0, level: 0 }] };
}

/** Later steps at one moment win; steps of equal level are one. */
function mergeEqual(steps: readonly HeatStep[]): HeatStep[] {
  const merged: HeatStep[] = [];
  for (const step of steps) {
    const last = merged.at(-1);
    if (last !== undefined && last.fromMs === step.fromMs) last.level = step.level;
    else if (last === undefined || Math.abs(last.level - step.level) > 0.004) merged.push({ ...step });
  }
  return merged;
}
