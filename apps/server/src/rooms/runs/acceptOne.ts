// The quick way for the one mark a key press makes: judged from what this process knows of the run, then stored in one round trip
// whose first statement proves, under the row's lock, that the knowledge was complete. Anything unusual takes the long way.

import type { StoredMark } from "@keep-rolling/contract/marks";
import type { Mark, RunFold } from "@keep-rolling/core/runs";
import { actsOn, foldRun, isForeign } from "@keep-rolling/core/runs";
import type { Deps } from "../../deps.ts";
import { storeNext } from "./markStore.ts";

/** What the cached columns of a run are made from. */
export const CACHED = ["time", "surroundings", "warnings"] as const;

export interface AcceptedOne {
  stored: StoredMark;
  clockId: string;
  /** Null: this kind changes nothing that is cached. */
  fold: RunFold | null;
}

/** Null: not stored this way; nothing was changed. */
export async function acceptOne(deps: Deps, mark: Mark): Promise<AcceptedOne | null> {
  const known = deps.recent.get(mark.runId);
  if (known === undefined || mark.kind === "start" || !isNew(mark, known.marks)) return null;
  const seq = known.lastSeq + 1;
  const marks = [...known.marks, mark];
  // A foreign kind changes nothing that this program caches.
  const fold = !isForeign(mark) && actsOn(mark.kind, CACHED) ? foldRun(marks) : null;
  const receivedAtMs = deps.now();
  if (!(await storeNext(deps.db, mark, seq, receivedAtMs, fold))) {
    deps.recent.forget(mark.runId);
    return null;
  }
  deps.recent.set(mark.runId, { ...known, lastSeq: seq, marks });
  return { stored: { seq, receivedAtMs, mark }, clockId: known.clockId, fold };
}

function isNew(mark: Mark, known: readonly Mark[]): boolean {
  if (known.some((m) => m.id === mark.id || (m.deviceId === mark.deviceId && m.deviceSeq === mark.deviceSeq))) return false;
  return mark.target === undefined || known.some((m) => m.id === mark.target);
}
