// How much of what a homography leaves is bending of the picture, and how much is the noise of following points:
// bending is smooth over the frame, noise is each point's own. A cubic surface through the rest tells the two apart.

import { solvePositive } from "../statistics/index.ts";
import type { Homography } from "./homography.ts";
import { leftOf } from "./homography.ts";
import type { Vectors } from "./lucasKanade.ts";
import type { Centre } from "./similarity.ts";

const TERMS = 10;
const LEAST_SPARE = 15;
/** Two numbers a vector; a homography takes eight of them. */
const TAKEN = 4;

export interface Left {
  /** Root mean square of the vectors' rest, px: bending and noise. */
  wholePx: number;
  /** The part that is smooth over the frame, less what noise alone would show as smooth. */
  smoothPx: number;
}

/** Of the vectors with a weight above 0. */
export function leftAfter(v: Vectors, weights: Float64Array, h: Homography, c: Centre, unit: number): Left {
  const gram = Array.from({ length: TERMS }, () => new Array<number>(TERMS).fill(0));
  const [rightX, rightY] = [new Array<number>(TERMS).fill(0), new Array<number>(TERMS).fill(0)];
  let [n, whole] = [0, 0];
  for (let i = 0; i < v.count; i++) {
    if ((weights[i] as number) === 0) continue;
    const [ex, ey] = leftOf(v, i, h, c, unit);
    const terms = cubic(((v.x[i] as number) - c.x) / unit, ((v.y[i] as number) - c.y) / unit);
    n++;
    whole += ex * ex + ey * ey;
    for (const [p, a] of terms.entries()) {
      rightX[p] = (rightX[p] as number) + a * ex;
      rightY[p] = (rightY[p] as number) + a * ey;
      for (let q = 0; q <= p; q++) (gram[p] as number[])[q] = (gram[p]?.[q] as number) + a * (terms[q] as number);
    }
  }
  const wholePx = Math.sqrt(whole / (n - TAKEN));
  for (let p = 0; p < TERMS; p++) for (let q = 0; q < p; q++) (gram[q] as number[])[p] = gram[p]?.[q] as number;
  const [sx, sy] = [solvePositive(gram, rightX), solvePositive(gram, rightY)];
  if (sx === null || sy === null || n < TERMS + LEAST_SPARE) return { wholePx, smoothPx: wholePx };
  const smooth = sx.reduce((sum, s, p) => sum + s * (rightX[p] as number) + (sy[p] as number) * (rightY[p] as number), 0);
  const noise = (whole - smooth) / (n - TERMS);
  return { wholePx, smoothPx: Math.sqrt(Math.max(0, whole / (n - TAKEN) - noise)) };
}

const cubic = (x: number, y: number): readonly number[] => [1, x, y, x * x, x * y, y * y, x * x * x, x * x * y, x * y * y, y * y * y];
