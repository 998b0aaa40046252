// How far the picture bends between two frames, and the steadiest motion that goes with it.

import type { Random } from "../statistics/index.ts";
import { affineConsensus } from "./consensus.ts";
import { leftAfter } from "./bending.ts";
import { robustHomography, similarityOver } from "./homography.ts";
import type { Vectors } from "./lucasKanade.ts";
import type { Similarity } from "./similarity.ts";
import { centreOf, weightedSimilarity } from "./similarity.ts";

/** Below this many vectors a homography is not told apart from noise. */
export const LEAST_VECTORS = 50;
/** Vectors must reach this far, root mean square as a share of the width and of the height, for a motion over the whole frame. */
const LEAST_REACH = 0.18;

export interface Motion {
  similarity: Similarity;
  inliers: number;
  /** Root mean square, px, of what the similarity leaves over the frame: leaning and bending. Null with fewer than 50 vectors. */
  similarityPx: number | null;
  /** What a homography leaves of the vectors: bending that no flat turn explains. */
  homographyPx: number | null;
  /** Noise of following one point, px. */
  pointNoisePx: number | null;
}

/** The motion most vectors agree on; `weights` says who (0: not). Null without three vectors that lie apart. */
export function agreedMotion(v: Vectors, frame: { width: number; height: number }, random: Random, weights: Float64Array): Motion | null {
  const centre = centreOf(frame);
  const unit = frame.width / 2;
  const start = affineConsensus(v, centre, frame.width, random);
  if (start === null) return null;
  const h = robustHomography(v, start, centre, unit, weights);
  let inliers = 0;
  for (let i = 0; i < v.count; i++) if ((weights[i] as number) > 0) inliers++;
  if (h === null || inliers < LEAST_VECTORS || !reaches(v, weights, frame)) {
    const similarity = weightedSimilarity(v, centre, weights);
    return similarity === null ? null : { similarity, inliers, similarityPx: null, homographyPx: null, pointNoisePx: null };
  }
  const { wholePx, smoothPx } = leftAfter(v, weights, h, centre, unit);
  const { similarity, leftPx } = similarityOver(h, frame);
  return {
    similarity,
    inliers,
    similarityPx: Math.hypot(leftPx, smoothPx),
    homographyPx: smoothPx,
    pointNoisePx: Math.sqrt(Math.max(0, wholePx ** 2 - smoothPx ** 2)),
  };
}

function reaches(v: Vectors, weights: Float64Array, frame: { width: number; height: number }): boolean {
  let [n, sx, sy, sxx, syy] = [0, 0, 0, 0, 0];
  for (let i = 0; i < v.count; i++) {
    if ((weights[i] as number) === 0) continue;
    const x = (v.x[i] as number) / frame.width;
    const y = (v.y[i] as number) / frame.height;
    n++;
    sx += x;
    sy += y;
    sxx += x * x;
    syy += y * y;
  }
  return Math.sqrt(sxx / n - (sx / n) ** 2) >= LEAST_REACH && Math.sqrt(syy / n - (sy / n) ** 2) >= LEAST_REACH;
}
