// Where a take begins and ends within its clip: the handling at both ends, picking up and putting down, is cut away.

import type { ClipSeries } from "../motion/index.ts";

const LOOK_SEC = 0.5;
/** Handling shakes this many times as much as the middle of the clip. */
const TIMES = 2.2;
const MOST_SEC = 4;
const MOST_SHARE = 0.2;

/** First frame in, first frame out. At most 4 s and a fifth of the clip go at either end; a short or even clip is left whole. */
export function handlingOf(
  series: Pick<ClipSeries, "timesSec" | "dxFrac" | "dyFrac">,
  rateHz: number,
): { inFrame: number; outFrame: number } {
  const frames = series.timesSec.length;
  const look = Math.max(3, Math.round(LOOK_SEC * rateHz));
  const whole = { inFrame: 0, outFrame: frames };
  if (frames < 6 * look) return whole;
  const steps = series.dxFrac.map((dx, i) => Math.hypot(dx, series.dyFrac[i] ?? 0));
  const blocks = Array.from({ length: Math.floor(steps.length / look) }, (_, b) => rms(steps.slice(b * look, (b + 1) * look)));
  const usual = [...blocks].sort((a, b) => a - b)[Math.floor(blocks.length / 2)] ?? 0;
  const most = Math.floor(Math.min(MOST_SEC * rateHz, MOST_SHARE * frames) / look);
  const loud = (b: number): boolean => (blocks[b] ?? 0) > TIMES * usual;
  let head = 0;
  for (let b = 0; b < most; b++) if (loud(b)) head = b + 1;
  let tail = 0;
  for (let b = 0; b < most; b++) if (loud(blocks.length - 1 - b)) tail = b + 1;
  return { inFrame: head * look, outFrame: tail === 0 ? frames : (blocks.length - tail) * look + 1 };
}

const rms = (v: readonly number[]): number => Math.sqrt(v.reduce((s, x) => s + x * x, 0) / v.length);
