// One try of the coarse search, see src/motion/coarse.ts.

import { sum } from "./sum";

/** Mean absolute difference of two small pictures where `b` is shifted by (dx, dy); infinite once it must exceed `limit`. */
export function meanDifference(a: usize, b: usize, w: i32, h: i32, dx: i32, dy: i32, limit: f64): f64 {
  const x0 = max(0, -dx);
  const x1 = min(w, w - dx);
  const y0 = max(0, -dy);
  const y1 = min(h, h - dy);
  const count = (x1 - x0) * (y1 - y0);
  if (count <= 0) return Infinity;
  const most = limit * <f64>count;
  let all: f64 = 0;
  for (let y = y0; y < y1; y++) {
    const i = a + (((y * w) as usize) << 2);
    const j = b + ((((y + dy) * w + dx) as usize) << 2);
    let v = f32x4.splat(0);
    let x = x0;
    for (; x + 4 <= x1; x += 4) {
      const at = (x as usize) << 2;
      v = f32x4.add(v, f32x4.abs(f32x4.sub(v128.load(i + at), v128.load(j + at))));
    }
    all += sum(v);
    for (; x < x1; x++) {
      const at = (x as usize) << 2;
      all += Math.abs(<f64>load<f32>(i + at) - <f64>load<f32>(j + at));
    }
    if (all > most) return Infinity;
  }
  return all / <f64>count;
}
