// With the scatter assumed (a log standard deviation, always printed), one shutdown is enough for a bound: log T is normal about an unknown
// middle. Complete runs: exact. Censored ones: the middle's likelihood under a flat prior, which is exact again when nothing is censored.
// No coverage is claimed, for the scatter is not measured.

import { bisect } from "./roots.ts";
import { logNormalPdf, logNormalSf, normalQuantile } from "./distributions.ts";
import type { Lifetimes } from "./lifetimes.ts";
import { requireLifetimes } from "./lifetimes.ts";

/** Adjustable; cold runs of one unit in one condition scatter by 5 to 15 % (estimate of the design, common practice). */
export const ASSUMED_SD = 0.1;

/** Lower bound of the p quantile. `RangeError` without a shutdown: then only the distribution-free statement stands. */
export function assumedScatterLower(data: Lifetimes, sd: number, p: number, confidence: number): number {
  requireLifetimes(data);
  if (!(sd > 0)) throw new RangeError(`sd must be positive, got ${sd}`);
  if (!data.event.includes(1)) throw new RangeError("event must hold at least one shutdown");
  return Math.exp(middleLower(data, sd, confidence) + sd * normalQuantile(p));
}

function middleLower(data: Lifetimes, sd: number, confidence: number): number {
  const logs = data.time.map((t) => Math.log(t));
  const n = logs.length;
  if (data.event.every((e) => e === 1)) return logs.reduce((a, b) => a + b, 0) / n - (sd * normalQuantile(confidence)) / Math.sqrt(n);
  return posteriorQuantile(data, logs, sd, 1 - confidence);
}

const POINTS = 2001;
/** The posterior lies well within this many standard deviations of the shutdowns and censorings. */
const REACH = 12;

function posteriorQuantile(data: Lifetimes, logs: readonly number[], sd: number, share: number): number {
  const [from, to] = [Math.min(...logs) - REACH * sd, Math.max(...logs) + REACH * sd];
  const at = Array.from({ length: POINTS }, (_, i) => from + ((to - from) * i) / (POINTS - 1));
  const density = at.map((mu) =>
    logs.reduce((sum, log, i) => sum + (data.event[i] === 1 ? logNormalPdf((log - mu) / sd) : logNormalSf((log - mu) / sd)), 0),
  );
  const most = Math.max(...density);
  const weights = density.map((d) => Math.exp(d - most));
  const cumulative: number[] = [];
  weights.forEach((w, i) => cumulative.push((cumulative[i - 1] ?? 0) + (i === 0 ? 0 : (w + (weights[i - 1] ?? 0)) / 2)));
  const whole = cumulative.at(-1) ?? 1;
  const step = (to - from) / (POINTS - 1);
  const shareBelow = (mu: number): number => {
    const i = Math.min(POINTS - 2, Math.floor((mu - from) / step));
    const part = (mu - (at[i] ?? from)) / step;
    return ((cumulative[i] ?? 0) + part * ((cumulative[i + 1] ?? 0) - (cumulative[i] ?? 0))) / whole;
  };
  return bisect((mu) => shareBelow(mu) - share, from, to, 1e-12);
}
