// Why do the runs of one mode differ? Run by run against the longest that ended by heat from cold: what heat left at the start, the room and the settings
// cost each, in minutes, from what this body showed where it did and from the body's law where it did not; and what is left unexplained.
// Source of the law: the lumped body (docs/methods/lumped-body.md); worked out for this project in docs/methods/differences.md.

import type { LimitSettings } from "../statistics/index.ts";
import type { RunRecord } from "./records.ts";
import type { PhysicsFit } from "./ambient.ts";
import { timeAt } from "./ambient.ts";
import type { Cause } from "./causes.ts";
import { SLOPES, valueOf } from "./causes.ts";
import type { Effect } from "./effects.ts";

export interface Range {
  lo: number;
  hi: number;
}
export interface Cost {
  what: Cause;
  /** Start heat: share left; ambient: degrees warmer; else 1. */
  amount: number;
  /** Seconds it took off; null: nothing is known of it. */
  sec: Range | null;
  from: "recoveries" | "the body's law" | "runs at several temperatures" | "runs with and without" | "nothing";
  /** The number rests on something usual, not on this body. */
  weak: boolean;
}
export interface Difference {
  runId: string;
  timeSec: number;
  event: 0 | 1;
  /** How much shorter than the reference. */
  lessSec: number;
  costs: Cost[];
  /** What the costs leave of it, seconds; within the usual scatter of runs it is nothing. */
  left: Range;
  explained: boolean;
}
export type Differences =
  | { ok: true; referenceId: string; referenceSec: number; runs: Difference[] }
  | { ok: false; reason: "no-cold-shutdown" | "one-run" };

export interface DifferencesQuestion {
  /** Of one mode on one firmware, warm ones too. */
  records: readonly RunRecord[];
  tau: Pick<LimitSettings, "tauSec" | "tauFactor">;
  /** The time constant is fitted from this body's recoveries. */
  tauFitted: boolean;
  physics: PhysicsFit | null;
  effects: readonly Effect[];
  /** Log scatter of runs of one kind. */
  sd: number;
}

const COLD_MOST = 0.1;
/** Less heat at the start than this, and rooms nearer than this, make no difference worth naming. */
const [HEAT_LEAST, AMBIENT_LEAST_C] = [0.03, 1];
/** Shutdown lies usually so far above the room (common practice, no source), K. */
const USUAL_RISE_K = [25, 45] as const;
/** Two standard deviations of the difference of two runs. */
const SCATTERS = 2 * Math.SQRT2;

export function differencesOf(q: DifferencesQuestion): Differences {
  const cold = q.records.filter((r) => isSharp(r) && r.startHeat <= COLD_MOST);
  const reference = cold.reduce<RunRecord | null>((most, r) => (most === null || r.timeSec > most.timeSec ? r : most), null);
  if (reference === null) return { ok: false, reason: "no-cold-shutdown" };
  const others = q.records.filter((r) => r !== reference && isSharp(r) && r.timeSec > 0).sort((a, b) => b.timeSec - a.timeSec);
  if (others.length === 0) return { ok: false, reason: "one-run" };
  return {
    ok: true,
    referenceId: reference.runId,
    referenceSec: reference.timeSec,
    runs: others.map((run) => differenceOf(q, reference, run)),
  };
}

/** Ended by heat at a time that is known: what was found off lasted nobody knows how long. */
const isSharp = (r: RunRecord): boolean => r.lasted.kind === "exact";

function differenceOf(q: DifferencesQuestion, reference: RunRecord, run: RunRecord): Difference {
  const costs = [heatCost(q, run), ambientCost(q, reference, run), ...settingCosts(q, reference, run)].filter((c) => c !== null);
  const lessSec = reference.timeSec - run.timeSec;
  const left = costs.reduce<Range>(({ lo, hi }, { sec }) => (sec === null ? { lo, hi } : { lo: lo - sec.hi, hi: hi - sec.lo }), {
    lo: lessSec,
    hi: lessSec,
  });
  const scatterSec = SCATTERS * q.sd * Math.max(run.timeSec, reference.timeSec);
  const { runId, timeSec, event } = run;
  return { runId, timeSec, event, lessSec, costs, left, explained: left.lo <= scatterSec && left.hi >= -scatterSec };
}

const taus = ({ tauSec, tauFactor }: DifferencesQuestion["tau"]): number[] => [tauSec / tauFactor, tauSec, tauSec * tauFactor];
const rangeOf = (values: readonly number[]): Range => ({ lo: Math.min(...values), hi: Math.max(...values) });

/** How long it would have lasted from cold, by the body's law: it ran from a share of the shutdown rise. */
const fromColdSec = (timeSec: number, share: number, tauSec: number): number =>
  tauSec * Math.log((Math.exp(timeSec / tauSec) - share) / (1 - share));

function heatCost({ tau, tauFitted }: DifferencesQuestion, run: RunRecord): Cost | null {
  const share = Math.min(0.95, run.startHeat);
  if (share < HEAT_LEAST) return null;
  const costs = taus(tau).map((t) => fromColdSec(run.timeSec, share, t) - run.timeSec);
  return { what: "start heat", amount: share, sec: rangeOf(costs), from: tauFitted ? "recoveries" : "the body's law", weak: !tauFitted };
}

/** Against the reference's room; negative where its own was cooler. */
function ambientCost(q: DifferencesQuestion, reference: RunRecord, run: RunRecord): Cost | null {
  const warmer = run.setup.ambient.valueC - reference.setup.ambient.valueC;
  if (Math.abs(warmer) < AMBIENT_LEAST_C) return null;
  const cost = (sec: Range, from: Cost["from"], weak: boolean): Cost => ({ what: "ambient", amount: warmer, sec, from, weak });
  if (q.physics !== null) {
    const times = q.physics.within.map(
      (p) =>
        timeAt(p.tauSec, p.criticalC, p.riseK, reference.setup.ambient.valueC) -
        timeAt(p.tauSec, p.criticalC, p.riseK, run.setup.ambient.valueC),
    );
    return cost(rangeOf(times), "runs at several temperatures", false);
  }
  const share = Math.min(0.95, run.startHeat);
  const times = taus(q.tau).flatMap((t) => USUAL_RISE_K.map((riseK) => cooler(fromColdSec(run.timeSec, share, t), riseK, warmer, t)));
  return cost(rangeOf(times), "the body's law", true);
}

/** How much longer it would have lasted in a room so much cooler, shutdown lying `riseK` above its own; what never ends counts as four time constants. */
function cooler(coldSec: number, riseK: number, byK: number, tauSec: number): number {
  const plateauK = riseK / -Math.expm1(-coldSec / tauSec);
  const left = 1 - Math.min(0.999, (riseK + byK) / plateauK);
  return Math.min(4 * tauSec, -tauSec * Math.log(left)) - coldSec;
}

/** Settings that differ from the reference's, each with what runs with and without it showed. */
function settingCosts({ effects }: DifferencesQuestion, reference: RunRecord, run: RunRecord): Cost[] {
  const causes = (Object.keys(SETTINGS) as (keyof typeof SETTINGS)[]).filter((c) => valueOf(c, run) !== valueOf(c, reference));
  const told = new Set<Cause>();
  return causes.flatMap((what): Cost[] => {
    if (told.has(what)) return [];
    const effect = effects.find((e) => SLOPES[e.cause] === undefined && (e.cause === what || e.together.includes(what)));
    for (const c of effect === undefined ? [what] : [effect.cause, ...effect.together]) told.add(c);
    if (effect === undefined) return [{ what, amount: 1, sec: null, from: "nothing", weak: true }];
    // With it the runtime is multiplied by the factor: without it this run would have been so much longer (or, where it helped, shorter).
    const has = valueOf(what, run) === 1;
    const without = [effect.factor.lo, effect.factor.hi].map((f) => run.timeSec * (has ? 1 / f - 1 : f - 1));
    return [{ what: effect.cause, amount: 1, sec: rangeOf(without), from: "runs with and without", weak: false }];
  });
}
const SETTINGS = {
  "direct sun": true,
  breeze: true,
  fan: true,
  "screen lit": true,
  "outside power": true,
  "high power-off setting": true,
  "autofocus hunting": true,
  pauses: true,
} as const;
