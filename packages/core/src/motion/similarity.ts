// Similarities of the picture's plane: shift, turn and scale about the frame's centre.

import type { Vectors } from "./lucasKanade.ts";

/** p' = (a −b; b a) p + (tx, ty), about the frame's centre, x right, y down. a = scale·cos roll, b = scale·sin roll. */
export interface Similarity {
  a: number;
  b: number;
  tx: number;
  ty: number;
}

export interface Centre {
  x: number;
  y: number;
}
export const centreOf = (frame: { width: number; height: number }): Centre => ({ x: (frame.width - 1) / 2, y: (frame.height - 1) / 2 });

/** Beaton and Tukey's (1974) weight: 1 at no error, 0 from `cut` on. */
export const tukey = (r: number, cut: number): number => (r >= cut ? 0 : (1 - (r / cut) ** 2) ** 2);

/** Weighted least squares; null when the weights leave fewer than two points apart. */
export function weightedSimilarity(v: Vectors, centre: Centre, weights: Float64Array): Similarity | null {
  let [w, mx, my, nx, ny] = [0, 0, 0, 0, 0];
  for (let i = 0; i < v.count; i++) {
    const k = weights[i] as number;
    w += k;
    mx += k * (v.x[i] as number);
    my += k * (v.y[i] as number);
    nx += k * ((v.x[i] as number) + (v.dx[i] as number));
    ny += k * ((v.y[i] as number) + (v.dy[i] as number));
  }
  if (!(w > 0)) return null;
  [mx, my, nx, ny] = [mx / w, my / w, nx / w, ny / w];
  let [along, across, spread] = [0, 0, 0];
  for (let i = 0; i < v.count; i++) {
    const k = weights[i] as number;
    const px = (v.x[i] as number) - mx;
    const py = (v.y[i] as number) - my;
    const qx = (v.x[i] as number) + (v.dx[i] as number) - nx;
    const qy = (v.y[i] as number) + (v.dy[i] as number) - ny;
    along += k * (px * qx + py * qy);
    across += k * (px * qy - py * qx);
    spread += k * (px * px + py * py);
  }
  if (!(spread > 1)) return null;
  const [a, b] = [along / spread, across / spread];
  const [cx, cy] = [mx - centre.x, my - centre.y];
  return { a, b, tx: nx - centre.x - (a * cx - b * cy), ty: ny - centre.y - (b * cx + a * cy) };
}
