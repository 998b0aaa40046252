// The quick way for the one fact a key press makes: judged from what this process knows of its run or session, then stored in one round trip
// whose first statement proves, under the row's lock, that the knowledge was complete. Anything unusual takes the long way.

import type { Fact } from "@keep-rolling/core/facts";
import type { Deps } from "../deps.ts";
import type { Aggregate, Stored } from "./aggregate.ts";
import { idOf } from "./aggregate.ts";
import { storeNext } from "./factStore.ts";
import type { Recent } from "./recent.ts";

/** Null: not stored this way; nothing was changed. */
export async function acceptOne(deps: Deps, a: Aggregate, fact: Fact): Promise<{ stored: Stored; known: Recent } | null> {
  const id = idOf(a, fact);
  const before = deps.recent.get(id);
  if (before === undefined || !isNew(fact, before.facts)) return null;
  const stored = { seq: before.lastSeq + 1, receivedAtMs: deps.now(), fact };
  const known = { ...before, lastSeq: stored.seq, facts: [...before.facts, fact] };
  const cache = a.changesCache(fact.kind) ? a.cache(id, known.facts) : null;
  if (!(await storeNext(deps.db, a, stored, cache))) {
    deps.recent.forget(id);
    return null;
  }
  deps.recent.set(id, known);
  return { stored, known };
}

function isNew(fact: Fact, known: readonly Fact[]): boolean {
  if (known.some((f) => f.id === fact.id || (f.deviceId === fact.deviceId && f.deviceSeq === fact.deviceSeq))) return false;
  return fact.target === undefined || known.some((f) => f.id === fact.target);
}
