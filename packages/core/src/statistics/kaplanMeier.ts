// Product-limit estimate of survival (Kaplan and Meier 1958) with Greenwood's variance and log-log limits, which stay within 0 and 1.
// Events come before censorings at ties. Checked against R survival::survfit.

import { normalQuantile } from "./distributions.ts";
import type { Lifetimes } from "./lifetimes.ts";
import { requireLifetimes } from "./lifetimes.ts";

export interface SurvivalStep {
  time: number;
  atRisk: number;
  events: number;
  censored: number;
  /** S(t) just after `time`. */
  survival: number;
  /** Greenwood standard error of S; null where S is 0. */
  se: number | null;
  /** Two-sided limits of S on the log-log scale; null where S is 0 or 1. */
  logLog: { lower: number; upper: number } | null;
  /** Two-sided limits on the log scale, upper cut at 1; null where S is 0 or 1. */
  log: { lower: number; upper: number } | null;
}

/** One step a distinct time, censoring-only times included. Empty without data. */
export function kaplanMeier(data: Lifetimes, confidence: number): SurvivalStep[] {
  requireLifetimes(data);
  const z = normalQuantile((1 + confidence) / 2);
  const times = [...new Set(data.time)].sort((a, b) => a - b);
  let [survival, variance] = [1, 0];
  return times.map((time) => {
    const here = data.event.filter((_, i) => data.time[i] === time);
    const atRisk = data.time.filter((t) => t >= time).length;
    const events = here.filter((e) => e === 1).length;
    survival *= 1 - events / atRisk;
    variance += events === atRisk ? 0 : events / (atRisk * (atRisk - events));
    const open = survival > 0 && survival < 1;
    return {
      time,
      atRisk,
      events,
      censored: here.length - events,
      survival,
      se: survival > 0 ? survival * Math.sqrt(variance) : null,
      logLog: open ? logLogLimits(survival, variance, z) : null,
      log: open ? logLimits(survival, variance, z) : null,
    };
  });
}

function logLogLimits(s: number, variance: number, z: number): { lower: number; upper: number } {
  const half = (z * Math.sqrt(variance)) / Math.log(s);
  return { lower: s ** Math.exp(-half), upper: s ** Math.exp(half) };
}

function logLimits(s: number, variance: number, z: number): { lower: number; upper: number } {
  const factor = Math.exp(z * Math.sqrt(variance));
  return { lower: s / factor, upper: Math.min(1, s * factor) };
}

const EXACT = 1e-12;

/**
 * The time by which the share `p` has had its event: smallest t with S(t) <= 1 - p, the midpoint of the flat where S is exactly 1 - p.
 * Null: S never falls that far.
 */
export function survivalQuantile(steps: readonly Pick<SurvivalStep, "time" | "survival">[], p: number): number | null {
  const i = steps.findIndex((s) => s.survival <= 1 - p + EXACT);
  const step = steps[i];
  if (step === undefined) return null;
  if (Math.abs(step.survival - (1 - p)) > EXACT) return step.time;
  const next = steps.slice(i + 1).find((s) => s.survival < step.survival - EXACT);
  return next === undefined ? step.time : (step.time + next.time) / 2;
}
