// How much narrower a take's picture is than its control's: the scale at which frames of both fit.

import { median } from "es-toolkit/math";
import { lessLocalMean } from "./coarse.ts";
import { refine } from "./dense.ts";
import type { Luma, Pyramid } from "./luma.ts";
import { emptyLuma, fillPyramid } from "./luma.ts";
import type { Similarity } from "./similarity.ts";

/** A frame kept for comparison: half and eighth of the measured size. */
export interface KeyFrame {
  timeSec: number;
  half: Luma;
  eighth: Luma;
}

export const keyFrameOf = (timeSec: number, levels: Pyramid): KeyFrame => ({
  timeSec,
  half: copied(levels[1] as Luma),
  eighth: copied(levels[3] as Luma),
});
/** From a picture of the half size, as it was kept: the eighth is made from it as the pyramid makes it. */
export function keyFrameFrom(timeSec: number, half: Luma): KeyFrame {
  const quarter = emptyLuma(half.width >> 1, half.height >> 1);
  const eighth = emptyLuma(half.width >> 2, half.height >> 2);
  fillPyramid([half, quarter, eighth]);
  return { timeSec, half, eighth };
}
const copied = (l: Luma): Luma => ({ ...l, data: l.data.slice() });

const LEAST_SCALE = 0.95;
const MOST_SCALE = 2.1;
const STEP = 1.025;
const REACH = 10;
const BEST = 3;
/** Below this the coarse frames have nothing in common, and refining would only find chance. */
const LEAST_COARSE_FIT = 0.4;
/** Correlation of the fitted frames below which they show different things. */
const LEAST_FIT = 0.75;

export interface Crop {
  /** Width of the control's field over the take's: 1.25 keeps 80 % of the width. */
  factor: number;
  /** Best correlation of a fitted pair, 0 to 1. */
  fit: number;
  frames: number;
}

/** Median over frames at like times that fit; else over any that do. Null where none fits, or sizes differ in shape. */
export function cropAgainst(take: readonly KeyFrame[], control: readonly KeyFrame[]): Crop | null {
  const alike = take.flatMap((t) => {
    const c = control.find((k) => Math.abs(k.timeSec - t.timeSec) < 0.05);
    return c === undefined ? [] : [[t, c] as const];
  });
  const first = fits(alike);
  if (first.length > 0) return medianOf(first);
  const all = take.flatMap((t) => control.map((c) => [t, c] as const)).filter(([t, c]) => Math.abs(c.timeSec - t.timeSec) >= 0.05);
  const any = fits(all);
  return any.length > 0 ? medianOf(any) : null;
}

interface Fit {
  scale: number;
  fit: number;
}
const fits = (pairs: readonly (readonly [KeyFrame, KeyFrame])[]): Fit[] =>
  pairs.flatMap(([t, c]) => {
    const f = scaleBetween(t, c);
    return f !== null && f.fit >= LEAST_FIT ? [f] : [];
  });

const medianOf = (found: readonly Fit[]): Crop => ({
  factor: median(found.map((f) => f.scale)),
  fit: Math.max(...found.map((f) => f.fit)),
  frames: found.length,
});

function scaleBetween(take: KeyFrame, control: KeyFrame): Fit | null {
  const { width: w, height: h } = take.eighth;
  if (control.eighth.width !== w || control.eighth.height !== h) return null;
  const mine = new Float32Array(w * h);
  lessLocalMean(take.eighth, mine);
  const zoomed = emptyLuma(w, h);
  const theirs = new Float32Array(w * h);
  const tried: { scale: number; dx: number; dy: number; fit: number }[] = [];
  for (let scale = LEAST_SCALE; scale <= MOST_SCALE; scale *= STEP) {
    zoomInto(control.eighth, scale, zoomed);
    lessLocalMean(zoomed, theirs);
    tried.push({ scale, ...bestShift(mine, theirs, w, h) });
  }
  const refined = tried
    .filter((t) => t.fit >= LEAST_COARSE_FIT)
    .sort((a, b) => b.fit - a.fit)
    .slice(0, BEST)
    .flatMap(({ scale, dx, dy }) => {
      // The take's point p lies at (p + d) / scale of the control; shifts are counted in eighths, refined in halves.
      const start: Similarity = { a: 1 / scale, b: 0, tx: (4 * dx) / scale, ty: (4 * dy) / scale };
      const s = refine(take.half, control.half, start);
      return s === null ? [] : [{ scale: 1 / Math.hypot(s.a, s.b), fit: correlationAfter(take.half, control.half, s) }];
    })
    .sort((a, b) => b.fit - a.fit);
  return refined[0] ?? null;
}

/** The middle of `from`, enlarged. */
function zoomInto(from: Luma, scale: number, to: Luma): void {
  const [cx, cy] = [(from.width - 1) / 2, (from.height - 1) / 2];
  for (let y = 0; y < to.height; y++)
    for (let x = 0; x < to.width; x++) to.data[y * to.width + x] = sampled(from, (x - cx) / scale + cx, (y - cy) / scale + cy);
}

/** Bilinear, the border repeated. */
function sampled({ width: w, height: h, data }: Luma, x: number, y: number): number {
  const [cx, cy] = [Math.min(w - 1.001, Math.max(0, x)), Math.min(h - 1.001, Math.max(0, y))];
  const [x0, y0] = [Math.floor(cx), Math.floor(cy)];
  const [fx, fy, i] = [cx - x0, cy - y0, y0 * w + x0];
  const top = (data[i] as number) * (1 - fx) + (data[i + 1] as number) * fx;
  const low = (data[i + w] as number) * (1 - fx) + (data[i + w + 1] as number) * fx;
  return top * (1 - fy) + low * fy;
}

/** Every second shift first, then the neighbours of the best. */
function bestShift(a: Float32Array, b: Float32Array, w: number, h: number): { dx: number; dy: number; fit: number } {
  let best = { dx: 0, dy: 0, fit: -1 };
  const attempt = (dx: number, dy: number): void => {
    const fit = correlationAt(a, b, w, h, dx, dy);
    if (fit > best.fit) best = { dx, dy, fit };
  };
  for (let dy = -REACH; dy <= REACH; dy += 2) for (let dx = -REACH; dx <= REACH; dx += 2) attempt(dx, dy);
  const [mx, my] = [best.dx, best.dy];
  for (let dy = my - 1; dy <= my + 1; dy++) for (let dx = mx - 1; dx <= mx + 1; dx++) attempt(dx, dy);
  return best;
}

function correlationAt(a: Float32Array, b: Float32Array, w: number, h: number, dx: number, dy: number): number {
  let [ab, aa, bb] = [0, 0, 0];
  for (let y = Math.max(0, -dy); y < Math.min(h, h - dy); y++)
    for (let x = Math.max(0, -dx); x < Math.min(w, w - dx); x++) {
      const p = a[y * w + x] as number;
      const q = b[(y + dy) * w + x + dx] as number;
      ab += p * q;
      aa += p * p;
      bb += q * q;
    }
  return aa > 0 && bb > 0 ? ab / Math.sqrt(aa * bb) : -1;
}

/** Correlation of the brightness of `from` with `to` where `s` sends it; every second pixel each way. */
function correlationAfter(from: Luma, to: Luma, s: Similarity): number {
  const [cx, cy] = [(from.width - 1) / 2, (from.height - 1) / 2];
  let [n, sa, sb, saa, sbb, sab] = [0, 0, 0, 0, 0, 0];
  for (let y = 0; y < from.height; y += 2)
    for (let x = 0; x < from.width; x += 2) {
      const qx = s.a * (x - cx) - s.b * (y - cy) + s.tx + cx;
      const qy = s.b * (x - cx) + s.a * (y - cy) + s.ty + cy;
      if (qx < 0 || qy < 0 || qx > to.width - 1 || qy > to.height - 1) continue;
      const [p, q] = [from.data[y * from.width + x] as number, sampled(to, qx, qy)];
      n++;
      sa += p;
      sb += q;
      saa += p * p;
      sbb += q * q;
      sab += p * q;
    }
  const spread = (saa - (sa * sa) / n) * (sbb - (sb * sb) / n);
  return n > 100 && spread > 0 ? (sab - (sa * sb) / n) / Math.sqrt(spread) : 0;
}
