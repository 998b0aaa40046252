// A take's wake: the way of its picture over a few seconds about a straight middle, as it is drawn.

import type { Span } from "./pan.ts";
import { runningSum } from "./path.ts";
import type { ClipSeries, Measures } from "./record.ts";

export interface Wake {
  /** From the first point shown. */
  timesSec: number[];
  /** Shares of the width, right and down, about the straight line through them. */
  x: number[];
  y: number[];
  /** Spans of points: soft frames, panning; and points after which the picture leapt. */
  soft: Span[];
  pans: Span[];
  jumps: number[];
  /** Points after which the picture was not followed: nobody knows where it went. */
  lost: number[];
}

/** Frames `inFrame` to before `outFrame`, of which the middle `seconds` are shown. `measures` are those of the same frames. */
export function wakeOf(series: ClipSeries, measures: Measures, inFrame: number, outFrame: number, seconds: number): Wake {
  const count = Math.min(outFrame - inFrame, Math.round(seconds * measures.fps) + 1);
  const from = inFrame + Math.floor((outFrame - inFrame - count) / 2);
  const to = from + count;
  const shifted = (s: Span): Span[] => {
    const [a, b] = [s.startFrame + inFrame - from, s.endFrame + inFrame - from];
    return b < 0 || a >= count ? [] : [{ startFrame: Math.max(0, a), endFrame: Math.min(count - 1, b) }];
  };
  const way = (steps: readonly number[]): number[] => aboutLine(runningSum(steps.slice(from, Math.max(from, to - 1))));
  const first = series.timesSec[from] ?? 0;
  return {
    timesSec: series.timesSec.slice(from, to).map((t) => t - first),
    x: way(series.dxFrac),
    y: way(series.dyFrac),
    soft: measures.dips.flatMap(shifted),
    pans: measures.pans.flatMap(shifted),
    lost: series.by.slice(from, Math.max(from, to - 1)).flatMap((by, i) => (by === "none" ? [i] : [])),
    jumps: measures.jumps.map((j) => j + inFrame - from).filter((j) => j >= 0 && j < count - 1),
  };
}

function aboutLine(values: Float64Array): number[] {
  const n = values.length;
  const [mid, mean] = [(n - 1) / 2, values.reduce((a, b) => a + b, 0) / Math.max(1, n)];
  let [up, across] = [0, 0];
  for (let i = 0; i < n; i++) {
    up += (i - mid) * ((values[i] ?? 0) - mean);
    across += (i - mid) ** 2;
  }
  const slope = across > 0 ? up / across : 0;
  return Array.from(values, (v, i) => v - mean - slope * (i - mid));
}
