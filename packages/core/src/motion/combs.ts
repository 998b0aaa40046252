// Interlaced pictures: two moments woven into one frame leave combs where anything moves. Seen in the full plane, before it is reduced.

import type { Plane, PlaneShape } from "./reduce.ts";

const EVERY_FRAMES = 6;
const MOST_LOOKS = 40;
/** Columns from one that is looked at to the next. */
const APART = 16;
/** Rows that differ from their neighbours this much more than from the rows beyond are combed; no plain picture comes near 1. */
const COMBED = 1.15;
/** Share of the looks. A tripod shows combs only while something moves. */
const LEAST_SHARE = 0.2;

export interface CombWatch {
  look: (plane: Plane, shape: PlaneShape) => void;
  combed: () => boolean;
}

/** Looks at every sixth frame, forty times at most. */
export function combWatch(): CombWatch {
  let [frames, looks, found] = [0, 0, 0];
  return {
    look: (plane, shape) => {
      if (frames++ % EVERY_FRAMES !== 0 || looks >= MOST_LOOKS) return;
      looks++;
      if (combRatio(plane, shape) > COMBED) found++;
    },
    combed: () => looks >= 3 && found >= LEAST_SHARE * looks,
  };
}

/** Squared differences of rows next to each other over those of rows two apart, of the quarter of the columns that change most; 0 without change. */
export function combRatio(plane: Plane, { width, height, stride }: Pick<PlaneShape, "width" | "height" | "stride">): number {
  const columns = Math.max(0, Math.ceil((width - 8) / APART));
  const [near, far] = [new Float64Array(columns), new Float64Array(columns)];
  // Row by row, as they lie in memory.
  for (let y = 0; y < height - 2; y++)
    for (let k = 0; k < columns; k++) {
      const i = y * stride + 4 + APART * k;
      const v = plane[i] as number;
      const n = v - (plane[i + stride] as number);
      const f = v - (plane[i + 2 * stride] as number);
      near[k] = (near[k] as number) + n * n;
      far[k] = (far[k] as number) + f * f;
    }
  const order = Array.from(near, (n, k) => [n, far[k] as number] as const).sort((a, b) => b[0] - a[0]);
  const top = order.slice(0, Math.max(1, order.length >> 2));
  const whole = top.reduce((s, [, f]) => s + f, 0);
  return whole > 0 ? top.reduce((s, [n]) => s + n, 0) / whole : 0;
}
