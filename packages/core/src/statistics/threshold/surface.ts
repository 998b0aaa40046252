// The likelihood of a ladder over threshold, slope and lapse: beta-binomial visits, dependence averaged.
//   p(x) = g + (1 - L - g) expit(c - b (x - t)), with c such that p(t) is the share asked when nothing but the curve is at work.

import { DEPENDENCE, FLOOR, LAPSE, SLOPE, STEPS } from "./assumptions.ts";
import type { Ladder } from "./ladder.ts";
import { fastestOf, requireLadder, slowestOf } from "./ladder.ts";

/** Thresholds looked at: `from` + j / 12 stops, j from 0. */
export interface ThresholdGrid {
  from: number;
  length: number;
  /** Fastest and slowest exposure shot. */
  fastest: number;
  slowest: number;
}
export interface Surface {
  grid: ThresholdGrid;
  share: number;
  /** Lapses that leave the share reachable, as places in LAPSE. */
  lapses: readonly number[];
  /** Likelihood by slope, lapse, threshold; times the weight of the lapse. */
  parts: readonly (readonly Float64Array[])[];
  /** Sum over lapses, by slope. */
  bySlope: readonly Float64Array[];
}

/** 6 stops faster than the fastest shot to 4 slower than the slowest. */
export function thresholdGrid(...ladders: Ladder[]): ThresholdGrid {
  const fastest = Math.min(...ladders.map(fastestOf));
  const slowest = Math.max(...ladders.map(slowestOf));
  const from = fastest - 6;
  return { from, length: Math.ceil((slowest + 4 - from) * STEPS - 1e-9) + 1, fastest, slowest };
}

const logit = (p: number): number => Math.log(p / (1 - p));
const MOST = 1 - 1e-14;

/** Keep probability by how much slower than the threshold an exposure is, in stops. */
function keepFunction(slope: number, lapse: number, share: number): (slower: number) => number {
  const span = 1 - lapse - FLOOR;
  const c = logit((share - FLOOR) / span);
  return (slower) => Math.min(MOST, FLOOR + span / (1 + Math.exp(slope * slower - c)));
}

/** Keep probability by threshold, for one exposure. */
export function keepCurve(x: number, slope: number, lapse: number, share: number, grid: ThresholdGrid): Float64Array {
  const keep = keepFunction(slope, lapse, share);
  const curve = new Float64Array(grid.length);
  for (let j = 0; j < curve.length; j++) curve[j] = keep(x - thresholdAt(grid, j));
  return curve;
}

/**
 * Likelihood of the visits of one ladder.
 * @param share of shots kept at the threshold, .1 to .95
 * @throws RangeError on a share out of range, or a visit that is none
 */
export function surfaceOf(ladder: Ladder, share: number, grid: ThresholdGrid = thresholdGrid(ladder)): Surface {
  if (!(share >= 0.1 && share <= 0.95)) throw new RangeError(`share must lie between .1 and .95, got ${share}`);
  requireLadder(ladder);
  const combs = combsOf(ladder, grid);
  const room = roomFor(combs, grid);
  const lapses = LAPSE.flatMap((l, i) => (1 - l.value < share + 0.01 ? [] : [i]));
  const parts = SLOPE.map((b) =>
    lapses.map((l) => {
      const lapse = LAPSE[l] ?? { value: 0, weight: 0 };
      const keep = keepFunction(b.value, lapse.value, share);
      return likelihoodAlong(combs, room, lapse.weight, keep);
    }),
  );
  return { grid, share, lapses, parts, bySlope: parts.map((row) => summed(row, grid.length)) };
}

interface Outcome {
  kept: number;
  shots: number;
}
/**
 * Exposures that lie alike between the points of the grid: for all of them "slower than the threshold" takes the same values, so that every
 * outcome's likelihood is reckoned once and only laid at another place. Times of a camera's series are all one comb.
 */
interface Comb {
  /** Slower than the threshold, in stops, at place 0; places are a step apart. */
  from: number;
  places: number;
  outcomes: Outcome[];
  /** Place of a visit with the threshold at the grid's first point; which outcome; how often. */
  visits: { place: number; outcome: number; times: number }[];
}

function combsOf(ladder: Ladder, grid: ThresholdGrid): Comb[] {
  const combs = new Map<number, Comb>();
  for (const { x, kept, shots } of ladder) {
    const at = (x - grid.from) * STEPS;
    const step = Math.floor(at + ALIKE);
    // How far beyond a point of the grid, in steps.
    const beyond = Math.max(0, Math.round((at - step) / ALIKE)) * ALIKE;
    const comb = combs.get(beyond) ?? { from: (beyond - (grid.length - 1)) / STEPS, places: grid.length, outcomes: [], visits: [] };
    combs.set(beyond, comb);
    const place = step + grid.length - 1;
    comb.places = Math.max(comb.places, place + 1);
    let outcome = comb.outcomes.findIndex((o) => o.kept === kept && o.shots === shots);
    if (outcome < 0) outcome = comb.outcomes.push({ kept, shots }) - 1;
    const same = comb.visits.find((v) => v.place === place && v.outcome === outcome);
    if (same === undefined) comb.visits.push({ place, outcome, times: 1 });
    else same.times++;
  }
  return [...combs.values()];
}
/** In steps of the grid. */
const ALIKE = 1e-9;

/** Room to work in, made once a ladder: making arrays costs more than the sums. */
interface Room {
  keep: Float64Array[];
  kept: Float64Array;
  lost: Float64Array;
  table: Float64Array;
  product: Float64Array;
}
function roomFor(combs: readonly Comb[], grid: ThresholdGrid): Room {
  const places = Math.max(...combs.map((c) => c.places), 0);
  const rows = 1 + Math.max(...combs.flatMap((c) => c.outcomes.map((o) => o.shots)), 0);
  return {
    keep: combs.map((c) => new Float64Array(c.places)),
    kept: new Float64Array(rows * places),
    lost: new Float64Array(rows * places),
    table: new Float64Array(places),
    product: new Float64Array(grid.length),
  };
}

/** Sum over dependences of the product of the visits, by threshold. */
function likelihoodAlong(combs: readonly Comb[], room: Room, weight: number, keep: (slower: number) => number): Float64Array {
  const sum = new Float64Array(room.product.length);
  for (const [c, comb] of combs.entries()) {
    const p = room.keep[c] as Float64Array;
    for (let k = 0; k < p.length; k++) p[k] = keep(comb.from + k / STEPS);
  }
  for (const dependence of DEPENDENCE) {
    const { product } = room;
    product.fill(weight * dependence.weight);
    for (const [c, comb] of combs.entries()) multiplyVisits(comb, room.keep[c] as Float64Array, room, dependence.value);
    for (let j = 0; j < sum.length; j++) sum[j] = (sum[j] as number) + (product[j] as number);
  }
  return sum;
}

/** Multiplies the product by the visits of one comb: beta-binomial without its constant, binomial at rho 0. */
function multiplyVisits(comb: Comb, p: Float64Array, room: Room, rho: number): void {
  const m = rho === 0 ? 1 : 1 / rho - 1;
  const step = rho === 0 ? 0 : 1;
  const most = comb.outcomes.reduce((n, o) => Math.max(n, o.shots), 0);
  risingPowers(p, m, step, most, room);
  const { kept, lost, table, product } = room;
  for (const [o, { kept: k, shots }] of comb.outcomes.entries()) {
    let scale = 1;
    for (let a = 0; a < shots; a++) scale /= m + a * step;
    const [yes, no] = [k * p.length, (shots - k) * p.length];
    for (let i = 0; i < p.length; i++) table[i] = scale * (kept[yes + i] as number) * (lost[no + i] as number);
    for (const { place, outcome, times } of comb.visits)
      if (outcome === o)
        for (let n = 0; n < times; n++)
          for (let j = 0; j < product.length; j++) product[j] = (product[j] as number) * (table[place - j] as number);
  }
}

/** Rows of p m (p m + 1) (p m + 2) … for kept, of its counterpart for lost; the first row is one. */
function risingPowers(p: Float64Array, m: number, step: number, most: number, { kept, lost }: Room): void {
  const n = p.length;
  kept.fill(1, 0, n);
  lost.fill(1, 0, n);
  for (let a = 0; a < most; a++)
    for (let i = 0; i < n; i++) {
      const keep = p[i] as number;
      kept[(a + 1) * n + i] = (kept[a * n + i] as number) * (keep * m + a * step);
      lost[(a + 1) * n + i] = (lost[a * n + i] as number) * ((1 - keep) * m + a * step);
    }
}

export function summed(rows: readonly Float64Array[], length: number): Float64Array {
  const sum = new Float64Array(length);
  for (const row of rows) for (let j = 0; j < length; j++) sum[j] = (sum[j] as number) + (row[j] as number);
  return sum;
}

/** Belief before any shot: even up to the slowest exposure shot, then falling. */
export const priorAt = (t: number, slowest: number): number => (t <= slowest ? 1 : Math.exp(-(t - slowest) / 1.5));
export const thresholdAt = (grid: ThresholdGrid, j: number): number => grid.from + j / STEPS;
