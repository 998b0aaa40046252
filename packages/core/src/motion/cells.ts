// What lies apart from the motion of the whole picture: a subject that moves by itself, or near things that move more than far ones.
// Kept per cell of the feature grid over a whole clip, so that memory does not grow with it.

import type { Vectors } from "./lucasKanade.ts";
import type { Pair } from "./pair.ts";
import type { Centre } from "./similarity.ts";

export interface Apart {
  /** Mean share of followed points that do not move with the picture. */
  disagreeFrac: number;
  /**
   * How far things differ in how much they move with the camera. Among cells that agree: 90th less 10th percentile of their slopes, less what
   * chance gives; cells that disagree count when they move more than the picture does: near things do, a subject that walks along does not.
   */
  parallaxFrac: number;
}

export interface CellBook {
  add: (vectors: Vectors, weights: Float64Array, pair: Pair, centre: Centre) => void;
  read: () => Apart;
}

const LEAST_PAIRS = 15;

export function cellBook(cells: number): CellBook {
  const fresh = (): Float64Array => new Float64Array(cells);
  const [n, mm, rm, rr, out] = [fresh(), fresh(), fresh(), fresh(), fresh()];
  let [followed, apart] = [0, 0];
  const add = (v: Vectors, weights: Float64Array, pair: Pair, centre: Centre): void => {
    const [a, b] = [pair.scale * Math.cos(pair.rollRad), pair.scale * Math.sin(pair.rollRad)];
    const { dxPx, dyPx } = pair;
    const motion = dxPx * dxPx + dyPx * dyPx;
    for (let i = 0; i < v.count; i++) {
      followed++;
      const c = v.cell[i] as number;
      if (weights[i] === 0) {
        apart++;
        out[c] = (out[c] as number) + 1;
      }
      const [px, py] = [(v.x[i] as number) - centre.x, (v.y[i] as number) - centre.y];
      const ex = px + (v.dx[i] as number) - (a * px - b * py + dxPx);
      const ey = py + (v.dy[i] as number) - (b * px + a * py + dyPx);
      n[c] = (n[c] as number) + 1;
      mm[c] = (mm[c] as number) + motion;
      rm[c] = (rm[c] as number) + ex * dxPx + ey * dyPx;
      rr[c] = (rr[c] as number) + ex * ex + ey * ey;
    }
  };
  const read = (): Apart => {
    const agreeing: number[] = [];
    const errors: number[] = [];
    const disagreeing: number[] = [];
    for (let c = 0; c < cells; c++) {
      const [k, m] = [n[c] as number, mm[c] as number];
      if (k < LEAST_PAIRS || !(m > 0)) continue;
      const slope = (rm[c] as number) / m;
      if ((out[c] as number) > k / 2) {
        disagreeing.push(slope);
        continue;
      }
      // Cells that something else crosses now and then belong to neither.
      if ((out[c] as number) > k / 8) continue;
      agreeing.push(slope);
      errors.push(Math.sqrt(Math.max(0, (rr[c] as number) - slope * (rm[c] as number)) / (2 * k - 1) / m));
    }
    const chance = 2.56 * quantile(errors, 0.5);
    const spread = agreeing.length < 20 ? 0 : quantile(agreeing, 0.9) - quantile(agreeing, 0.1) - chance;
    const near = disagreeing.length < LEAST_NEAR ? 0 : quantile(disagreeing, 0.5);
    return { disagreeFrac: followed === 0 ? 0 : apart / followed, parallaxFrac: Math.max(0, spread, near) };
  };
  return { add, read };
}

const LEAST_NEAR = 8;

function quantile(values: readonly number[], q: number): number {
  const order = [...values].sort((a, b) => a - b);
  return order[Math.min(order.length - 1, Math.floor(q * order.length))] ?? 0;
}
