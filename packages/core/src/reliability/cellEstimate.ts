// The maximum of the life model for cells that have each a middle of their own and share one scatter. The information is an arrow (each middle
// meets only the scatter), so a Newton step costs a division a cell: pools of hundreds of runs are resampled in the time of a few.
// Agrees with lifeModel.ts on the same data; that is its check.

import { logNormalPdf, normalHazard } from "../numeric/index.ts";
import type { LifeLaw } from "./lifeLikelihood.ts";
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
  const logs = cells.map((c) => c.time.map((t) => Math.log(t)));
  const means = logs.map((l) => l.reduce((a, b) => a + b, 0) / l.length);
  const runs = logs.reduce((n, l) => n + l.length, 0);
  const spread = Math.sqrt(logs.reduce((s, l, c) => s + l.reduce((q, v) => q + (v - (means[c] ?? 0)) ** 2, 0), 0) / runs);
  if (!(spread > 0)) return null;
  const y = logs.map((l, c) => Float64Array.from(l, (v) => (v - (means[c] ?? 0)) / spread));
  const best = climbTo({ y, event: cells.map((c) => c.event), law });
  if (best === null) return null;
  const kappa = best.kappa;
  return { sigma: spread / kappa, middles: means.map((m, c) => m + (spread * (best.delta[c] as number)) / kappa) };
}

interface Problem {
  y: readonly Float64Array[];
  event: readonly (readonly (0 | 1)[])[];
  law: LifeLaw;
}
interface Theta {
  delta: Float64Array;
  kappa: number;
}

function climbTo(p: Problem): Theta | null {
  const n = p.y.length;
  let theta: Theta = { delta: new Float64Array(n), kappa: 1 };
  let here = evaluate(p, theta);
  for (let i = 0; i < ITERATIONS; i++) {
    const { a, b, d, g, gKappa } = here;
    let [schur, right] = [d, gKappa];
    for (let c = 0; c < n; c++) {
      if (!((a[c] as number) > 0)) return null;
      schur -= (b[c] as number) ** 2 / (a[c] as number);
      right -= ((b[c] as number) * (g[c] as number)) / (a[c] as number);
    }
    if (!(schur > 1e-13 * d)) return null;
    const kappaStep = right / schur;
    const step = Float64Array.from(a, (v, c) => ((g[c] as number) - (b[c] as number) * kappaStep) / v);
    const gain = step.reduce((s, v, c) => s + v * (g[c] as number), kappaStep * gKappa);
    let [next, there, length] = [theta, here, 1];
    for (let k = 0; k <= HALVINGS; k++, length /= 2) {
      next = { delta: theta.delta.map((v, c) => v + length * (step[c] as number)), kappa: theta.kappa + length * kappaStep };
      there = evaluate(p, next);
      if (there.value >= here.value - 1e-14 * Math.abs(here.value)) break;
    }
    if (!Number.isFinite(there.value) || next.kappa > RUNAWAY) return null;
    [theta, here] = [next, there];
    if (gain < 1e-18 + 1e-16 * Math.abs(here.value)) return theta;
  }
  return null;
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

function evaluate({ y, event, law }: Problem, { delta, kappa }: Theta): Evaluated {
  const n = y.length;
  const out: Evaluated = { value: 0, a: new Float64Array(n), b: new Float64Array(n), d: 0, g: new Float64Array(n), gKappa: 0 };
  if (!(kappa > 0)) return { ...out, value: Number.NEGATIVE_INFINITY };
  const weibull = law === "weibull";
  let failures = 0;
  for (let c = 0; c < n; c++) {
    const [ys, events] = [y[c] as Float64Array, event[c] as readonly number[]];
    for (let i = 0; i < ys.length; i++) {
      const at = ys[i] as number;
      const w = kappa * at - (delta[c] as number);
      const failed = events[i] === 1;
      if (failed) failures++;
      let [d1, d2] = [-w, -1];
      if (weibull) {
        const e = Math.exp(w);
        [d1, d2] = [failed ? 1 - e : -e, -e];
        out.value += failed ? w - e : -e;
      } else if (failed) out.value += logNormalPdf(w);
      else {
        const h = normalHazard(w);
        [d1, d2] = [-h, -h * (h - w)];
        out.value += logNormalPdf(w) - Math.log(h);
      }
      out.g[c] = (out.g[c] as number) - d1;
      out.gKappa += d1 * at;
      out.a[c] = (out.a[c] as number) - d2;
      out.b[c] = (out.b[c] as number) + d2 * at;
      out.d -= d2 * at * at;
    }
  }
  out.value += failures * Math.log(kappa);
  out.gKappa += failures / kappa;
  out.d += failures / kappa ** 2;
  return out;
}
