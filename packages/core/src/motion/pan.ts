// Spans of panning, which are no shake, and what a stabiliser does when one begins: it holds back, then leaps to catch up.

import type { Series } from "./path.ts";
import { lowPass } from "./path.ts";

export interface Span {
  startFrame: number;
  /** Included. */
  endFrame: number;
}

/** Widths of the picture a second from which a slow movement is a pan, and how long it must go on. */
const PAN_SPEED = 0.1;
const PAN_SEC = 0.8;
/** A pan keeps its way: at most this share of its frames go back. */
const LEAST_TRAVEL = 0.12;

/** Spans where the slow part of the path goes one way at 10 % of the width a second or more, for 0.8 s and 12 % of the width or more. */
export function panSpans(x: Series, y: Series, rateHz: number): Span[] {
  return [x, y]
    .flatMap((path) => spansOf(path, rateHz))
    .sort((a, b) => a.startFrame - b.startFrame)
    .reduce<Span[]>((joined, s) => {
      const last = joined.at(-1);
      if (last !== undefined && s.startFrame <= last.endFrame + 1) last.endFrame = Math.max(last.endFrame, s.endFrame);
      else joined.push({ ...s });
      return joined;
    }, []);
}

function spansOf(path: Series, rateHz: number): Span[] {
  const slow = lowPass(path, rateHz);
  const spans: Span[] = [];
  const speed = (i: number): number => ((slow[i + 1] as number) - (slow[i] as number)) * rateHz;
  for (let i = 0; i < path.length - 1; i++) {
    if (Math.abs(speed(i)) < PAN_SPEED) continue;
    const way = Math.sign(speed(i));
    let end = i;
    while (end + 1 < path.length - 1 && speed(end + 1) * way >= PAN_SPEED) end++;
    const travel = Math.abs((slow[end + 1] as number) - (slow[i] as number));
    if ((end - i + 1) / rateHz >= PAN_SEC && travel >= LEAST_TRAVEL) spans.push({ startFrame: i, endFrame: end + 1 });
    i = end;
  }
  return spans;
}

export interface PanStart {
  /** How long the picture stood still after the hand began: the steady line carried back, against the first movement seen. */
  delaySec: number;
  /** Greatest speed of the start over the steady speed; 1 without a leap. */
  peakRatio: number;
  /** What the leap travelled beyond the steady speed, share of the width. */
  excessFrac: number;
  /** Median speed while panning, widths a second; the sign of the movement. */
  steadySpeed: number;
}

const BRIEF_SIGMA_SEC = 0.05;
/** The picture has begun when it moves at half the steady speed. */
const BEGUN = 0.5;
const START_SEC = 1.5;
/** The steady line is fitted to the last part of the span, when the start is over. */
const STEADY_FROM = 0.4;
const REST_SEC = 0.3;

/**
 * The start of the pan in `span`; null when it begins with the clip, so that no rest is seen before it, or is shorter than 1 s. `path` is the
 * one the pan runs along, in widths. Speeds are read through a Gaussian of 0.05 s.
 */
export function panStart(path: Series, span: Span, rateHz: number): PanStart | null {
  if ((span.endFrame - span.startFrame) / rateHz < 1) return null;
  const smooth = lowPass(path, rateHz, BRIEF_SIGMA_SEC);
  const steadyFrom = Math.round(span.startFrame + STEADY_FROM * (span.endFrame - span.startFrame));
  const line = lineThrough(smooth, steadyFrom, span.endFrame);
  const steady = line.slope * rateHz;
  const level = Math.abs(steady);
  if (level < PAN_SPEED / 2) return null;
  const speed = Float64Array.from(
    { length: path.length - 1 },
    (_, i) => ((smooth[i + 1] as number) - (smooth[i] as number)) * rateHz * Math.sign(steady),
  );
  const early = Math.max(0, span.startFrame - Math.round(0.5 * rateHz));
  let begun = early;
  while (begun < span.endFrame && (speed[begun] as number) < BEGUN * level) begun++;
  const restFrames = Math.round(REST_SEC * rateHz);
  if (begun < restFrames + 2) return null;
  const until = Math.min(speed.length, begun + Math.round(START_SEC * rateHz));
  let [peak, excess] = [level, 0];
  for (let i = begun; i < until; i++) {
    peak = Math.max(peak, speed[i] as number);
    excess += Math.max(0, (speed[i] as number) - level) / rateHz;
  }
  // Where the steady line, carried back, leaves the place of rest: the hand's own start.
  const rest = mean(smooth, begun - 2 - restFrames, begun - 2);
  const handFrame = (rest - line.at0) / line.slope;
  return { delaySec: Math.max(0, (begun - handFrame) / rateHz), peakRatio: peak / level, excessFrac: excess, steadySpeed: steady };
}

function mean(values: Series, from: number, to: number): number {
  let sum = 0;
  for (let i = from; i < to; i++) sum += values[i] as number;
  return sum / (to - from);
}

/** Least squares through frames `from` to `to`, both included. */
function lineThrough(values: Series, from: number, to: number): { slope: number; at0: number } {
  const mid = (from + to) / 2;
  const level = mean(values, from, to + 1);
  let [up, across] = [0, 0];
  for (let i = from; i <= to; i++) {
    up += (i - mid) * ((values[i] as number) - level);
    across += (i - mid) ** 2;
  }
  return { slope: up / across, at0: level - (up / across) * mid };
}
