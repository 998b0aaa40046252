// The vector loops against the plain ones: alone on odd sizes and noise, and together on made clips.

import type { SimdKernels } from "@keep-rolling/core/motion";
import { clipMeter, measuresOf, NARROW, PLAIN_KERNELS } from "@keep-rolling/core/motion";
import type { MadeTake } from "@keep-rolling/core/stand-ins/takes";
import { PLAIN, rendererOf } from "@keep-rolling/core/stand-ins/takes";
import { randomFrom } from "@keep-rolling/core/statistics";
import { describe, expect, it } from "vitest";
import { vectorKernels } from "./vectorKernels.ts";

const SIZES = [
  [64, 64],
  [322, 181],
  [639, 427],
  [427, 640],
] as const;
const filled = (k: SimdKernels | typeof PLAIN_KERNELS, w: number, h: number, seed: number) => {
  const random = randomFrom(seed);
  const image = k.luma(w, h);
  for (let i = 0; i < image.data.length; i++) image.data[i] = 255 * random.next();
  return image;
};
/** Of made clips: of every kind a second and a half in the long proofs, else of the one with most motions as much as shows them. */
const WHOLE = process.env.PROOF === "1";
const FRAMES = WHOLE ? 45 : 24;
const apart = (a: ArrayLike<number>, b: ArrayLike<number>): number =>
  Array.from(a).reduce((most, v, i) => Math.max(most, Math.abs(v - (b[i] ?? Number.NaN))), 0);

describe("vector loops", () => {
  it.each(SIZES)("halve, blur and judge a picture of %i × %i as the plain ones do", async (w, h) => {
    const simd = await vectorKernels(w, h);
    const [a, b] = [filled(simd, w, h, 3), filled(PLAIN_KERNELS, w, h, 3)];
    const [halfA, halfB] = [simd.luma(w >> 1, h >> 1), PLAIN_KERNELS.luma(w >> 1, h >> 1)];
    // What lies behind a picture stays: the next one is there.
    const guard = simd.luma(4, 1);
    guard.data.fill(77);
    simd.halve(a, halfA);
    PLAIN_KERNELS.halve(b, halfB);
    expect(apart(halfA.data, halfB.data)).toBeLessThan(1e-4);
    for (const sigma of [1, 2.5]) expect(apart(simd.blurred(a, sigma).data, PLAIN_KERNELS.blurred(b, sigma).data)).toBeLessThan(1e-3);
    expect(Math.abs(simd.sharpness(a) / PLAIN_KERNELS.sharpness(b) - 1)).toBeLessThan(1e-5);
    const [bytesA, bytesB] = [new Uint8Array(w * h), new Uint8Array(w * h)];
    simd.bytes(a, bytesA);
    PLAIN_KERNELS.bytes(b, bytesB);
    expect(apart(bytesA, bytesB)).toBe(0);
    const [pointsA, pointsB] = [simd.finder(w, h)(a), PLAIN_KERNELS.finder(w, h)(b)];
    expect({ ...pointsA }).toEqual({ ...pointsB });
    const moved = filled(simd, w, h, 8);
    for (const [dx, dy] of [
      [0, 0],
      [3, -5],
      [-8, 8],
    ] as const) {
      const difference = simd.meanDifference(a.data, moved.data, w, h, dx, dy, 1e9);
      expect(Math.abs(difference / PLAIN_KERNELS.meanDifference(a.data, moved.data, w, h, dx, dy, 1e9) - 1)).toBeLessThan(1e-5);
      expect(simd.meanDifference(a.data, moved.data, w, h, dx, dy, 1)).toBe(Number.POSITIVE_INFINITY);
    }
    expect(apart(a.data, b.data)).toBe(0);
    expect([...guard.data]).toEqual([77, 77, 77, 77]);
  });
  it.each([
    [1920, 1080, 1984],
    [1280, 720, 1280],
    [3840, 2160, 3840],
    [640, 360, 672],
  ])("average samples of %i × %i down exactly", async (width, height, stride) => {
    const random = randomFrom(9);
    const simd = await vectorKernels(640, 360, stride * height);
    for (let i = 0; i < simd.samples.length; i += 3) simd.samples[i] = random.int(0, 255);
    simd.samples.fill(255, 0, stride * 20);
    const shape = { width, height, stride, bits: 8, turns: 0 as const };
    const [a, b] = [simd.luma(640, 360), PLAIN_KERNELS.luma(640, 360)];
    simd.reducer(shape)(simd.samples, a);
    PLAIN_KERNELS.reducer(shape)(simd.samples, b);
    expect(apart(a.data, b.data)).toBeLessThan(1e-4);
  });
  it("leave other shapes to the plain loops: part samples, ten bits, turned", async () => {
    const simd = await vectorKernels(640, 427, 1000 * 668 * 2);
    for (let i = 0; i < simd.samples.length; i++) simd.samples[i] = (i * 7) % 4;
    const deep = new Uint16Array(simd.samples.buffer, simd.samples.byteOffset, 1000 * 668);
    for (const [shape, plane] of [
      [{ width: 1000, height: 667, stride: 1000, bits: 8, turns: 0 }, simd.samples],
      [{ width: 1000, height: 667, stride: 1000, bits: 10, turns: 0 }, deep],
      [{ width: 1000, height: 667, stride: 1000, bits: 8, turns: 2 }, simd.samples],
    ] as const) {
      const [a, b] = [simd.luma(640, 427), PLAIN_KERNELS.luma(640, 427)];
      simd.reducer(shape)(plane, a);
      PLAIN_KERNELS.reducer(shape)(plane, b);
      expect(apart(a.data, b.data)).toBe(0);
    }
  });
  it("follow made clips to a hundred-thousandth of the plain numbers, whatever moves in them", async () => {
    const kinds: Partial<MadeTake>[] = [
      {},
      { crop: 1.2, stabiliser: { cornerHz: 0.8, floor: 0.2, rollFloor: 0.2 }, cornerWobblePx640: 1.5 },
      { pan: { atSec: 0.4, speed: 0.3, holdSec: 0.2 } },
      { width: 360, height: 640 },
    ];
    for (const kind of WHOLE ? kinds : kinds.slice(1, 2)) {
      const made: MadeTake = { ...PLAIN, seed: 5, frames: FRAMES, ...kind };
      const renderer = rendererOf(made);
      const simd = clipMeter(made.width, made.height, NARROW, await vectorKernels(made.width, made.height));
      const plain = clipMeter(made.width, made.height, NARROW);
      for (let n = 0; n < made.frames; n++) {
        renderer.draw(n, plain.frame());
        simd.frame().data.set(plain.frame().data);
        for (const meter of [plain, simd]) meter.push(n / made.rateHz);
      }
      const [a, b] = [simd.finish(), plain.finish()];
      expect(apart(a.series.dxFrac, b.series.dxFrac)).toBeLessThan(1e-6);
      expect(apart(a.series.dyFrac, b.series.dyFrac)).toBeLessThan(1e-6);
      expect(apart(a.series.rollRad, b.series.rollRad)).toBeLessThan(1e-6);
      expect(a.series.by).toEqual(b.series.by);
      const [ma, mb] = [measuresOf(a), measuresOf(b)];
      expect(ma.flags).toEqual(mb.flags);
      for (const key of ["jitterRmsFrac", "rollRmsDeg", "sharpnessArea", "edgeSigmaPx640"] as const)
        expect(Math.abs((ma[key] ?? 1) - (mb[key] ?? 1))).toBeLessThanOrEqual(1e-5 * (mb[key] ?? 1));
    }
  });
  it("refuse a memory that is too small", async () => {
    await expect(vectorKernels(640, 360, 16, 2)).rejects.toThrow(/memory must hold/);
  });
});
