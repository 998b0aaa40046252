// The one order of facts: (atMs, rank, deviceId, deviceSeq, id). Delivery order never enters.

import type { Fact } from "./fact.ts";
import type { FactKinds } from "./kind.ts";
import { OTHER_RANK } from "./kind.ts";

const compareText = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0);

/** Total order of facts of these kinds; two compare equal only when they have the same id. */
export const orderOf =
  (kinds: FactKinds) =>
  (a: Fact, b: Fact): number =>
    a.atMs - b.atMs ||
    (kinds[a.kind]?.rank ?? OTHER_RANK) - (kinds[b.kind]?.rank ?? OTHER_RANK) ||
    compareText(a.deviceId, b.deviceId) ||
    a.deviceSeq - b.deviceSeq ||
    compareText(a.id, b.id);

/** One fact per id. Same id with another body never passes the server; should it, the choice is by content, not by arrival. */
export function distinctFacts<F extends Fact>(facts: readonly F[]): Map<string, F> {
  const byId = new Map<string, F>();
  for (const fact of facts) {
    const known = byId.get(fact.id);
    if (known === undefined || (known !== fact && compareText(JSON.stringify(fact), JSON.stringify(known)) < 0)) byId.set(fact.id, fact);
  }
  return byId;
}
