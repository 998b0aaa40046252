// Facts of one run or session into the record, inside a transaction of the caller: judged, inserted after the cursor, the cache renewed.

import { isDeepStrictEqual } from "node:util";
import type { MarkOutcome } from "@keep-rolling/contract/facts";
import type { Fact } from "@keep-rolling/core/facts";
import type { Tx } from "../db/connection.ts";
import type { Aggregate, Stored } from "./aggregate.ts";
import { idOf } from "./aggregate.ts";
import { findFacts, insertFacts, readFacts, renewCache, sequencesTaken } from "./factStore.ts";
import type { Recent } from "./recent.ts";

export interface Taken {
  outcomes: MarkOutcome[];
  stored: Stored[];
  /** Null when nothing was stored. */
  known: Recent | null;
  /** It was not here before. */
  fresh: boolean;
}

/** `facts`: of one owner, what is named before what names it. `recent`: a hint that spares reading it again. */
export async function takeFacts(
  tx: Tx,
  a: Aggregate,
  id: string,
  facts: readonly Fact[],
  receivedAtMs: (fact: Fact) => number,
  recent?: Recent,
): Promise<Taken> {
  for (const fact of facts) await a.open(tx, fact);
  const row = await a.lock(tx, id);
  if (row === null) {
    const outcomes = facts.map((f) => ({ id: f.id, outcome: "not yet" as const, reason: `its ${a.name} is not known here yet` }));
    return { outcomes, stored: [], known: null, fresh: false };
  }
  const fresh = row.lastSeq === 0;
  const { outcomes, stored } = await judgeAll(tx, a, id, facts, row.lastSeq, receivedAtMs);
  if (stored.length === 0) return { outcomes, stored, known: null, fresh };
  await insertFacts(tx, a, id, stored);
  const before = recent?.lastSeq === row.lastSeq ? recent.facts : await factsBefore(tx, a, id, row.lastSeq);
  const known = { ...row, lastSeq: row.lastSeq + stored.length, facts: [...before, ...stored.map((s) => s.fact)] };
  await renewCache(tx, a, id, known.facts);
  return { outcomes, stored, known, fresh };
}

const factsBefore = async (tx: Tx, a: Aggregate, id: string, lastSeq: number): Promise<Fact[]> =>
  ((await readFacts(tx, a, [id])).get(id) ?? []).filter((s) => s.seq <= lastSeq).map((s) => s.fact);

/** Every fact in its order; one may name another of the same batch. */
async function judgeAll(
  tx: Tx,
  a: Aggregate,
  id: string,
  facts: readonly Fact[],
  lastSeq: number,
  receivedAtMs: (fact: Fact) => number,
): Promise<{ outcomes: MarkOutcome[]; stored: Stored[] }> {
  const known = await findFacts(tx, a, [...new Set(facts.flatMap((f) => (f.target === undefined ? [f.id] : [f.id, f.target])))]);
  const taken = await sequencesTaken(tx, a, id, facts);
  const outcomes: MarkOutcome[] = [];
  const stored: Stored[] = [];
  for (const fact of facts) {
    const outcome = judge(a, fact, known, taken);
    if (outcome.outcome === "stored") {
      outcome.seq = lastSeq + stored.length + 1;
      const fresh = { seq: outcome.seq, receivedAtMs: receivedAtMs(fact), fact };
      stored.push(fresh);
      known.set(fact.id, fresh);
      taken.add(`${fact.deviceId} ${fact.deviceSeq}`);
    }
    outcomes.push(outcome);
  }
  return { outcomes, stored };
}

function judge(a: Aggregate, fact: Fact, known: ReadonlyMap<string, Stored>, taken: ReadonlySet<string>): MarkOutcome {
  const { id } = fact;
  const same = known.get(id);
  if (same !== undefined) {
    if (isDeepStrictEqual(contentOf(same.fact), contentOf(fact))) return { id, outcome: "duplicate", seq: same.seq };
    return { id, outcome: "set aside", reason: "another mark of the same id is on record" };
  }
  if (taken.has(`${fact.deviceId} ${fact.deviceSeq}`))
    return { id, outcome: "not yet", reason: `this device used that number for another mark of this ${a.name}`, renumber: true };
  if (fact.target === undefined) return { id, outcome: "stored" };
  const target = known.get(fact.target);
  if (target === undefined) return { id, outcome: "not yet", reason: "the mark it names is not known here yet" };
  if (idOf(a, target.fact) !== idOf(a, fact)) return { id, outcome: "set aside", reason: `the mark it names belongs to another ${a.name}` };
  return { id, outcome: "stored" };
}

/** As JSON would carry it: absent and undefined are one. A device may have numbered it anew after a clash. */
function contentOf(fact: Fact): unknown {
  const { deviceSeq: _, ...rest } = fact;
  return JSON.parse(JSON.stringify(rest));
}
