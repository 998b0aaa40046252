// The log likelihood of a log-location-scale law in kappa = 1/sigma and delta = b/sigma, where it is concave, and Newton with step halving on
// it. Over flat arrays: bootstrap refits spend their time here.

import { logNormalPdf, logNormalSf, logSfFrom, normalHazard } from "./distributions.ts";

export type LifeLaw = "weibull" | "lognormal";

/** log f and log S of the standardised law at w, with the first two derivatives. */
interface Terms {
  value: number;
  d1: number;
  d2: number;
}
export function failureTerms(law: LifeLaw, w: number): Terms {
  if (law === "lognormal") return { value: logNormalPdf(w), d1: -w, d2: -1 };
  const e = Math.exp(w);
  return { value: w - e, d1: 1 - e, d2: -e };
}
export function censoredTerms(law: LifeLaw, w: number): Terms {
  if (law === "weibull") {
    const e = Math.exp(w);
    return { value: -e, d1: -e, d2: -e };
  }
  const h = normalHazard(w);
  return { value: logNormalSf(w), d1: -h, d2: -h * (h - w) };
}

export interface Problem {
  law: LifeLaw;
  /** w = kappa y - x'delta + offset. */
  y: readonly number[];
  x: readonly (readonly number[])[];
  event: readonly (0 | 1)[];
  offset: number;
}

const ITERATIONS = 200;
const HALVINGS = 60;

/** Rounding in a sum of log densities: never less than that of its terms, though the sum itself may be near zero. */
export const noiseOf = (value: number): number => 1e-14 * (1 + Math.abs(value));

/** (delta, kappa) at the maximum of the concave log likelihood; null when it runs away. */
export function maximise(p: Problem): number[] | null {
  const at = new Evaluator(p);
  const { size } = at;
  let [theta, trial] = [new Float64Array(size), new Float64Array(size)];
  theta[size - 1] = 1;
  let value = at.whole(theta);
  for (let i = 0; i < ITERATIONS; i++) {
    if (!newtonStep(at.information, at.gradient, at.step, size)) return null;
    const gain = product(at.step, at.gradient);
    let [there, length] = [Number.NEGATIVE_INFINITY, 1];
    for (let k = 0; k <= HALVINGS; k++, length /= 2) {
      for (let j = 0; j < size; j++) trial[j] = (theta[j] as number) + length * (at.step[j] as number);
      there = at.value(trial);
      if (there >= value - noiseOf(value)) break;
    }
    if (!Number.isFinite(there)) return null;
    [theta, trial] = [trial, theta];
    if (theta.some((v) => Math.abs(v) > RUNAWAY)) return null;
    value = at.whole(theta);
    if (gain < 0.01 * noiseOf(value)) return [...theta];
  }
  return null;
}
/** On scaled data no finite maximum lies out here. */
const RUNAWAY = 1e6;

function product(a: Float64Array, b: Float64Array): number {
  let sum = 0;
  for (let j = 0; j < a.length; j++) sum += (a[j] as number) * (b[j] as number);
  return sum;
}

/** Solves the information for the step in place, by Cholesky; false when it is not positive definite. */
function newtonStep(information: Float64Array, gradient: Float64Array, step: Float64Array, n: number): boolean {
  const l = information;
  for (let i = 0; i < n; i++)
    for (let j = 0; j <= i; j++) {
      let left = l[i * n + j] as number;
      const whole = left;
      for (let k = 0; k < j; k++) left -= (l[i * n + k] as number) * (l[j * n + k] as number);
      if (i === j) {
        if (!(left > 1e-13 * Math.abs(whole))) return false;
        l[i * n + i] = Math.sqrt(left);
      } else l[i * n + j] = left / (l[j * n + j] as number);
    }
  for (let i = 0; i < n; i++) {
    let left = gradient[i] as number;
    for (let k = 0; k < i; k++) left -= (l[i * n + k] as number) * (step[k] as number);
    step[i] = left / (l[i * n + i] as number);
  }
  for (let i = n - 1; i >= 0; i--) {
    let left = step[i] as number;
    for (let k = i + 1; k < n; k++) left -= (l[k * n + i] as number) * (step[k] as number);
    step[i] = left / (l[i * n + i] as number);
  }
  return true;
}

class Evaluator {
  readonly size: number;
  readonly gradient: Float64Array;
  /** Minus the second derivatives; the lower triangle. */
  readonly information: Float64Array;
  readonly step: Float64Array;
  private readonly rows: Float64Array;
  private readonly failures: number;

  constructor(private readonly p: Problem) {
    const width = p.x[0]?.length ?? 0;
    this.size = width + 1;
    this.gradient = new Float64Array(this.size);
    this.information = new Float64Array(this.size * this.size);
    this.step = new Float64Array(this.size);
    this.rows = new Float64Array(p.y.length * this.size);
    let failures = 0;
    for (let i = 0; i < p.y.length; i++) {
      const row = p.x[i] as readonly number[];
      for (let j = 0; j < width; j++) this.rows[i * this.size + j] = -(row[j] as number);
      this.rows[i * this.size + width] = p.y[i] as number;
      failures += p.event[i] as number;
    }
    this.failures = failures;
  }

  private standardised(theta: Float64Array, i: number): number {
    let w = this.p.offset;
    const from = i * this.size;
    for (let j = 0; j < this.size; j++) w += (this.rows[from + j] as number) * (theta[j] as number);
    return w;
  }

  value(theta: Float64Array): number {
    const kappa = theta[this.size - 1] as number;
    if (!(kappa > 0)) return Number.NEGATIVE_INFINITY;
    const weibull = this.p.law === "weibull";
    let value = this.failures * Math.log(kappa);
    for (let i = 0; i < this.p.y.length; i++) {
      const w = this.standardised(theta, i);
      const failed = this.p.event[i] === 1;
      if (weibull) value += (failed ? w : 0) - Math.exp(w);
      else value += failed ? logNormalPdf(w) : logNormalSf(w);
    }
    return value;
  }

  /** Value, with gradient and information filled in. */
  whole(theta: Float64Array): number {
    const { size, gradient, information, rows, p } = this;
    gradient.fill(0);
    information.fill(0);
    const kappa = theta[size - 1] as number;
    let value = this.failures * Math.log(kappa);
    for (let i = 0; i < p.y.length; i++) {
      const w = this.standardised(theta, i);
      const failed = p.event[i] === 1;
      let [d1, d2] = [-w, -1];
      if (p.law === "weibull") {
        const e = Math.exp(w);
        [d1, d2] = [failed ? 1 - e : -e, -e];
        value += failed ? w - e : -e;
      } else if (failed) value += logNormalPdf(w);
      else {
        const h = normalHazard(w);
        [d1, d2] = [-h, -h * (h - w)];
        value += logSfFrom(w, h);
      }
      const from = i * size;
      for (let j = 0; j < size; j++) {
        const a = rows[from + j] as number;
        gradient[j] = (gradient[j] as number) + d1 * a;
        for (let k = 0; k <= j; k++)
          information[j * size + k] = (information[j * size + k] as number) - d2 * a * (rows[from + k] as number);
      }
    }
    gradient[size - 1] = (gradient[size - 1] as number) + this.failures / kappa;
    information[size * size - 1] = (information[size * size - 1] as number) + this.failures / kappa ** 2;
    return value;
  }
}
/** Of the problem, without the constant sum of log t over failures. */
export const valueAt = (p: Problem, theta: readonly number[]): number => new Evaluator(p).value(Float64Array.from(theta));
