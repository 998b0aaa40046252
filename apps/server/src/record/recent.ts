// What this process last saw of runs and sessions under way: a hint, never the truth. Whoever uses it checks the cursor under the row's lock,
// so several servers on one database stay right; a server that guessed wrong reads again.

import type { Fact } from "@keep-rolling/core/facts";
import type { Locked } from "./aggregate.ts";

export interface Recent extends Locked {
  facts: readonly Fact[];
}
export interface RecentFacts {
  get(id: string): Recent | undefined;
  set(id: string, recent: Recent): void;
  forget(id: string): void;
  clear(): void;
}

/** Keeps the `max` used last. Ids are unique across runs and sessions. */
export function createRecent(max = 200): RecentFacts {
  const known = new Map<string, Recent>();
  const set = (id: string, recent: Recent): void => {
    const before = known.get(id);
    // A slower answer must not push a newer one out.
    if (before !== undefined && before.lastSeq > recent.lastSeq) return;
    known.delete(id);
    known.set(id, recent);
    const oldest = known.keys().next().value;
    if (known.size > max && oldest !== undefined) known.delete(oldest);
  };
  return { get: (id) => known.get(id), set, forget: (id) => void known.delete(id), clear: () => known.clear() };
}
