// The five laws a recording time may follow, each location and scale on a transformed time v: w = (v - mu) / s. Two families: the logarithm of the
// time (lognormal, Weibull), and how near the rise has come to its plateau after that time (for three time constants).
// Source: worked out for this project; docs/methods/dependable-limit.md.

import { logNormalPdf, normalQuantile } from "../distributions.ts";
import { logSf, sf } from "./normalTable.ts";

export const FAMILIES = ["log time", "plateau"] as const;
export type Family = (typeof FAMILIES)[number];

export interface Law {
  name: "lognormal" | "weibull" | "plateau low" | "plateau" | "plateau high";
  family: Family;
  /** Normal in w, else smallest extreme value. */
  normal: boolean;
  /** Time constant of a plateau law, seconds. */
  tauSec: number | null;
  /** Transformed time of a time in seconds > 0. */
  v(sec: number): number;
  /** Back to seconds; infinite where the plateau is never left. */
  sec(v: number): number;
  /** Scale s for a scatter sigma of log time. */
  scale(sigma: number): number;
  /** w below which a share p of runs ends. */
  z(p: number): number;
  logDensity(w: number): number;
  logSurvival(w: number): number;
  survival(w: number): number;
}

const SQRT6_PI = Math.sqrt(6) / Math.PI;

const lognormal: Law = {
  name: "lognormal",
  family: "log time",
  normal: true,
  tauSec: null,
  v: Math.log,
  sec: Math.exp,
  scale: (sigma) => sigma,
  z: normalQuantile,
  logDensity: logNormalPdf,
  logSurvival: logSf,
  survival: sf,
};

const weibull: Law = {
  ...lognormal,
  name: "weibull",
  normal: false,
  scale: (sigma) => sigma * SQRT6_PI,
  z: (p) => Math.log(-Math.log1p(-p)),
  logDensity: (w) => w - Math.exp(w),
  logSurvival: (w) => -Math.exp(w),
  survival: (w) => Math.exp(-Math.exp(w)),
};

const plateau = (name: Law["name"], tauSec: number): Law => ({
  ...lognormal,
  name,
  family: "plateau",
  tauSec,
  v: (sec) => Math.log(-Math.expm1(-sec / tauSec)),
  sec: (v) => (v >= 0 ? Number.POSITIVE_INFINITY : -tauSec * Math.log1p(-Math.exp(v))),
});

/** `factor` >= 1: the time constant lies between tauSec / factor and tauSec * factor. */
export function lawsFor(tauSec: number, factor: number): readonly Law[] {
  if (!(tauSec > 0)) throw new RangeError(`tauSec must be positive, got ${tauSec}`);
  if (!(factor >= 1)) throw new RangeError(`factor must be at least 1, got ${factor}`);
  return [
    lognormal,
    weibull,
    plateau("plateau low", tauSec / factor),
    plateau("plateau", tauSec),
    plateau("plateau high", tauSec * factor),
  ];
}
