// The path of a run as it is drawn and paced: when each step of the gauge was first seen, or the shell's temperatures.

import type { Log } from "../heat/index.ts";
import type { ChannelReading, RunFold } from "../runs/index.ts";

export type Witness = "shell" | "gauge";
export interface Path extends Log {
  witness: Witness;
}

/** Rising steps of the gauge at the middle of the interval in which each was first seen, or shell temperatures. Seconds since the start. */
export function pathOf(fold: RunFold, witness: Witness, channel: readonly ChannelReading[] = []): Path {
  const startMs = fold.startMs ?? 0;
  const untilMs = fold.end?.hiMs ?? Number.POSITIVE_INFINITY;
  const key = witness === "gauge" ? "gauge" : "shellC";
  const marked = fold.readings.flatMap((m) => (m.body[key] === undefined ? [] : [{ atMs: m.atMs, value: m.body[key] }]));
  const all = [...marked, ...channel].filter((r) => r.atMs >= startMs && r.atMs <= untilMs).sort((a, b) => a.atMs - b.atMs);
  const points = witness === "gauge" ? firstSeen(all, startMs) : all.map((r) => ({ sec: (r.atMs - startMs) / 1000, value: r.value }));
  return { witness, time: points.map((p) => p.sec), tempC: points.map((p) => p.value) };
}

/** A step first read at one reading was reached somewhere since the reading before. The last reading closes the path: how long it stayed there. */
function firstSeen(all: readonly ChannelReading[], startMs: number): { sec: number; value: number }[] {
  const points: { sec: number; value: number }[] = [];
  let [highest, beforeMs] = [-1, startMs];
  for (const r of all) {
    if (r.value > highest) {
      points.push({ sec: ((beforeMs + r.atMs) / 2 - startMs) / 1000, value: r.value });
      highest = r.value;
    }
    beforeMs = r.atMs;
  }
  const last = all.at(-1);
  const reached = points.at(-1);
  // Read as a step, the truth lies up to one step higher: half a step is the middle of what is known.
  if (last !== undefined && reached !== undefined && (last.atMs - startMs) / 1000 > reached.sec + 60)
    points.push({ sec: (last.atMs - startMs) / 1000, value: last.value + 0.5 });
  return points;
}
