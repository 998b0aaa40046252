// Facts of a demo's session as if they had been sent, and what is cached of them.

import type { SessionFact } from "@keep-rolling/core/sessions";
import type { Tx } from "../db/connection.ts";
import { insertFacts, renewCache } from "../record/factStore.ts";
import { sessionAggregate } from "../rooms/sessions/index.ts";

/** In the order they were pressed, the begin first. */
export async function seedSession(tx: Tx, facts: readonly SessionFact[]): Promise<void> {
  const [begin] = facts;
  if (begin === undefined) throw new RangeError("facts must not be empty");
  await sessionAggregate.open(tx, begin);
  await insertFacts(
    tx,
    sessionAggregate,
    begin.sessionId,
    facts.map((fact, i) => ({ seq: i + 1, receivedAtMs: fact.madeAtMs, fact })),
  );
  await renewCache(tx, sessionAggregate, begin.sessionId, facts);
}
