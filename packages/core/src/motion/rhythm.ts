// The walker's rhythm in the picture: steps up and down, sway at half their rate, and what shakes faster than either.

import { isFollowed } from "./followed.ts";
import type { Series } from "./path.ts";
import { DROPPED_FRAMES, highPass, runningSum } from "./path.ts";
import type { ClipSeries } from "./record.ts";
import type { Spectrum } from "./spectrum.ts";
import { bandPower, peakHz, periodogram } from "./spectrum.ts";

export interface Rhythm {
  /** Null where no rate stands out. */
  stepHz: number | null;
  /** Sideways shake about half the step rate; null without one. */
  swayRms: number | null;
  /** Share of the power of both directions above 4 Hz. */
  fastShare: number;
}

const STEP_RANGE = [1.2, 3.6] as const;
/** Share of the up-and-down power within 0.3 Hz of its peak from which it is a step, not chance. */
const LEAST_STEP_SHARE = 0.2;

/** Step rate, sway at half of it, and the share of power above 4 Hz; null below 2 s. */
export function rhythmOf(hx: Series, hy: Series, hz: number): Rhythm | null {
  const cut = (v: Series): Series => v.slice(DROPPED_FRAMES, v.length - DROPPED_FRAMES);
  const [x, y] = [cut(hx), cut(hy)];
  if (x.length < Math.max(16, 2 * hz - 2 * DROPPED_FRAMES)) return null;
  const both = periodogram([x, y], hz);
  const upDown = periodogram([y], hz);
  const whole = bandPower(both, 0, hz);
  const peak = peakHz(upDown, ...STEP_RANGE);
  const share = peak === null ? 0 : bandPower(upDown, peak - 0.3, peak + 0.3) / bandPower(upDown, 0, hz);
  const stepHz = peak !== null && share >= LEAST_STEP_SHARE ? peak : null;
  const sideways = periodogram([x], hz);
  return {
    stepHz,
    swayRms: stepHz === null ? null : Math.sqrt(bandPower(sideways, stepHz / 2 - 0.25, stepHz / 2 + 0.25)),
    fastShare: whole > 0 ? bandPower(both, 4, hz) / whole : 0,
  };
}

/**
 * Spectrum of shake, both directions, of frames `inFrame` to before `outFrame`, thinned to at most `most` bins below `topHz`; null below 2 s, and
 * where the picture was not followed: a path that is not known does not stand still.
 */
export function spectrumOf(
  series: ClipSeries,
  inFrame: number,
  outFrame: number,
  rateHz: number,
  topHz: number,
  most: number,
): Spectrum | null {
  if (!isFollowed({ by: series.by.slice(inFrame, Math.max(inFrame, outFrame - 1)) })) return null;
  const path = (steps: readonly number[]): Series => highPass(runningSum(steps.slice(inFrame, Math.max(inFrame, outFrame - 1))), rateHz);
  const cut = (v: Series): Series => v.slice(DROPPED_FRAMES, v.length - DROPPED_FRAMES);
  const [x, y] = [cut(path(series.dxFrac)), cut(path(series.dyFrac))];
  if (x.length < Math.max(16, 2 * rateHz - 2 * DROPPED_FRAMES)) return null;
  const whole = periodogram([x, y], rateHz);
  const bins = whole.hz.filter((hz) => hz <= topHz).length;
  const step = Math.max(1, Math.ceil(bins / most));
  const count = Math.floor(bins / step);
  const thin = (pick: (k: number) => number): Float64Array => Float64Array.from({ length: count }, (_, i) => pick(i * step));
  const sum = (k: number): number => whole.power.subarray(k, k + step).reduce((a, b) => a + b, 0);
  return { hz: thin((k) => whole.hz[k] ?? 0), power: thin(sum) };
}
