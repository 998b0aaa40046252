// Whole pictures: averaged down, halved, blurred, judged, and as bytes.

import { sum } from "./sum";

/** Means of blocks of timesX × timesY samples of 8 bits. */
export function reduce(
  plane: usize,
  stride: i32,
  timesX: i32,
  timesY: i32,
  scale: f32,
  to: usize,
  width: i32,
  height: i32,
  line: usize,
): void {
  const across = width * timesX;
  for (let y = 0; y < height; y++) {
    // Columns first, sixteen at a time, in 16 bits.
    const rows = plane + ((y * timesY * stride) as usize);
    for (let x = 0; x < across; x += 16) {
      let low = i16x8.splat(0);
      let high = low;
      for (let r = 0; r < timesY; r++) {
        const v = v128.load(rows + ((r * stride + x) as usize));
        low = i16x8.add(low, i16x8.extend_low_i8x16_u(v));
        high = i16x8.add(high, i16x8.extend_high_i8x16_u(v));
      }
      v128.store(line + ((x as usize) << 1), low);
      v128.store(line + ((x as usize) << 1) + 16, high);
    }
    let times = timesX;
    let left = across;
    // Sums of 16 bits hold up to 257 samples of 8.
    while ((times & 1) == 0 && times > 0) {
      left >>= 1;
      times >>= 1;
      addPairs(line, left);
    }
    const out = to + (((y * width) as usize) << 2);
    const done = times == 3 ? threes(line, width, scale, out) : times == 1 ? ones(line, width, scale, out) : 0;
    for (let x = done; x < width; x++) {
      let all: u32 = 0;
      const from = line + (((x * times) as usize) << 1);
      for (let k = 0; k < times; k++) all += load<u16>(from + ((k as usize) << 1));
      store<f32>(out + ((x as usize) << 2), <f32>(<f64>all * <f64>scale));
    }
  }
}

/** Of 16-bit sums: each of the first `count` becomes the sum of two. */
function addPairs(line: usize, count: i32): void {
  for (let x = 0; x < count; x += 8) {
    const from = line + ((x as usize) << 2);
    const a = v128.load(from);
    const b = v128.load(from + 16);
    const even = v128.shuffle<u16>(a, b, 0, 2, 4, 6, 8, 10, 12, 14);
    const odd = v128.shuffle<u16>(a, b, 1, 3, 5, 7, 9, 11, 13, 15);
    v128.store(line + ((x as usize) << 1), i16x8.add(even, odd));
  }
}

/** A product of two 32-bit floats is rounded once, as the plain code's is. */
function storeEight(sums: v128, by: v128, out: usize): void {
  v128.store(out, f32x4.mul(f32x4.convert_i32x4_u(i32x4.extend_low_i16x8_u(sums)), by));
  v128.store(out + 16, f32x4.mul(f32x4.convert_i32x4_u(i32x4.extend_high_i16x8_u(sums)), by));
}

/** Eight at a time; how many were done. */
function threes(line: usize, width: i32, scale: f32, out: usize): i32 {
  const by = f32x4.splat(scale);
  let x = 0;
  for (; x + 8 <= width; x += 8) {
    const from = line + (((3 * x) as usize) << 1);
    const a = v128.load(from);
    const b = v128.load(from + 16);
    const c = v128.load(from + 32);
    // Every third of 24 samples, from the first, the second and the third on; a 0 stands where c comes in.
    const first = v128.shuffle<u16>(v128.shuffle<u16>(a, b, 0, 3, 6, 9, 12, 15, 0, 0), c, 0, 1, 2, 3, 4, 5, 10, 13);
    const second = v128.shuffle<u16>(v128.shuffle<u16>(a, b, 1, 4, 7, 10, 13, 0, 0, 0), c, 0, 1, 2, 3, 4, 8, 11, 14);
    const third = v128.shuffle<u16>(v128.shuffle<u16>(a, b, 2, 5, 8, 11, 14, 0, 0, 0), c, 0, 1, 2, 3, 4, 9, 12, 15);
    storeEight(i16x8.add(i16x8.add(first, second), third), by, out + ((x as usize) << 2));
  }
  return x;
}

function ones(line: usize, width: i32, scale: f32, out: usize): i32 {
  const by = f32x4.splat(scale);
  let x = 0;
  for (; x + 8 <= width; x += 8) storeEight(v128.load(line + ((x as usize) << 1)), by, out + ((x as usize) << 2));
  return x;
}

/** Each pixel of `to` the mean of four. */
export function halve(from: usize, fromWidth: i32, to: usize, width: i32, height: i32): void {
  const quarter = f32x4.splat(0.25);
  for (let y = 0; y < height; y++) {
    const top = from + (((2 * y * fromWidth) as usize) << 2);
    const low = top + ((fromWidth as usize) << 2);
    const out = to + (((y * width) as usize) << 2);
    for (let x = 0; x < width; x += 4) {
      const i = (x as usize) << 3;
      const a = f32x4.add(v128.load(top + i), v128.load(low + i));
      const b = f32x4.add(v128.load(top + i + 16), v128.load(low + i + 16));
      const even = v128.shuffle<f32>(a, b, 0, 2, 4, 6);
      const odd = v128.shuffle<f32>(a, b, 1, 3, 5, 7);
      const mean4 = f32x4.mul(f32x4.add(even, odd), quarter);
      if (x + 4 <= width) v128.store(out + ((x as usize) << 2), mean4);
      else {
        store<f32>(out + ((x as usize) << 2), f32x4.extract_lane(mean4, 0));
        if (x + 1 < width) store<f32>(out + ((x as usize) << 2) + 4, f32x4.extract_lane(mean4, 1));
        if (x + 2 < width) store<f32>(out + ((x as usize) << 2) + 8, f32x4.extract_lane(mean4, 2));
      }
    }
  }
}

/** Gradient energy over variance. */
export function sharpness(image: usize, w: i32, h: i32): f64 {
  let all: f64 = 0;
  let squares: f64 = 0;
  let gradients: f64 = 0;
  const down = (w as usize) << 2;
  for (let y = 1; y < h - 1; y++) {
    const row = image + (((y * w) as usize) << 2);
    let s = f32x4.splat(0);
    let q = s;
    let g = s;
    let x = 1;
    for (; x + 4 <= w - 1; x += 4) {
      const i = row + ((x as usize) << 2);
      const v = f32x4.sub(v128.load(i), f32x4.splat(128));
      const gx = f32x4.sub(v128.load(i + 4), v128.load(i - 4));
      const gy = f32x4.sub(v128.load(i + down), v128.load(i - down));
      s = f32x4.add(s, v);
      q = f32x4.add(q, f32x4.mul(v, v));
      g = f32x4.add(g, f32x4.add(f32x4.mul(gx, gx), f32x4.mul(gy, gy)));
    }
    all += sum(s);
    squares += sum(q);
    gradients += sum(g);
    for (; x < w - 1; x++) {
      const i = row + ((x as usize) << 2);
      const v = <f64>load<f32>(i) - 128;
      const gx = <f64>load<f32>(i + 4) - <f64>load<f32>(i - 4);
      const gy = <f64>load<f32>(i + down) - <f64>load<f32>(i - down);
      all += v;
      squares += v * v;
      gradients += gx * gx + gy * gy;
    }
  }
  const n = <f64>((w - 2) * (h - 2));
  const variance = n > 0 ? squares / n - (all / n) * (all / n) : 0;
  return variance > 0.25 ? gradients / 4 / n / variance : 0;
}

/** `kernel`: 2 reach + 1 floats whose sum is 1; `line`: room for w + 2 reach floats and a vector; `rows`: a picture of the same size. */
export function blur(image: usize, w: i32, h: i32, kernel: usize, reach: i32, line: usize, rows: usize, to: usize): void {
  const taps = 2 * reach + 1;
  const rowBytes = (w as usize) << 2;
  const edge = (reach as usize) << 2;
  for (let y = 0; y < h; y++) {
    const from = image + (y as usize) * rowBytes;
    const first = load<f32>(from);
    const last = load<f32>(from + rowBytes - 4);
    memory.copy(line + edge, from, rowBytes);
    for (let k: usize = 0; k < edge; k += 4) {
      store<f32>(line + k, first);
      store<f32>(line + edge + rowBytes + k, last);
    }
    const out = rows + (y as usize) * rowBytes;
    for (let x = 0; x < w; x += 4) {
      let v = f32x4.splat(0);
      for (let k = 0; k < taps; k++)
        v = f32x4.add(v, f32x4.mul(v128.load_splat<f32>(kernel + ((k as usize) << 2)), v128.load(line + (((x + k) as usize) << 2))));
      v128.store(out + ((x as usize) << 2), v);
    }
  }
  for (let y = 0; y < h; y++) {
    const out = to + (y as usize) * rowBytes;
    for (let x = 0; x < w; x += 4) {
      let v = f32x4.splat(0);
      for (let k = 0; k < taps; k++) {
        const at = min(h - 1, max(0, y + k - reach));
        const row = rows + (at as usize) * rowBytes;
        v = f32x4.add(v, f32x4.mul(v128.load_splat<f32>(kernel + ((k as usize) << 2)), v128.load(row + ((x as usize) << 2))));
      }
      v128.store(out + ((x as usize) << 2), v);
    }
  }
}

/** Grey levels as bytes, rounded, sixteen at a time: `to` has room for 16 more. */
export function bytes(image: usize, count: i32, to: usize): void {
  const half = f32x4.splat(0.5);
  for (let i = 0; i < count; i += 16) {
    const at = image + ((i as usize) << 2);
    const a = i32x4.trunc_sat_f32x4_s(f32x4.add(v128.load(at), half));
    const b = i32x4.trunc_sat_f32x4_s(f32x4.add(v128.load(at + 16), half));
    const c = i32x4.trunc_sat_f32x4_s(f32x4.add(v128.load(at + 32), half));
    const d = i32x4.trunc_sat_f32x4_s(f32x4.add(v128.load(at + 48), half));
    v128.store(to + (i as usize), i8x16.narrow_i16x8_u(i16x8.narrow_i32x4_s(a, b), i16x8.narrow_i32x4_s(c, d)));
  }
}
