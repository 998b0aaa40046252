// Two frames in, one motion out: what takes each point of a frame to the next, with how well it is known.

import { randomFrom } from "../statistics/index.ts";
import { coarseShift, lessLocalMean } from "./coarse.ts";
import { denseSimilarity } from "./dense.ts";
import type { Luma, Pyramid } from "./luma.ts";
import { emptyPyramid, fillPyramid } from "./luma.ts";
import type { MotionKernels } from "./kernels.ts";
import { PLAIN_KERNELS } from "./kernels.ts";
import type { Levels, Vectors } from "./lucasKanade.ts";
import { ALL_LEVELS, emptyVectors, USUAL_LEVELS } from "./lucasKanade.ts";
import type { Similarity } from "./similarity.ts";
import type { Motion } from "./wobble.ts";
import { agreedMotion } from "./wobble.ts";

/** Pair i takes a point of frame i to frame i + 1, about the frame's centre, x right, y down. */
export interface Pair {
  /** Shift in px of the frame measured. */
  dxPx: number;
  dyPx: number;
  /** Positive turns +x towards +y. */
  rollRad: number;
  scale: number;
  /** points: vectors agreed. dense: too few did. coarse: only the search at an eighth of the size. none: nothing to go by. */
  by: "points" | "dense" | "coarse" | "none";
  features: number;
  /** Share of the vectors that agree; 0 without vectors. */
  agreedFrac: number;
  /** Null where it cannot be told: few vectors, or little texture. */
  wobbleSimilarityPx: number | null;
  wobbleHomographyPx: number | null;
  /** The shift lies at the edge of the search. */
  atEdge: boolean;
}

const LEAST_INLIERS = 16;
const LEAST_SHARE = 0.3;
/** With fewer of the features followed and agreeing, the pair is tried again from a coarser level. */
const ENOUGH = 0.5;

export interface PairMeter {
  /** The frame to fill before `next`; another buffer each time. */
  frame: () => Luma;
  /** Takes the filled frame in. Null for the first one. */
  next: () => Pair | null;
  /** The frames just compared, levels and all. */
  pyramid: () => Pyramid;
  before: () => Pyramid;
  /** Vectors of the last pair; their weights say who agreed. */
  vectors: () => { vectors: Vectors; weights: Float64Array };
}

/** Measures frames of one size in order, with two frames in memory. The seed feeds the two-point tries. */
export function pairMeter(width: number, height: number, seed: number, kernels: MotionKernels = PLAIN_KERNELS): PairMeter {
  const random = randomFrom(seed);
  const side = (): { levels: Luma[]; flat: Float32Array } => {
    const levels = emptyPyramid(width, height, kernels.luma);
    const top = levels[3] as Luma;
    return { levels, flat: kernels.luma(top.width, top.height).data };
  };
  let [now, before] = [side(), side()];
  let frames = 0;
  const half = now.levels[1] as Luma;
  const find = kernels.finder(half.width, half.height);
  const vectors = emptyVectors(144);
  const weights = new Float64Array(144);
  const measure = (): Pair => {
    const top = now.levels[3] as Luma;
    const shift = coarseShift(before.flat, now.flat, top.width, top.height, undefined, kernels.meanDifference);
    const features = find(before.levels[1] as Luma);
    const follow = (levels: Levels): void =>
      kernels.track(before.levels, now.levels, features, 8 * shift.dx, 8 * shift.dy, levels, vectors);
    follow(USUAL_LEVELS);
    const found = agreedMotion(vectors, before.levels[0] as Luma, random, weights);
    if ((found?.inliers ?? 0) >= ENOUGH * features.count) return judged(before.levels, now.levels, shift, features.count, found);
    follow(ALL_LEVELS);
    const again = agreedMotion(vectors, before.levels[0] as Luma, random, weights);
    return judged(before.levels, now.levels, shift, features.count, again);
  };
  const judged = (from: Pyramid, to: Pyramid, shift: ReturnType<typeof coarseShift>, features: number, found: Motion | null): Pair => {
    const share = found === null || vectors.count === 0 ? 0 : found.inliers / vectors.count;
    const base = { features, agreedFrac: share, atEdge: shift.atEdge, wobbleSimilarityPx: null, wobbleHomographyPx: null };
    if (found !== null && found.inliers >= LEAST_INLIERS && share >= LEAST_SHARE) {
      const bent = { wobbleSimilarityPx: found.similarityPx, wobbleHomographyPx: found.homographyPx };
      return { ...base, ...asPair(found.similarity), ...bent, by: "points" };
    }
    weights.fill(0);
    const start: Similarity = { a: 1, b: 0, tx: 8 * shift.dx, ty: 8 * shift.dy };
    const dense = denseSimilarity(from, to, start);
    if (dense !== null) return { ...base, ...asPair(dense), by: "dense" };
    return { ...base, ...asPair(features > 0 ? start : { a: 1, b: 0, tx: 0, ty: 0 }), by: features > 0 ? "coarse" : "none" };
  };
  return {
    frame: () => now.levels[0] as Luma,
    next: () => {
      fillPyramid(now.levels, kernels.halve);
      lessLocalMean(now.levels[3] as Luma, now.flat);
      const pair = frames++ === 0 ? null : measure();
      [now, before] = [before, now];
      return pair;
    },
    // After the exchange the newest frame is `before`.
    pyramid: () => before.levels,
    before: () => now.levels,
    vectors: () => ({ vectors, weights }),
  };
}

const asPair = (s: Similarity): Pick<Pair, "dxPx" | "dyPx" | "rollRad" | "scale"> => ({
  dxPx: s.tx,
  dyPx: s.ty,
  rollRad: Math.atan2(s.b, s.a),
  scale: Math.hypot(s.a, s.b),
});
