// What a cause costs: log runtime on modes, ambient, start heat and yes/no settings, one scatter for all. Complete data: exact t intervals.
// With censoring: the bootstrap pivot, or above a size where it no longer matters, Wald with t and the scatter freed of its bias.

import { shutdownsOf } from "../cells/index.ts";
import { lifetimesOf } from "../cells/index.ts";
import { quadratic, studentQuantile } from "../statistics/index.ts";
import { randomFrom } from "../statistics/index.ts";
import type { CandidateRun } from "../cells/index.ts";
import type { LifeFit } from "../statistics/index.ts";
import { bootstrapPivots, fitLife, pivotInterval } from "../statistics/index.ts";
import { modeKey } from "../kit/index.ts";
import type { Cause, Column } from "./causes.ts";
import { columnsOf, modeFactors, separate, SLOPES } from "./causes.ts";
import type { RunRecord, UnitRecords } from "./records.ts";
import { recordOf } from "./records.ts";

export interface Factor {
  mid: number;
  lo: number;
  hi: number;
}
export interface Effect {
  cause: Cause;
  /** Causes that always came with it: the factor is that of all together. */
  together: Cause[];
  /** Runtime is multiplied by this for a step of the cause, 90 % interval rounded outwards. */
  factor: Factor;
  /** The factor is that of the one pair of cells that differs in it alone; absent: of all runs together. */
  byPair?: boolean;
  /** Runs with and without it, for a yes/no cause. */
  yes: number | null;
  no: number | null;
}
export interface EffectsFit {
  ok: true;
  by: "exact" | "pivot" | "large-sample";
  n: number;
  shutdowns: number;
  sd: number;
  effects: Effect[];
  /** Causes that came with one mode only, so neither can be told from the other. */
  withMode: Cause[];
  /** Nothing ended by heat with (or without) this cause: its effect has no end. */
  unbounded: { cause: Cause; value: boolean; runs: number }[];
  runIds: string[];
  /** For predictions: the fit, its design and what the columns are. */
  model: { fit: LifeFit; columns: Column[]; modes: string[]; records: RunRecord[] };
}
export type EffectsResult =
  | EffectsFit
  /** `unbounded`: what set runs aside before the rest could be compared. */
  | { ok: false; reason: "too-few-runs" | "nothing-varies" | "no-fit"; runs: number; unbounded?: EffectsFit["unbounded"] };

export const EFFECT_CONFIDENCE = 0.9;
const PIVOT_COST_MOST = 25_000;
const EFFECT_DRAWS = 1000;

/** Runs whose heat at the start is known by the ledger join in, warm ones too: that is what their covariate is for. */
export function effectRecords(unit: UnitRecords, candidates: readonly CandidateRun[]): RunRecord[] {
  const folds = new Map(candidates.map((c) => [c.runId, c.fold]));
  const joins: readonly string[] = ["warm start", "ambient outside the condition", "recovery or fallback run"];
  return unit.cells.flatMap((cell) => [
    ...cell.records,
    ...cell.reading.runs.leftOut.flatMap(({ runId, because, wouldBe }) => {
      const fold = folds.get(runId);
      return wouldBe === null || fold === undefined || !joins.includes(because)
        ? []
        : recordOf(wouldBe, fold, unit.startHeat.get(runId) ?? 0, null);
    }),
  ]);
}

export function effectsOf(all: readonly RunRecord[], seed = 20_310_602): EffectsResult {
  const withHeat = all.filter((r) => shutdownsOf(all).some((s) => modeKey(s.setup.mode) === modeKey(r.setup.mode)));
  const { records, unbounded } = bounded(withHeat);
  const varying = columnsOf(records);
  if (varying.length === 0) return { ok: false, reason: "nothing-varies", runs: records.length, unbounded };
  const { columns, bundles, withMode } = separate(varying, records);
  const { rows, keys } = modeFactors(records);
  const design = rows.map((r, i) => [...r.slice(1), ...columns.map((c) => c.values[i] ?? 0)]);
  const width = keys.length + columns.length;
  if (shutdownsOf(records).length < width + 2) return { ok: false, reason: "too-few-runs", runs: records.length };
  if (columns.length === 0) return { ok: false, reason: "nothing-varies", runs: records.length };
  const data = lifetimesOf(records);
  const fit = fitLife(data, "lognormal", design);
  if (!fit.ok) return { ok: false, reason: "no-fit", runs: records.length };
  const { by, interval } = intervalsBy(records, design, fit, seed);
  if (by === null) return { ok: false, reason: "no-fit", runs: records.length };
  const effects = columns.map(({ cause, values }, i): Effect => {
    const step = SLOPES[cause] ?? 1;
    const b = fit.coef[keys.length + i] ?? 0;
    const range = interval(keys.length + i);
    const yes = SLOPES[cause] === undefined ? values.filter((v) => v === 1).length : null;
    const together = (bundles.find((g) => g[0] === cause) ?? []).slice(1);
    return {
      cause,
      together,
      factor: { mid: Math.exp(step * b), lo: Math.exp(step * range.lo), hi: Math.exp(step * range.hi) },
      yes,
      no: yes === null ? null : values.length - yes,
    };
  });
  const { n, failures } = fit;
  return {
    ok: true,
    by,
    n,
    shutdowns: failures,
    sd: fit.sigma * Math.sqrt(n / (n - width)),
    effects,
    withMode,
    unbounded,
    runIds: records.map((r) => r.runId),
    model: { fit, columns, modes: keys, records },
  };
}

/** A side of a yes/no cause on which nothing ended by heat has no finite effect: its runs are set aside, and said. */
function bounded(records: readonly RunRecord[]): { records: RunRecord[]; unbounded: EffectsFit["unbounded"] } {
  const unbounded: EffectsFit["unbounded"] = [];
  let left = [...records];
  for (const { cause } of columnsOf(records)) {
    if (SLOPES[cause] !== undefined) continue;
    const column = columnsOf(left).find((c) => c.cause === cause);
    if (column === undefined) continue;
    for (const side of [0, 1]) {
      const here = left.filter((_, i) => column.values[i] === side);
      if (shutdownsOf(here).length > 0 || here.length === 0) continue;
      unbounded.push({ cause, value: side === 1, runs: here.length });
      left = left.filter((r) => !here.includes(r));
      break;
    }
  }
  return { records: left, unbounded };
}

interface Intervals {
  by: EffectsFit["by"] | null;
  interval: (j: number) => { lo: number; hi: number };
}

function intervalsBy(records: readonly RunRecord[], design: readonly (readonly number[])[], fit: LifeFit, seed: number): Intervals {
  const width = fit.coef.length;
  const complete = records.every((r) => r.event === 1);
  const large = fit.n * width ** 2 > PIVOT_COST_MOST;
  if (complete || large) {
    const t = studentQuantile((1 + EFFECT_CONFIDENCE) / 2, Math.max(1, fit.failures - width));
    const freed = Math.sqrt(fit.n / (fit.n - width));
    const interval = (j: number): { lo: number; hi: number } => {
      const half = t * freed * Math.sqrt(fit.covariance[j]?.[j] ?? 0);
      return { lo: (fit.coef[j] ?? 0) - half, hi: (fit.coef[j] ?? 0) + half };
    };
    return { by: complete ? "exact" : "large-sample", interval };
  }
  const cutAt = records.map((r) => (r.event === 0 ? r.timeSec : Number.POSITIVE_INFINITY));
  const pivots = bootstrapPivots(
    { data: lifetimesOf(records), design, law: "lognormal", cutAt, quantiles: [], draws: EFFECT_DRAWS },
    randomFrom(seed),
  );
  if (!pivots.ok) return { by: null, interval: () => ({ lo: 0, hi: 0 }) };
  return { by: "pivot", interval: (j) => pivotInterval(pivots, j, EFFECT_CONFIDENCE) };
}

/** Typical time at a row of the model, seconds, with a 90 % interval of the middle. Row: mode key, then a value for each of the model's columns. */
export function predict({ model }: EffectsFit, mode: string, values: readonly number[]): Factor | null {
  const i = model.modes.indexOf(mode);
  if (i < 0) return null;
  const row = [1, ...model.modes.slice(1).map((_, j) => Number(j + 1 === i)), ...values];
  const { fit } = model;
  const log = row.reduce((sum, v, j) => sum + v * (fit.coef[j] ?? 0), 0);
  const t = studentQuantile((1 + EFFECT_CONFIDENCE) / 2, Math.max(1, fit.failures - fit.coef.length));
  const half = t * Math.sqrt((fit.n / (fit.n - fit.coef.length)) * quadratic(fit.covariance, [...row, 0]));
  return { mid: Math.exp(log), lo: Math.exp(log - half), hi: Math.exp(log + half) };
}
