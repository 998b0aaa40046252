// Runs after runs: the recovery run after a rest, the fallback run in a lighter mode, and the chain they make. The rest is measured, from
// the end of the one to the start of the other; zero recorded time is a result.

import type { RunFold } from "./fold.ts";
import type { StartBody } from "./kinds/start.ts";
import type { Ambient } from "./vocabulary.ts";
import type { ModeSnapshot, UnitSnapshot } from "../kit/index.ts";

export type FollowUpKind = "recovery" | "fallback";

export interface FollowUp {
  parentRunId: string;
  parent: RunFold;
  kind: FollowUpKind;
  nowMs: number;
  /** The body as it is now: its firmware may have changed. */
  unit?: UnitSnapshot;
  /** For a fallback: the lighter mode. */
  mode?: ModeSnapshot;
}

/** The start of the next run with everything filled in; null unless the parent has ended. Hours of rest are rounded down. */
export function followUpStart({ parentRunId, parent, kind, nowMs, unit, mode }: FollowUp): StartBody | null {
  if (parent.setup === null || parent.end === null) return null;
  const { slot: _slot, duty: _duty, ...setup } = parent.setup;
  const hours = Math.max(0, Math.floor(((nowMs - parent.end.hiMs) / 3_600_000) * 100) / 100);
  const read = parent.readings.findLast((r) => r.body.ambientC !== undefined)?.body.ambientC;
  return {
    ...setup,
    runKind: kind,
    unit: unit ?? setup.unit,
    mode: mode ?? setup.mode,
    ambient: read === undefined ? carried(setup.ambient) : { ...setup.ambient, valueC: read, basis: "measured" },
    startState: { state: "warm", by: "hours since last powered", value: hours },
    parentRunId,
  };
}

/** Nobody measured it again: it is said to be carried over. */
const carried = (ambient: Ambient): Ambient => (ambient.basis === "not recorded" ? ambient : { ...ambient, basis: "as in the last run" });

/** Powered-off time between two runs, ms, by the bounds of the first one's end: `lo` is the rest that is certain. Null when either is missing. */
export function restBetween(parent: RunFold, child: RunFold): { lo: number; hi: number } | null {
  if (parent.end === null || child.startMs === null || child.startMs < parent.end.loMs) return null;
  return { lo: Math.max(0, child.startMs - parent.end.hiMs), hi: child.startMs - parent.end.loMs };
}

export interface Linked {
  id: string;
  fold: RunFold;
}

/** The chain a run belongs to, from the first run on, in order of start; void runs left out but for the run asked for. A loop of links ends where it closes. */
export function chainOf(id: string, runs: readonly Linked[]): Linked[] {
  const byId = new Map(runs.map((r) => [r.id, r]));
  const seen = new Set<string>();
  let root = byId.get(id);
  while (root !== undefined && !seen.has(root.id)) {
    seen.add(root.id);
    const parent = byId.get(root.fold.setup?.parentRunId ?? "");
    if (parent === undefined) break;
    root = parent;
  }
  const chain = new Map<string, Linked>();
  const walk = (run: Linked): void => {
    if (chain.has(run.id)) return;
    chain.set(run.id, run);
    for (const child of runs) if (child.fold.setup?.parentRunId === run.id && (child.fold.state !== "void" || child.id === id)) walk(child);
  };
  if (root !== undefined) walk(root);
  return [...chain.values()].sort((a, b) => (a.fold.startMs ?? 0) - (b.fold.startMs ?? 0) || (a.id < b.id ? -1 : 1));
}
