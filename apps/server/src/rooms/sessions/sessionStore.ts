// Sessions in the database: what of the road is a session's own.

import type { SessionRow, StoredFact } from "@keep-rolling/contract/sessions";
import { sessionFact } from "@keep-rolling/contract/sessions";
import { isForeign } from "@keep-rolling/core/facts";
import type { SessionBodies, SessionFact } from "@keep-rolling/core/sessions";
import { foldSession, SESSION_FOLD_VERSION } from "@keep-rolling/core/sessions";
import type { Db, Tx } from "../../db/connection.ts";
import type { Aggregate, Stored } from "../../record/aggregate.ts";
import { readFacts } from "../../record/factStore.ts";

interface Row {
  id: string;
  kind: SessionRow["kind"];
  clock_id: string;
  last_seq: number;
  status: SessionRow["status"];
  begun_ms: number;
}

export const toFact = ({ seq, receivedAtMs, fact }: Stored): StoredFact => ({ seq, receivedAtMs, fact: fact as SessionFact });

export const sessionAggregate: Aggregate = {
  name: "session",
  field: "sessionId",
  table: "session",
  factTable: "fact",
  column: "session_id",
  schema: sessionFact,
  foldVersion: SESSION_FOLD_VERSION,
  open: async (tx, fact) => {
    if (fact.kind !== "begin" || isForeign(fact)) return;
    const { sessionKind, clockId } = fact.body as SessionBodies["begin"];
    const id = (fact as SessionFact).sessionId;
    const row = {
      id,
      kind: sessionKind,
      clock_id: clockId,
      last_seq: 0,
      status: "none",
      begun_ms: fact.atMs,
      fold_v: SESSION_FOLD_VERSION,
    };
    await tx("session").insert(row).onConflict("id").ignore();
  },
  lock: async (tx, id) => {
    const row = await tx<Row>("session").where({ id }).forUpdate().first();
    return row === undefined ? null : { lastSeq: row.last_seq, clockId: row.clock_id, unitId: null };
  },
  cache: (_id, facts) => {
    const fold = foldSession(facts as readonly SessionFact[]);
    return { status: fold.state, ...(fold.begunMs === null ? {} : { begun_ms: fold.begunMs }), fold_v: SESSION_FOLD_VERSION };
  },
  changesCache: (kind) => kind !== "note",
  message: (sessionId, stored) => ({ type: "facts", sessionId, facts: stored.map(toFact) }),
};

/** Newest first. */
export async function readSessions(db: Db | Tx, ids?: readonly string[]): Promise<SessionRow[]> {
  const query = db<Row>("session").orderBy([
    { column: "begun_ms", order: "desc" },
    { column: "id", order: "desc" },
  ]);
  if (ids !== undefined) void query.whereIn("id", [...ids]);
  const rows = await query;
  return rows.map((r) => ({ id: r.id, kind: r.kind, clockId: r.clock_id, status: r.status, begunMs: r.begun_ms, lastSeq: r.last_seq }));
}

export async function readSessionFacts(db: Db | Tx, id: string): Promise<StoredFact[]> {
  return ((await readFacts(db, sessionAggregate, [id])).get(id) ?? []).map(toFact);
}
