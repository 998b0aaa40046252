// When the feet come down: moments at which the walker, and the camera with them, is lowest. The picture is then highest.

import { isFollowed } from "./followed.ts";
import { highPass, runningSum } from "./path.ts";
import type { ClipSeries } from "./record.ts";

/** A footfall is looked for so far about its even beat, as a share of a step: nobody walks like a clock. */
const STRAY = 0.3;

/**
 * Seconds from the clip's first frame, rising, of footfalls in frames `inFrame` to before `outFrame`; empty where no step rate was seen or the
 * picture was not followed. The beat's phase is that of the whole span; each footfall is then the highest picture near its beat.
 */
export function footfallsOf(series: ClipSeries, inFrame: number, outFrame: number, rateHz: number, stepHz: number | null): number[] {
  const steps = series.dyFrac.slice(inFrame, Math.max(inFrame, outFrame - 1));
  if (stepHz === null || steps.length < rateHz || !isFollowed({ by: series.by.slice(inFrame, Math.max(inFrame, outFrame - 1)) })) return [];
  const height = highPass(runningSum(steps), rateHz);
  const start = series.timesSec[inFrame] ?? 0;
  const at = (i: number): number => (series.timesSec[inFrame + i] ?? start) - start;
  let [cosine, sine] = [0, 0];
  height.forEach((v, i) => {
    cosine += v * Math.cos(2 * Math.PI * stepHz * at(i));
    sine += v * Math.sin(2 * Math.PI * stepHz * at(i));
  });
  // Down is positive, so the picture is highest where the beat is at its least.
  const first = (((Math.atan2(sine, cosine) + Math.PI) / (2 * Math.PI) + 2) % 1) / stepHz;
  const found: number[] = [];
  for (let beat = first; beat <= at(height.length - 1); beat += 1 / stepHz) {
    let best = -1;
    height.forEach((v, i) => {
      if (Math.abs(at(i) - beat) <= STRAY / stepHz && (best < 0 || v < (height[best] as number))) best = i;
    });
    if (best >= 0) found.push(start + at(best));
  }
  return found;
}
