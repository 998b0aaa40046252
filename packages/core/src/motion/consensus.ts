// Who agrees on one motion of the whole picture: three-point tries scored by MSAC. Torr and Zisserman (2000), MLESAC, §4.
// The tries are affine, not similar: a rolling shutter leans the picture by more than the gate on every footfall, and a subject that moves
// with the lean would then outvote the background.

import type { Random } from "../statistics/index.ts";
import type { Vectors } from "./lucasKanade.ts";
import type { Centre } from "./similarity.ts";

/** x' = a x + b y + c, y' = d x + e y + f, about the centre, in px. */
export type Affine = readonly [a: number, b: number, c: number, d: number, e: number, f: number];

const TRIES = 200;
export const GATE_PX = 1;
/** Twice the area of a usable triangle, as a share of width². */
const LEAST_AREA = 0.12 * 0.12;
/** No camera turns, leans or zooms by more between two frames. */
const MOST_CHANGE = 0.25;

/** The try with the least cost, min(r², gate²) summed; null when no three vectors lie apart. */
export function affineConsensus(v: Vectors, centre: Centre, width: number, random: Random): Affine | null {
  if (v.count < 3) return null;
  let best: Affine | null = null;
  let least = Number.POSITIVE_INFINITY;
  for (let k = 0; k < TRIES; k++) {
    const t = throughThree(
      v,
      centre,
      LEAST_AREA * width * width,
      random.int(0, v.count - 1),
      random.int(0, v.count - 1),
      random.int(0, v.count - 1),
    );
    if (t === null) continue;
    const cost = costOf(v, t, centre, least);
    if (cost < least) [best, least] = [t, cost];
  }
  return best;
}

/** Given up once it reaches `limit`. */
function costOf(v: Vectors, t: Affine, centre: Centre, limit: number): number {
  const [a, b, c] = [t[0], t[1], t[2]];
  const [d, e, f] = [t[3], t[4], t[5]];
  let cost = 0;
  for (let i = 0; i < v.count && cost < limit; i++) {
    const x = (v.x[i] as number) - centre.x;
    const y = (v.y[i] as number) - centre.y;
    const ex = x + (v.dx[i] as number) - (a * x + b * y + c);
    const ey = y + (v.dy[i] as number) - (d * x + e * y + f);
    cost += Math.min(GATE_PX * GATE_PX, ex * ex + ey * ey);
  }
  return cost;
}

export function squaredError(v: Vectors, i: number, [a, b, c, d, e, f]: Affine, centre: Centre): number {
  const x = (v.x[i] as number) - centre.x;
  const y = (v.y[i] as number) - centre.y;
  const ex = x + (v.dx[i] as number) - (a * x + b * y + c);
  const ey = y + (v.dy[i] as number) - (d * x + e * y + f);
  return ex * ex + ey * ey;
}

function throughThree(v: Vectors, centre: Centre, leastArea: number, i: number, j: number, k: number): Affine | null {
  const [x, y] = [(v.x[i] as number) - centre.x, (v.y[i] as number) - centre.y];
  const [ux, uy] = [(v.x[j] as number) - centre.x - x, (v.y[j] as number) - centre.y - y];
  const [wx, wy] = [(v.x[k] as number) - centre.x - x, (v.y[k] as number) - centre.y - y];
  const area = ux * wy - uy * wx;
  if (Math.abs(area) < leastArea) return null;
  const [dx, dy] = [v.dx[i] as number, v.dy[i] as number];
  // Shifts over the two sides give the four slopes of the shift.
  const [px, py] = [(v.dx[j] as number) - dx, (v.dy[j] as number) - dy];
  const [qx, qy] = [(v.dx[k] as number) - dx, (v.dy[k] as number) - dy];
  const [a, b] = [(px * wy - qx * uy) / area, (qx * ux - px * wx) / area];
  const [d, e] = [(py * wy - qy * uy) / area, (qy * ux - py * wx) / area];
  if (Math.max(Math.abs(a), Math.abs(b), Math.abs(d), Math.abs(e)) > MOST_CHANGE) return null;
  return [1 + a, b, dx - a * x - b * y, d, 1 + e, dy - d * x - e * y];
}
