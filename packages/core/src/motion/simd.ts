// The loops of packages/core/simd on one memory: pictures are given out from it, and never given back. One memory a clip.

import { gaussianOf } from "./blur.ts";
import { LEAST_TEXTURE, noFeatures } from "./features.ts";
import type { MotionKernels } from "./kernels.ts";
import { PLAIN_KERNELS } from "./kernels.ts";
import type { Luma, Pyramid } from "./luma.ts";
import type { PlaneShape, Reduce } from "./reduce.ts";
import { measuredSize, wholeTimes } from "./reduce.ts";

/** What the compiled module gives; see packages/core/simd/motion.ts. */
export interface MotionExports {
  heapBase: () => number;
  track: (levels: number, points: number, count: number, dx: number, dy: number, coarsest: number, out: number) => void;
  reduce: (
    plane: number,
    stride: number,
    timesX: number,
    timesY: number,
    scale: number,
    to: number,
    w: number,
    h: number,
    line: number,
  ) => void;
  halve: (from: number, fromWidth: number, to: number, width: number, height: number) => void;
  meanDifference: (a: number, b: number, w: number, h: number, dx: number, dy: number, limit: number) => number;
  features: (
    image: number,
    w: number,
    h: number,
    sums: number,
    columns: number,
    rows: number,
    least: number,
    out: number,
    cells: number,
  ) => number;
  bytes: (image: number, count: number, to: number) => void;
  sharpness: (image: number, width: number, height: number) => number;
  blur: (image: number, w: number, h: number, kernel: number, reach: number, line: number, rows: number, to: number) => void;
}

export interface SimdKernels extends MotionKernels {
  /** Room for the samples of a frame as they come from a decoder. */
  samples: Uint8Array<ArrayBuffer>;
}

const PAGE = 65_536;
/** Reads of whole vectors go past the end of a picture. */
const SPARE = 64;
const MOST_POINTS = 144;
const MOST_REACH = 16;

/** Bytes for two pyramids, blurs and scratch of a frame of this size, and `sampleBytes` for what the decoder gives, in pages of 64 kB. */
export function pagesFor(width: number, height: number, sampleBytes: number): number {
  const picture = 4 * width * height + SPARE + 16;
  return Math.ceil((sampleBytes + 11 * picture + 64 * PAGE) / PAGE);
}

/** Throws a RangeError when the memory is smaller than `pagesFor` says. */
export function simdKernels(
  wasm: MotionExports,
  memory: { readonly buffer: ArrayBuffer },
  width: number,
  height: number,
  sampleBytes: number,
): SimdKernels {
  const { buffer } = memory;
  let free = wasm.heapBase();
  const take = (bytes: number): number => {
    const at = (free + 15) & ~15;
    free = at + bytes + SPARE;
    if (free > buffer.byteLength) throw new RangeError(`memory must hold ${free} bytes, got ${buffer.byteLength}`);
    return at;
  };
  const luma = (w: number, h: number): Luma => ({ width: w, height: h, data: new Float32Array(buffer, take(4 * w * h), w * h) });
  const at = (image: Luma): number => image.data.byteOffset;
  const table = new Uint32Array(buffer, take(64), 12);
  const points = new Float64Array(buffer, take(16 * MOST_POINTS), 2 * MOST_POINTS);
  const found = new Float64Array(buffer, take(16 * MOST_POINTS), 2 * MOST_POINTS);
  const cells = new Int32Array(buffer, take(4 * MOST_POINTS), MOST_POINTS);
  const coded = new Uint8Array(buffer, take(width * height), width * height);
  const line = take(2 * 8192 + 4 * (width + 2 * MOST_REACH));
  const weights = new Float32Array(buffer, take(4 * (2 * MOST_REACH + 1)), 2 * MOST_REACH + 1);
  const rows = luma(width, height);
  const blurs = [luma(width, height), luma(width, height)] as const;
  let turn = 0;
  const levelsInto = (from: Pyramid, to: Pyramid): void => {
    for (let level = 0; level < 3; level++) {
      const [a, b] = [from[level] as Luma, to[level] as Luma];
      table.set([at(a), at(b), a.width, a.height], 4 * level);
    }
  };
  const samples = new Uint8Array(buffer, take(sampleBytes), sampleBytes);
  const whole = (shape: PlaneShape): Reduce | null => {
    const times = wholeTimes(shape);
    if (times === null || shape.turns !== 0 || shape.bits !== 8) return null;
    const size = measuredSize(shape);
    const scale = 1 / (times.x * times.y);
    return (plane, to) => {
      if (plane.buffer !== buffer) return PLAIN_KERNELS.reducer(shape)(plane, to);
      wasm.reduce(plane.byteOffset, shape.stride, times.x, times.y, scale, at(to), size.width, size.height, line);
    };
  };
  return {
    samples,
    luma,
    halve: (from, to) => wasm.halve(at(from), from.width, at(to), to.width, to.height),
    meanDifference: (a, b, w, h, dx, dy, limit) => wasm.meanDifference(a.byteOffset, b.byteOffset, w, h, dx, dy, limit),
    finder: (w, h) => {
      const sums = take(24 * w * h);
      const known = noFeatures(w, h);
      return (image) => {
        known.count = wasm.features(at(image), w, h, sums, known.columns, known.rows, LEAST_TEXTURE, found.byteOffset, cells.byteOffset);
        for (let i = 0; i < known.count; i++) {
          known.x[i] = found[2 * i] as number;
          known.y[i] = found[2 * i + 1] as number;
          known.cell[i] = cells[i] as number;
        }
        return known;
      };
    },
    bytes: (image, to) => {
      wasm.bytes(at(image), image.data.length, coded.byteOffset);
      to.set(coded);
    },
    sharpness: (image) => wasm.sharpness(at(image), image.width, image.height),
    // Two at a time: a third would take the place of the first.
    blurred: (image, sigma) => {
      const { kernel, reach } = gaussianOf(sigma);
      const to = blurs[turn++ % 2] as Luma;
      weights.set(kernel);
      wasm.blur(at(image), width, height, weights.byteOffset, reach, line, at(rows), at(to));
      return to;
    },
    reducer: (shape) => whole(shape) ?? PLAIN_KERNELS.reducer(shape),
    track: (from, to, features, dx, dy, levels, out) => {
      levelsInto(from, to);
      for (let i = 0; i < features.count; i++) {
        points[2 * i] = features.x[i] as number;
        points[2 * i + 1] = features.y[i] as number;
      }
      wasm.track(table.byteOffset, points.byteOffset, features.count, dx, dy, levels[0], found.byteOffset);
      out.count = 0;
      for (let i = 0; i < features.count; i++) {
        const movedX = found[2 * i] as number;
        if (Number.isNaN(movedX)) continue;
        out.x[out.count] = Math.floor(2 * (features.x[i] as number) + 0.5) + 0.5;
        out.y[out.count] = Math.floor(2 * (features.y[i] as number) + 0.5) + 0.5;
        out.dx[out.count] = movedX;
        out.dy[out.count] = found[2 * i + 1] as number;
        out.cell[out.count++] = features.cell[i] as number;
      }
    },
  };
}
