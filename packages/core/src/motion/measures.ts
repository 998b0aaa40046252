// From a record to the numbers of a take: each column by its own definition, never one score.

import { isFollowed } from "./followed.ts";
import { flagsOf } from "./flags.ts";
import { exposureSteps } from "./light.ts";
import type { PanStart, Span } from "./pan.ts";
import { panSpans, panStart } from "./pan.ts";
import type { Series } from "./path.ts";
import { highPass, resampled, rmsOf, runningSum } from "./path.ts";
import type { ClipRecord, ClipSeries, Measures, Rate } from "./record.ts";
import { EVEN, trimmed } from "./record.ts";
import { rhythmOf } from "./rhythm.ts";
import { sharpnessArea, softPulses } from "./sharpness.ts";
import { slowBand } from "./slowBand.ts";

/** Frames from `inFrame` to before `outFrame` of a record, as numbers. */
export function measuresOf({ series, facts }: ClipRecord, inFrame = 0, outFrame = series.timesSec.length): Measures {
  const s = trimmed(series, inFrame, outFrame);
  const followed = isFollowed(s);
  const rate = rateOf(s.timesSec);
  const path = evenPath(s, rate);
  const pans = panSpans(path.x, path.y, rate.hz);
  const still = new Uint8Array(path.x.length).fill(1);
  for (const { startFrame, endFrame } of pans) still.fill(0, startFrame, endFrame + 1);
  const quick = (v: Series) => highPass(v, rate.hz);
  const [hx, hy, hr, hz] = [quick(path.x), quick(path.y), quick(path.roll), quick(path.zoom)] as const;
  // A path with holes is no path: what was not followed counts as unknown, not as still.
  const told = (v: Series): number | null => (followed ? rmsOf(v, still) : null);
  const [jx, jy] = [told(hx), told(hy)];
  const roll = told(hr);
  const rhythm = followed ? rhythmOf(hx, hy, rate.hz) : null;
  const jitter = jx === null || jy === null ? null : Math.hypot(jx, jy);
  const slow = (v: Series) => (followed ? slowBand(v, rate.hz) : null);
  const [slowX, slowY, slowRoll] = [slow(path.x), slow(path.y), slow(path.roll)] as const;
  const steps = exposureSteps(s.gainStops);
  const jumps = jumpsOf(s.dxFrac, s.dyFrac, rate.hz);
  const measures: Omit<Measures, "flags"> = {
    frames: s.timesSec.length,
    fps: rate.hz,
    jitterRmsFrac: jitter,
    jitterXFrac: jx,
    jitterYFrac: jy,
    rollRmsDeg: roll === null ? null : (roll * 180) / Math.PI,
    zoomRmsFrac: told(hz),
    driftRmsFrac: slowX === null || slowY === null ? null : Math.hypot(slowX, slowY),
    driftRollDeg: slowRoll === null ? null : (slowRoll * 180) / Math.PI,
    stepHz: rhythm?.stepHz ?? null,
    swayRmsFrac: rhythm?.swayRms ?? null,
    highFrequencyRmsFrac: rhythm === null || jitter === null ? null : jitter * Math.sqrt(rhythm.fastShare),
    wobbleSimilarityPx640: rmsOfKnown(s.wobbleSimilarityPx640),
    wobbleHomographyPx640: rmsOfKnown(s.wobbleHomographyPx640),
    sharpnessArea: sharpnessArea(s.sharpness),
    edgeSigmaPx640: facts.edgeSigmaPx640,
    dips: softPulses(s.sharpness),
    pans,
    pan: followed ? firstPanStart(path.x, path.y, pans, rate.hz) : null,
    exposureSteps: steps,
    jumps,
    lightStops: median(s.lightStops),
    clippedFrac: facts.clippedFrac,
  };
  return { ...measures, flags: flagsOf(measures, facts, s, rate) };
}

function rateOf(times: readonly number[]): Rate {
  const gaps = times.slice(1).map((t, i) => t - (times[i] as number));
  const usual = gaps.length === 0 ? 0 : median(gaps);
  if (!(usual > 0)) return { hz: 30, unevenFrac: 0 };
  const uneven = gaps.reduce((most, g) => Math.max(most, Math.abs(g - usual) / usual), 0);
  // Stamps of whole milliseconds wobble by a part of an interval; their mean does not.
  const whole = ((times.at(-1) ?? 0) - (times[0] ?? 0)) / gaps.length;
  return { hz: 1 / (uneven < EVEN ? whole : usual), unevenFrac: uneven };
}

interface Path {
  x: Series;
  y: Series;
  roll: Series;
  zoom: Series;
}

function evenPath(s: ClipSeries, rate: Rate): Path {
  const path = { x: runningSum(s.dxFrac), y: runningSum(s.dyFrac), roll: runningSum(s.rollRad), zoom: runningSum(s.logScale) };
  if (rate.unevenFrac < EVEN) return path;
  const times = Float64Array.from(s.timesSec);
  const even = (v: Series): Series => resampled(v, times, rate.hz);
  return { x: even(path.x), y: even(path.y), roll: even(path.roll), zoom: even(path.zoom) };
}

function rmsOfKnown(values: readonly (number | null)[]): number | null {
  const known = values.filter((v) => v !== null);
  // Less than half told: the rest may be the worst.
  if (known.length < Math.max(8, values.length / 2)) return null;
  return Math.sqrt(known.reduce((sum, v) => sum + v * v, 0) / known.length);
}

function firstPanStart(x: Series, y: Series, pans: readonly Span[], hz: number): PanStart | null {
  for (const span of pans) {
    const along = (v: Series): number => Math.abs((v[span.endFrame] as number) - (v[span.startFrame] as number));
    const start = panStart(along(x) >= along(y) ? x : y, span, hz);
    if (start !== null) return start;
  }
  return null;
}

const JUMP_FRAC = 0.012;
const JUMP_TIMES = 8;
const RETURN_SEC = 0.4;

/**
 * Frames after which the picture leapt and stayed: a pair that departs from its neighbours by 1.2 % of the width and 8 times the usual, with
 * nothing like it the other way within 0.4 s. What comes back is a bump.
 */
function jumpsOf(dx: readonly number[], dy: readonly number[], hz: number): number[] {
  const apart = (v: readonly number[]): number[] => v.map((d, i) => d - ((v[i - 1] ?? v[i + 1] ?? 0) + (v[i + 1] ?? v[i - 1] ?? 0)) / 2);
  const [ax, ay] = [apart(dx), apart(dy)];
  const size = ax.map((a, i) => Math.hypot(a, ay[i] as number));
  const usual = size.length === 0 ? 0 : median(size);
  const leaps = size.flatMap((d, i) =>
    d > JUMP_FRAC && d > JUMP_TIMES * usual && d >= (size[i - 1] ?? 0) && d > (size[i + 1] ?? 0) ? [i] : [],
  );
  const comesBack = (i: number, j: number): boolean =>
    j !== i &&
    Math.abs(j - i) <= RETURN_SEC * hz &&
    (ax[i] as number) * (ax[j] as number) + (ay[i] as number) * (ay[j] as number) < -0.4 * (size[i] as number) ** 2;
  return leaps.filter((i) => !leaps.some((j) => comesBack(i, j)));
}

function median(values: readonly number[]): number {
  const order = [...values].sort((a, b) => a - b);
  return order[order.length >> 1] ?? 0;
}
