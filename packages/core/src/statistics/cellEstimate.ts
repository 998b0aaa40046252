// The maximum of the life model for cells that have each a middle of their own and share one scatter. The information is an arrow (each middle
// meets only the scatter), so a Newton step costs a division a cell: pools of hundreds of runs are resampled in the time of a few.
// Agrees with lifeModel.ts on the same data; that is its check.

import { logNormalPdf, logSfFrom, normalHazard } from "./distributions.ts";
import type { LifeLaw } from "./lifeLikelihood.ts";
import { noiseOf } from "./lifeLikelihood.ts";
import type { Lifetimes } from "./lifetimes.ts";

export interface CellEstimate {
  /** Log scale (Weibull) or mean log (lognormal) of each cell. */
  middles: number[];
  sigma: number;
}

const ITERATIONS = 200;
const HALVINGS = 60;
const RUNAWAY = 1e6;

/** Null when there is no maximum: a cell without an event, or no scatter at all. */
export function estimateCells(cells: readonly Lifetimes[], law: LifeLaw): CellEstimate | null {
  if (cells.length === 0 || cells.some((c) => !c.event.includes(1))) return null;
  const logs = cells.map((c) => Float64Array.from(c.time, Math.log));
  const means = logs.map(meanOf);
  const spread = spreadAbout(logs, means);
  if (!(spread > 0)) return null;
  const best = climbTo({ cells: logs.map((l, c) => standardised(cells[c] as Lifetimes, l, means[c] as number, spread, law)), law });
  if (best === null) return null;
  const kappa = best.kappa;
  return { sigma: spread / kappa, middles: means.map((m, c) => m + (spread * (best.delta[c] as number)) / kappa) };
}

/** A cell on the pool's scale. An event of the lognormal law adds a square, so its events travel as sums; all else stands one by one. */
interface Cell {
  events: number;
  sumY: number;
  sumYY: number;
  y: Float64Array;
  event: readonly (0 | 1)[];
}
interface Problem {
  cells: readonly Cell[];
  law: LifeLaw;
}
interface Theta {
  delta: Float64Array;
  kappa: number;
}

function meanOf(values: Float64Array): number {
  let sum = 0;
  for (const v of values) sum += v;
  return sum / values.length;
}

/** Root mean square of the logs about the mean of their cell. */
function spreadAbout(logs: readonly Float64Array[], means: readonly number[]): number {
  let [squares, n] = [0, 0];
  logs.forEach((values, c) => {
    const mean = means[c] as number;
    for (const v of values) squares += (v - mean) ** 2;
    n += values.length;
  });
  return Math.sqrt(squares / n);
}

function standardised({ event }: Lifetimes, logs: Float64Array, mean: number, spread: number, law: LifeLaw): Cell {
  const y = logs.map((v) => (v - mean) / spread);
  if (law === "weibull") return { events: 0, sumY: 0, sumYY: 0, y, event };
  let [events, sumY, sumYY] = [0, 0, 0];
  const cut: number[] = [];
  for (let i = 0; i < y.length; i++) {
    const v = y[i] as number;
    if (event[i] === 0) cut.push(v);
    else {
      events++;
      sumY += v;
      sumYY += v * v;
    }
  }
  return { events, sumY, sumYY, y: Float64Array.from(cut), event: NONE };
}
const NONE: readonly (0 | 1)[] = [];

/** A step's error is of the order of its gain once it is small. */
const GAIN_LEAST = 1e-10;

function climbTo(p: Problem): Theta | null {
  const n = p.cells.length;
  let theta: Theta = { delta: new Float64Array(n), kappa: 1 };
  let here = evaluate(p, theta);
  const step = new Float64Array(n);
  for (let i = 0; i < ITERATIONS; i++) {
    const { a, b, d, g, gKappa } = here;
    let [schur, right] = [d, gKappa];
    for (let c = 0; c < n; c++) {
      const ac = a[c] as number;
      if (!(ac > 0)) return null;
      schur -= (b[c] as number) ** 2 / ac;
      right -= ((b[c] as number) * (g[c] as number)) / ac;
    }
    if (!(schur > 1e-13 * d)) return null;
    const kappaStep = right / schur;
    let gain = kappaStep * gKappa;
    for (let c = 0; c < n; c++) {
      step[c] = ((g[c] as number) - (b[c] as number) * kappaStep) / (a[c] as number);
      gain += (step[c] as number) * (g[c] as number);
    }
    let [next, there, length] = [theta, here, 1];
    for (let k = 0; k <= HALVINGS; k++, length /= 2) {
      next = { delta: moved(theta.delta, step, length), kappa: theta.kappa + length * kappaStep };
      there = evaluate(p, next);
      if (there.value >= here.value - noiseOf(here.value)) break;
    }
    if (!Number.isFinite(there.value) || next.kappa > RUNAWAY) return null;
    [theta, here] = [next, there];
    if (gain < GAIN_LEAST) return theta;
  }
  return null;
}

function moved(from: Float64Array, step: Float64Array, length: number): Float64Array {
  const to = new Float64Array(from.length);
  for (let c = 0; c < to.length; c++) to[c] = (from[c] as number) + length * (step[c] as number);
  return to;
}

interface Evaluated {
  value: number;
  /** Information of each middle, of each with the scatter, of the scatter; and the gradient. w = kappa y - delta. */
  a: Float64Array;
  b: Float64Array;
  d: number;
  g: Float64Array;
  gKappa: number;
}

function evaluate({ cells, law }: Problem, { delta, kappa }: Theta): Evaluated {
  const n = cells.length;
  const out: Evaluated = { value: 0, a: new Float64Array(n), b: new Float64Array(n), d: 0, g: new Float64Array(n), gKappa: 0 };
  if (!(kappa > 0)) return { ...out, value: Number.NEGATIVE_INFINITY };
  let failures = 0;
  for (let c = 0; c < n; c++)
    failures += law === "weibull" ? addEach(cells[c] as Cell, c, delta, kappa, out) : addSums(cells[c] as Cell, c, delta, kappa, out);
  out.value += failures * Math.log(kappa);
  out.gKappa += failures / kappa;
  out.d += failures / kappa ** 2;
  return out;
}

/** Weibull, run by run; returns the events. */
function addEach({ y, event }: Cell, c: number, delta: Float64Array, kappa: number, out: Evaluated): number {
  let failures = 0;
  for (let i = 0; i < y.length; i++) {
    const w = kappa * (y[i] as number) - (delta[c] as number);
    const failed = event[i] === 1;
    if (failed) failures++;
    const e = Math.exp(w);
    out.value += failed ? w - e : -e;
    add(out, c, y[i] as number, failed ? 1 - e : -e, -e);
  }
  return failures;
}

/** Lognormal: the events by their sums, what was cut one by one; returns the events. */
function addSums({ events, sumY, sumYY, y }: Cell, c: number, delta: Float64Array, kappa: number, out: Evaluated): number {
  const at = delta[c] as number;
  out.value += events * logNormalPdf(0) - 0.5 * (kappa * kappa * sumYY - 2 * kappa * at * sumY + events * at * at);
  out.g[c] = kappa * sumY - events * at;
  out.gKappa -= kappa * sumYY - at * sumY;
  out.a[c] = events;
  out.b[c] = -sumY;
  out.d += sumYY;
  for (const v of y) {
    const w = kappa * v - at;
    const h = normalHazard(w);
    out.value += logSfFrom(w, h);
    add(out, c, v, -h, -h * (h - w));
  }
  return events;
}

function add(out: Evaluated, c: number, y: number, d1: number, d2: number): void {
  out.g[c] = (out.g[c] as number) - d1;
  out.gKappa += d1 * y;
  out.a[c] = (out.a[c] as number) - d2;
  out.b[c] = (out.b[c] as number) + d2 * y;
  out.d -= d2 * y * y;
}
