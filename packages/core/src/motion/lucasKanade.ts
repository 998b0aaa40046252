// Follows points from one frame to the next by inverse-compositional Lucas–Kanade, translation only, mean-subtracted windows.
// Baker and Matthews (2004), "Lucas-Kanade 20 years on", §3.
//
// Within one whole-pixel position of the window the sums that drive an iteration are bilinear in the fraction: four pairs of sums serve
// every iteration there. So an iteration costs a few products instead of a window, and it can run to convergence.

import type { Features } from "./features.ts";
import type { Luma, Pyramid } from "./luma.ts";

const SIDE = 19;
const AREA = SIDE * SIDE;
const HALF = (SIDE - 1) / 2;
/** The window and a pixel about it, for its gradients. */
const WIDE = SIDE + 2;
/** Coarsest level first. The coarse search is right within two pixels of level 1, so level 2 is for pictures that also turn or zoom hard. */
export const USUAL_LEVELS = [1, 0] as const;
export const ALL_LEVELS = [2, 1, 0] as const;
export type Levels = typeof USUAL_LEVELS | typeof ALL_LEVELS;
/** How many window positions a point may visit on each level. */
const MOST_STEPS = { 0: 8, 1: 6, 2: 5 } as const;
const STOP_PX = 0.005;
const LEAST_CORRELATION = 0.6;

export interface Vectors {
  count: number;
  /** Points in pixels of the full frame, and how far each went. */
  x: Float64Array;
  y: Float64Array;
  dx: Float64Array;
  dy: Float64Array;
  /** Index of the grid cell of each. */
  cell: Int32Array;
}

export const emptyVectors = (size: number): Vectors => ({
  count: 0,
  x: new Float64Array(size),
  y: new Float64Array(size),
  dx: new Float64Array(size),
  dy: new Float64Array(size),
  cell: new Int32Array(size),
});

// Scratch of the point at hand; nothing outlives a call of `track`.
const template = new Float64Array(AREA);
const gradX = new Float64Array(AREA);
const gradY = new Float64Array(AREA);
const wide = new Float64Array(WIDE * WIDE);
const sums = new Float64Array(8);

/** Normal equations of the window at hand, and the products of its gradients with the template. */
const normal = { xx: 0, xy: 0, yy: 0, det: 0, tx: 0, ty: 0, mean: 0, energy: 0 };

/**
 * Follows each feature (in pixels of level 1 of `from`) into `to`, starting from the shift (dx, dy) in pixels of the full frame.
 * Points that leave the frame, lie on nothing, or look different there (correlation below 0.6) are left out of `out`.
 */
export function track(from: Pyramid, to: Pyramid, features: Features, dx: number, dy: number, levels: Levels, out: Vectors): void {
  out.count = 0;
  for (let i = 0; i < features.count; i++) {
    const x = 2 * (features.x[i] as number) + 0.5;
    const y = 2 * (features.y[i] as number) + 0.5;
    const moved = follow(from, to, x, y, dx, dy, levels);
    if (moved === null) continue;
    out.x[out.count] = Math.floor(x) + 0.5;
    out.y[out.count] = Math.floor(y) + 0.5;
    out.dx[out.count] = moved.dx;
    out.dy[out.count] = moved.dy;
    out.cell[out.count++] = features.cell[i] as number;
  }
}

const moved = { dx: 0, dy: 0 };

function follow(from: Pyramid, to: Pyramid, x: number, y: number, dx: number, dy: number, levels: Levels): typeof moved | null {
  moved.dx = dx;
  moved.dy = dy;
  for (const level of levels) {
    const scale = 1 << level;
    // Templates lie half-way between pixels on every level: whole-pixel ones are sharper than what they are compared with.
    const px = Math.floor((x + 0.5) / scale - 0.5) + 0.5;
    const py = Math.floor((y + 0.5) / scale - 0.5) + 0.5;
    if (!readTemplate(from[level] as Luma, px, py)) {
      if (level === 0) return null;
      continue;
    }
    moved.dx /= scale;
    moved.dy /= scale;
    const inside = converge(to[level] as Luma, px, py, MOST_STEPS[level]);
    moved.dx *= scale;
    moved.dy *= scale;
    if (level > 0) continue;
    if (!inside || correlation(to[0] as Luma, px, py) < LEAST_CORRELATION) return null;
  }
  return moved;
}

/** Reads the window about (px, py), both half-way between pixels; false when it leaves the frame or has no texture. */
function readTemplate(image: Luma, px: number, py: number): boolean {
  const { width: w, height: h, data } = image;
  const x0 = px - 0.5 - HALF - 1;
  const y0 = py - 0.5 - HALF - 1;
  if (x0 < 0 || y0 < 0 || x0 + WIDE >= w || y0 + WIDE >= h) return false;
  for (let r = 0, at = 0; r < WIDE; r++) {
    let i = (y0 + r) * w + x0;
    let left = (data[i] as number) + (data[i + w] as number);
    for (let c = 0; c < WIDE; c++) {
      i++;
      const right = (data[i] as number) + (data[i + w] as number);
      wide[at++] = 0.25 * (left + right);
      left = right;
    }
  }
  let t1 = 0;
  let x1 = 0;
  let y1 = 0;
  let tt = 0;
  let xx = 0;
  let xy = 0;
  let yy = 0;
  let xt = 0;
  let yt = 0;
  for (let r = 0, at = 0; r < SIDE; r++) {
    let i = (r + 1) * WIDE + 1;
    for (let c = 0; c < SIDE; c++, at++, i++) {
      const t = wide[i] as number;
      const gx = 0.5 * ((wide[i + 1] as number) - (wide[i - 1] as number));
      const gy = 0.5 * ((wide[i + WIDE] as number) - (wide[i - WIDE] as number));
      template[at] = t;
      gradX[at] = gx;
      gradY[at] = gy;
      t1 += t;
      x1 += gx;
      y1 += gy;
      tt += t * t;
      xx += gx * gx;
      xy += gx * gy;
      yy += gy * gy;
      xt += gx * t;
      yt += gy * t;
    }
  }
  // All less their means: a change of brightness of the whole window then moves nothing.
  const mx = x1 / AREA;
  const my = y1 / AREA;
  for (let i = 0; i < AREA; i++) {
    gradX[i] = (gradX[i] as number) - mx;
    gradY[i] = (gradY[i] as number) - my;
  }
  normal.mean = t1 / AREA;
  normal.energy = tt - t1 * normal.mean;
  normal.xx = xx - x1 * mx;
  normal.xy = xy - x1 * my;
  normal.yy = yy - y1 * my;
  normal.tx = xt - t1 * mx;
  normal.ty = yt - t1 * my;
  const det = normal.xx * normal.yy - normal.xy * normal.xy;
  normal.det = det;
  return det > 1e-6 * AREA * AREA;
}

/** Moves `moved` until it stands still; false when the window leaves the frame. */
function converge(image: Luma, px: number, py: number, mostSteps: number): boolean {
  const { width: w, height: h } = image;
  let [atX, atY] = [Number.NaN, Number.NaN];
  let cells = 0;
  for (let step = 0; step < 4 * mostSteps; step++) {
    const wx = px + moved.dx - HALF;
    const wy = py + moved.dy - HALF;
    const x0 = Math.floor(wx);
    const y0 = Math.floor(wy);
    if (x0 < 0 || y0 < 0 || x0 + SIDE >= w || y0 + SIDE >= h) return false;
    if (x0 !== atX || y0 !== atY) {
      if (++cells > mostSteps) return true;
      readSums(image, x0, y0);
      [atX, atY] = [x0, y0];
    }
    const [fx, fy] = [wx - x0, wy - y0];
    const [a, b, c, d] = [(1 - fx) * (1 - fy), fx * (1 - fy), (1 - fx) * fy, fx * fy];
    const ex = a * (sums[0] as number) + b * (sums[1] as number) + c * (sums[2] as number) + d * (sums[3] as number) - normal.tx;
    const ey = a * (sums[4] as number) + b * (sums[5] as number) + c * (sums[6] as number) + d * (sums[7] as number) - normal.ty;
    const sx = (normal.yy * ex - normal.xy * ey) / normal.det;
    const sy = (normal.xx * ey - normal.xy * ex) / normal.det;
    moved.dx -= sx;
    moved.dy -= sy;
    if (sx * sx + sy * sy < STOP_PX * STOP_PX) return true;
  }
  return true;
}

/** Products of both gradients with the window at (x0, y0) and its three neighbours right, below, and right below. */
function readSums(image: Luma, x0: number, y0: number): void {
  const { width: w, data } = image;
  let x00 = 0;
  let x10 = 0;
  let x01 = 0;
  let x11 = 0;
  let y00 = 0;
  let y10 = 0;
  let y01 = 0;
  let y11 = 0;
  for (let r = 0, at = 0; r < SIDE; r++) {
    let i = (y0 + r) * w + x0;
    let top = data[i] as number;
    let low = data[i + w] as number;
    for (let c = 0; c < SIDE; c++, at++) {
      i++;
      const topNext = data[i] as number;
      const lowNext = data[i + w] as number;
      const gx = gradX[at] as number;
      const gy = gradY[at] as number;
      x00 += gx * top;
      x10 += gx * topNext;
      x01 += gx * low;
      x11 += gx * lowNext;
      y00 += gy * top;
      y10 += gy * topNext;
      y01 += gy * low;
      y11 += gy * lowNext;
      top = topNext;
      low = lowNext;
    }
  }
  sums[0] = x00;
  sums[1] = x10;
  sums[2] = x01;
  sums[3] = x11;
  sums[4] = y00;
  sums[5] = y10;
  sums[6] = y01;
  sums[7] = y11;
}

/** Correlation of the template with the window where it came to rest. */
function correlation(image: Luma, px: number, py: number): number {
  const { width: w, height: h, data } = image;
  const [wx, wy] = [px + moved.dx - HALF, py + moved.dy - HALF];
  const [x0, y0] = [Math.floor(wx), Math.floor(wy)];
  if (x0 < 0 || y0 < 0 || x0 + SIDE >= w || y0 + SIDE >= h) return 0;
  const [fx, fy] = [wx - x0, wy - y0];
  const [a, b, c, d] = [(1 - fx) * (1 - fy), fx * (1 - fy), (1 - fx) * fy, fx * fy];
  let [sum, squares, product] = [0, 0, 0];
  for (let r = 0, at = 0; r < SIDE; r++) {
    let i = (y0 + r) * w + x0;
    for (let k = 0; k < SIDE; k++, at++, i++) {
      const v = a * (data[i] as number) + b * (data[i + 1] as number) + c * (data[i + w] as number) + d * (data[i + w + 1] as number);
      sum += v;
      squares += v * v;
      product += v * ((template[at] as number) - normal.mean);
    }
  }
  const energy = (squares - (sum * sum) / AREA) * normal.energy;
  return energy > 0 ? product / Math.sqrt(energy) : 0;
}
