// Lucas–Kanade, see src/motion/lucasKanade.ts.

import { sum } from "./sum";

const SIDE: i32 = 19;
const AREA: f64 = 361;
const HALF: f64 = 9;
/** Floats in a row of the window's arrays: the twentieth is empty. */
const ROW: i32 = 20;
const WIDE: i32 = 21;
const WIDE_ROW: i32 = 24;
const STOP_PX: f64 = 0.005;
const LEAST_CORRELATION: f64 = 0.6;

const template = memory.data(19 * 20 * 4, 16);
const gradX = memory.data(19 * 20 * 4, 16);
const gradY = memory.data(19 * 20 * 4, 16);
const wide = memory.data(21 * 24 * 4 + 64, 16);

let base: f32 = 0;
let nXX: f64 = 0;
let nXY: f64 = 0;
let nYY: f64 = 0;
let det: f64 = 0;
let nTX: f64 = 0;
let nTY: f64 = 0;
let mean: f64 = 0;
let energy: f64 = 0;
let movedX: f64 = 0;
let movedY: f64 = 0;
let s0: f64 = 0;
let s1: f64 = 0;
let s2: f64 = 0;
let s3: f64 = 0;
let s4: f64 = 0;
let s5: f64 = 0;
let s6: f64 = 0;
let s7: f64 = 0;

/** The last vector of a row holds three pixels of the window. */
function maskOf(k: i32): v128 {
  return k == 4 ? f32x4(1, 1, 1, 0) : f32x4.splat(1);
}

function readTemplate(image: usize, w: i32, h: i32, px: f64, py: f64): bool {
  const x0 = <i32>(px - 0.5 - HALF - 1);
  const y0 = <i32>(py - 0.5 - HALF - 1);
  if (x0 < 0 || y0 < 0 || x0 + WIDE >= w || y0 + WIDE >= h) return false;
  // Grey levels less that of the window's middle: small numbers keep their digits.
  base = load<f32>(image + ((((y0 + WIDE / 2) * w + x0 + WIDE / 2) as usize) << 2));
  const less = f32x4.splat(base);
  const quarter = f32x4.splat(0.25);
  for (let r = 0; r < WIDE; r++) {
    const top = image + ((((y0 + r) * w + x0) as usize) << 2);
    const low = top + ((w as usize) << 2);
    const to = wide + (((r * WIDE_ROW) as usize) << 2);
    for (let c: usize = 0; c < 96; c += 16) {
      const four = f32x4.add(f32x4.add(v128.load(top + c), v128.load(top + c + 4)), f32x4.add(v128.load(low + c), v128.load(low + c + 4)));
      v128.store(to + c, f32x4.sub(f32x4.mul(four, quarter), less));
    }
  }
  let t1 = f32x4.splat(0);
  let x1 = t1;
  let y1 = t1;
  let tt = t1;
  let xx = t1;
  let xy = t1;
  let yy = t1;
  let xt = t1;
  let yt = t1;
  const half = f32x4.splat(0.5);
  for (let r = 0; r < SIDE; r++) {
    const from = wide + ((((r + 1) * WIDE_ROW + 1) as usize) << 2);
    const at = ((r * ROW) as usize) << 2;
    for (let k = 0; k < 5; k++) {
      const c = (k as usize) << 4;
      const mask = maskOf(k);
      const t = f32x4.mul(v128.load(from + c), mask);
      const scaled = f32x4.mul(half, mask);
      const gx = f32x4.mul(scaled, f32x4.sub(v128.load(from + c + 4), v128.load(from + c - 4)));
      const gy = f32x4.mul(scaled, f32x4.sub(v128.load(from + c + 96), v128.load(from + c - 96)));
      v128.store(template + at + c, t);
      v128.store(gradX + at + c, gx);
      v128.store(gradY + at + c, gy);
      t1 = f32x4.add(t1, t);
      x1 = f32x4.add(x1, gx);
      y1 = f32x4.add(y1, gy);
      tt = f32x4.add(tt, f32x4.mul(t, t));
      xx = f32x4.add(xx, f32x4.mul(gx, gx));
      xy = f32x4.add(xy, f32x4.mul(gx, gy));
      yy = f32x4.add(yy, f32x4.mul(gy, gy));
      xt = f32x4.add(xt, f32x4.mul(gx, t));
      yt = f32x4.add(yt, f32x4.mul(gy, t));
    }
  }
  const mx = sum(x1) / AREA;
  const my = sum(y1) / AREA;
  const sx = f32x4.splat(<f32>mx);
  const sy = f32x4.splat(<f32>my);
  for (let r = 0; r < SIDE; r++) {
    const at = ((r * ROW) as usize) << 2;
    for (let k = 0; k < 5; k++) {
      const c = at + ((k as usize) << 4);
      const mask = maskOf(k);
      v128.store(gradX + c, f32x4.sub(v128.load(gradX + c), f32x4.mul(sx, mask)));
      v128.store(gradY + c, f32x4.sub(v128.load(gradY + c), f32x4.mul(sy, mask)));
    }
  }
  const t = sum(t1);
  mean = t / AREA;
  energy = sum(tt) - t * mean;
  nXX = sum(xx) - sum(x1) * mx;
  nXY = sum(xy) - sum(x1) * my;
  nYY = sum(yy) - sum(y1) * my;
  nTX = sum(xt) - t * mx;
  nTY = sum(yt) - t * my;
  det = nXX * nYY - nXY * nXY;
  return det > 1e-6 * AREA * AREA;
}

function readSums(image: usize, w: i32, x0: i32, y0: i32): void {
  const less = f32x4.splat(base);
  let x00 = f32x4.splat(0);
  let x10 = x00;
  let x01 = x00;
  let x11 = x00;
  let y00 = x00;
  let y10 = x00;
  let y01 = x00;
  let y11 = x00;
  for (let r = 0; r < SIDE; r++) {
    const top = image + ((((y0 + r) * w + x0) as usize) << 2);
    const low = top + ((w as usize) << 2);
    const at = ((r * ROW) as usize) << 2;
    for (let c: usize = 0; c < 80; c += 16) {
      const gx = v128.load(gradX + at + c);
      const gy = v128.load(gradY + at + c);
      const a = f32x4.sub(v128.load(top + c), less);
      const b = f32x4.sub(v128.load(top + c + 4), less);
      const d = f32x4.sub(v128.load(low + c), less);
      const e = f32x4.sub(v128.load(low + c + 4), less);
      x00 = f32x4.add(x00, f32x4.mul(gx, a));
      x10 = f32x4.add(x10, f32x4.mul(gx, b));
      x01 = f32x4.add(x01, f32x4.mul(gx, d));
      x11 = f32x4.add(x11, f32x4.mul(gx, e));
      y00 = f32x4.add(y00, f32x4.mul(gy, a));
      y10 = f32x4.add(y10, f32x4.mul(gy, b));
      y01 = f32x4.add(y01, f32x4.mul(gy, d));
      y11 = f32x4.add(y11, f32x4.mul(gy, e));
    }
  }
  s0 = sum(x00);
  s1 = sum(x10);
  s2 = sum(x01);
  s3 = sum(x11);
  s4 = sum(y00);
  s5 = sum(y10);
  s6 = sum(y01);
  s7 = sum(y11);
}

function converge(image: usize, w: i32, h: i32, px: f64, py: f64, mostSteps: i32): bool {
  let atX: i32 = -1;
  let atY: i32 = -1;
  let cells = 0;
  for (let step = 0; step < 4 * mostSteps; step++) {
    const wx = px + movedX - HALF;
    const wy = py + movedY - HALF;
    const x0 = <i32>Math.floor(wx);
    const y0 = <i32>Math.floor(wy);
    if (x0 < 0 || y0 < 0 || x0 + SIDE >= w || y0 + SIDE >= h) return false;
    if (x0 != atX || y0 != atY) {
      if (++cells > mostSteps) return true;
      readSums(image, w, x0, y0);
      atX = x0;
      atY = y0;
    }
    const fx = wx - <f64>x0;
    const fy = wy - <f64>y0;
    const a = (1 - fx) * (1 - fy);
    const b = fx * (1 - fy);
    const c = (1 - fx) * fy;
    const d = fx * fy;
    const ex = a * s0 + b * s1 + c * s2 + d * s3 - nTX;
    const ey = a * s4 + b * s5 + c * s6 + d * s7 - nTY;
    const sx = (nYY * ex - nXY * ey) / det;
    const sy = (nXX * ey - nXY * ex) / det;
    movedX -= sx;
    movedY -= sy;
    if (sx * sx + sy * sy < STOP_PX * STOP_PX) return true;
  }
  return true;
}

function correlation(image: usize, w: i32, h: i32, px: f64, py: f64): f64 {
  const wx = px + movedX - HALF;
  const wy = py + movedY - HALF;
  const x0 = <i32>Math.floor(wx);
  const y0 = <i32>Math.floor(wy);
  if (x0 < 0 || y0 < 0 || x0 + SIDE >= w || y0 + SIDE >= h) return 0;
  const fx = <f32>(wx - <f64>x0);
  const fy = <f32>(wy - <f64>y0);
  const a = f32x4.splat((1 - fx) * (1 - fy));
  const b = f32x4.splat(fx * (1 - fy));
  const c = f32x4.splat((1 - fx) * fy);
  const d = f32x4.splat(fx * fy);
  const less = f32x4.splat(base);
  const middle = f32x4.splat(<f32>mean);
  let all = f32x4.splat(0);
  let squares = all;
  let product = all;
  for (let r = 0; r < SIDE; r++) {
    const top = image + ((((y0 + r) * w + x0) as usize) << 2);
    const low = top + ((w as usize) << 2);
    const at = template + (((r * ROW) as usize) << 2);
    for (let k = 0; k < 5; k++) {
      const i = (k as usize) << 4;
      const mask = maskOf(k);
      const upper = f32x4.add(f32x4.mul(a, v128.load(top + i)), f32x4.mul(b, v128.load(top + i + 4)));
      const lower = f32x4.add(f32x4.mul(c, v128.load(low + i)), f32x4.mul(d, v128.load(low + i + 4)));
      const v = f32x4.mul(f32x4.sub(f32x4.add(upper, lower), less), mask);
      all = f32x4.add(all, v);
      squares = f32x4.add(squares, f32x4.mul(v, v));
      product = f32x4.add(product, f32x4.mul(v, f32x4.sub(v128.load(at + i), middle)));
    }
  }
  const total = sum(all);
  const both = (sum(squares) - (total * total) / AREA) * energy;
  return both > 0 ? sum(product) / Math.sqrt(both) : 0;
}

/**
 * `levels`: four 32-bit numbers a level from 0: picture before, picture after, width, height. `points`: x and y of each in pixels of level 1, as
 * 64-bit floats; `out`: dx and dy of each, NaN for those left out. `coarsest`: 1 or 2.
 */
export function track(levels: usize, points: usize, count: i32, dx: f64, dy: f64, coarsest: i32, out: usize): void {
  for (let i = 0; i < count; i++) {
    const point = points + ((i as usize) << 4);
    const x = 2 * load<f64>(point) + 0.5;
    const y = 2 * load<f64>(point + 8) + 0.5;
    const kept = follow(levels, x, y, dx, dy, coarsest);
    store<f64>(out + ((i as usize) << 4), kept ? movedX : NaN);
    store<f64>(out + ((i as usize) << 4) + 8, kept ? movedY : NaN);
  }
}

function follow(levels: usize, x: f64, y: f64, dx: f64, dy: f64, coarsest: i32): bool {
  movedX = dx;
  movedY = dy;
  for (let level = coarsest; level >= 0; level--) {
    const entry = levels + ((level as usize) << 4);
    const from = load<u32>(entry) as usize;
    const to = load<u32>(entry + 4) as usize;
    const w = load<i32>(entry + 8);
    const h = load<i32>(entry + 12);
    const scale = <f64>(1 << level);
    const px = Math.floor((x + 0.5) / scale - 0.5) + 0.5;
    const py = Math.floor((y + 0.5) / scale - 0.5) + 0.5;
    if (!readTemplate(from, w, h, px, py)) {
      if (level == 0) return false;
      continue;
    }
    movedX /= scale;
    movedY /= scale;
    const inside = converge(to, w, h, px, py, level == 0 ? 8 : level == 1 ? 6 : 5);
    movedX *= scale;
    movedY *= scale;
    if (level > 0) continue;
    if (!inside || correlation(to, w, h, px, py) < LEAST_CORRELATION) return false;
  }
  return true;
}
