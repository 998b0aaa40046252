// The heat ledger: what every powered interval of a unit leaves in it, as a share of the rise from ambient to shutdown. One lumped
// body: while powered, heat runs towards a plateau; off, towards zero; both with the time constant tau. Void runs heat as others do.
// A shutdown is itself a measurement: heat is 1 at that moment. Until a log fits tau, the protocol's printed default stands.

import type { RunFold } from "../runs/index.ts";

/** The default time constant, minutes (estimate, ours). */
export const DEFAULT_TAU_MIN = 30;
/** A start above this share is a warm start. */
export const WARM_SHARE = 0.1;
/** Powered but not recording (estimate, ours). */
export const IDLE_PLATEAU = 0.35;
/** A mode never yet ended by heat is taken to level off just at shutdown: against us. */
export const UNKNOWN_PLATEAU = 1;

export interface HeatInterval {
  fromMs: number;
  toMs: number;
  /** Where heat would settle if this went on for ever, share of the shutdown rise, 0 or more. */
  plateau: number;
  /** It ended by thermal shutdown: heat was 1 at `toMs`. */
  shutdown: boolean;
}

function requireTau(tauMs: number): void {
  if (!(tauMs > 0)) throw new RangeError(`tauMs must be positive, got ${tauMs}`);
}

/**
 * Heat share at `atMs`, at most 1. Intervals may come in any order and may overlap; where they do, the hotter counts. What lies after
 * `atMs` is left out, what reaches across it is cut. Exact between the steps.
 */
export function heatShare(intervals: readonly HeatInterval[], tauMs: number, atMs: number): number {
  requireTau(tauMs);
  const past = intervals.filter((i) => i.fromMs < atMs);
  const cuts = [...new Set(past.flatMap((i) => [i.fromMs, Math.min(i.toMs, atMs)]))].sort((a, b) => a - b);
  let heat = 0;
  let sinceMs = cuts[0] ?? atMs;
  for (const cutMs of [...cuts, atMs]) {
    const plateau = past.filter((i) => i.fromMs <= sinceMs && i.toMs >= cutMs).reduce((most, i) => Math.max(most, i.plateau), 0);
    heat = Math.min(1, plateau + (heat - plateau) * Math.exp((sinceMs - cutMs) / tauMs));
    if (past.some((i) => i.shutdown && i.toMs === cutMs)) heat = 1;
    sinceMs = cutMs;
  }
  return heat;
}

/** Rest in ms, powered off, until heat has fallen below `share`; 0 when it is there already. */
export function restNeededMs(heat: number, tauMs: number, share = WARM_SHARE): number {
  requireTau(tauMs);
  if (!(share > 0)) throw new RangeError(`share must be positive, got ${share}`);
  // One second more, so that the start lies below the share and not on it.
  return heat < share ? 0 : Math.ceil(tauMs * Math.log(heat / share) + 1000);
}

/** The plateau of a mode that needs `shutdownMs` from cold to shutdown: 1 / (1 - e^(-t/tau)). */
export function plateauOf(shutdownMs: number, tauMs: number): number {
  requireTau(tauMs);
  if (!(shutdownMs > 0)) throw new RangeError(`shutdownMs must be positive, got ${shutdownMs}`);
  return 1 / -Math.expm1(-shutdownMs / tauMs);
}

/** What one run leaves: its segments at `plateau` (an idle run's idling), its body-on gaps idling; a powered-off gap cools. An open run reaches to `nowMs`. */
export function intervalsOf(fold: RunFold, plateau: number, nowMs: number): HeatInterval[] {
  const untilMs = fold.end?.hiMs ?? fold.voidedMs ?? nowMs;
  const recording = fold.setup?.runKind === "idle" ? IDLE_PLATEAU : plateau;
  const spans = [
    ...fold.segments.map((s) => ({ fromMs: s.fromMs, toMs: s.toMs ?? untilMs, plateau: recording })),
    ...fold.gaps.filter((g) => g.power === "on").map((g) => ({ fromMs: g.fromMs, toMs: g.toMs ?? untilMs, plateau: IDLE_PLATEAU })),
  ];
  const shutdownMs = fold.end?.cause === "thermal shutdown" ? fold.end.hiMs : null;
  const intervals = spans.map((s) => ({ ...s, shutdown: s.toMs === shutdownMs }));
  // A refusal records nothing and still says how hot the body was.
  if (shutdownMs !== null && !intervals.some((i) => i.shutdown))
    intervals.push({ fromMs: shutdownMs - 1, toMs: shutdownMs, plateau: 1, shutdown: true });
  return intervals.filter((i) => i.toMs > i.fromMs || i.shutdown);
}
