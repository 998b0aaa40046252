// Facts in the database. Insert only; the row of what they belong to is made by its opening fact and caches what the fold says.

import type { Fact } from "@keep-rolling/core/facts";
import { isForeign } from "@keep-rolling/core/facts";
import type { Db, Tx } from "../db/connection.ts";
import type { Aggregate, Stored } from "./aggregate.ts";
import { idOf } from "./aggregate.ts";

interface FactRow {
  seq: number;
  id: string;
  device_id: string;
  device_seq: number;
  kind: string;
  v: number;
  at_ms: number;
  made_at_ms: number;
  source: string;
  device_ms: number;
  offset_ms: number;
  offset_err_ms: number;
  target_id: string | null;
  replaces_id: string | null;
  accepts_id: string | null;
  body: Record<string, unknown>;
  extra: Record<string, unknown> | null;
  received_ms: number;
  [owner: string]: unknown;
}

const ENVELOPE = [
  "id",
  "runId",
  "sessionId",
  "deviceId",
  "deviceSeq",
  "kind",
  "v",
  "atMs",
  "madeAtMs",
  "source",
  "deviceMs",
  "offsetMs",
  "offsetErrMs",
  "target",
  "replaces",
  "accepts",
  "body",
  "foreign",
];

function toRow(a: Aggregate, fact: Fact, seq: number, receivedMs: number): Record<string, string | number | null> {
  const extra = isForeign(fact) ? Object.fromEntries(Object.entries(fact).filter(([key]) => !ENVELOPE.includes(key))) : {};
  return {
    [a.column]: idOf(a, fact),
    seq,
    id: fact.id,
    device_id: fact.deviceId,
    device_seq: fact.deviceSeq,
    kind: fact.kind,
    v: fact.v,
    at_ms: fact.atMs,
    made_at_ms: fact.madeAtMs,
    source: fact.source,
    device_ms: fact.deviceMs,
    offset_ms: fact.offsetMs,
    offset_err_ms: fact.offsetErrMs,
    target_id: fact.target ?? null,
    replaces_id: fact.replaces ?? null,
    accepts_id: fact.accepts ?? null,
    body: JSON.stringify(fact.body),
    extra: Object.keys(extra).length > 0 ? JSON.stringify(extra) : null,
    received_ms: receivedMs,
  };
}

function toStored(a: Aggregate, row: FactRow): Stored {
  const raw = {
    ...(row.extra ?? {}),
    id: row.id,
    [a.field]: row[a.column],
    deviceId: row.device_id,
    deviceSeq: row.device_seq,
    kind: row.kind,
    v: row.v,
    atMs: row.at_ms,
    madeAtMs: row.made_at_ms,
    source: row.source,
    deviceMs: row.device_ms,
    offsetMs: row.offset_ms,
    offsetErrMs: row.offset_err_ms,
    ...(row.target_id === null ? {} : { target: row.target_id }),
    ...(row.replaces_id === null ? {} : { replaces: row.replaces_id }),
    ...(row.accepts_id === null ? {} : { accepts: row.accepts_id }),
    body: row.body,
  };
  return { seq: row.seq, receivedAtMs: row.received_ms, fact: a.schema.parse(raw) as Fact };
}

/** Facts in delivery order, by what they belong to; every id asked for is there, with none if it has none. */
export async function readFacts(db: Db | Tx, a: Aggregate, ids: readonly string[], afterSeq = 0): Promise<Map<string, Stored[]>> {
  const byId = new Map<string, Stored[]>(ids.map((id) => [id, []]));
  if (ids.length === 0) return byId;
  const rows = await db<FactRow>(a.factTable)
    .whereIn(a.column, [...ids])
    .andWhere("seq", ">", afterSeq)
    .orderBy([a.column, "seq"]);
  for (const row of rows) byId.get(row[a.column] as string)?.push(toStored(a, row));
  return byId;
}

/** Those of these ids that are on record, of any run or session of the kind. */
export async function findFacts(tx: Tx, a: Aggregate, ids: readonly string[]): Promise<Map<string, Stored>> {
  const rows = await tx<FactRow>(a.factTable).whereIn("id", [...ids]);
  return new Map(rows.map((row) => [row.id, toStored(a, row)]));
}

/** Which of their devices' numbers are taken already, as "device number". */
export async function sequencesTaken(tx: Tx, a: Aggregate, id: string, facts: readonly Fact[]): Promise<Set<string>> {
  const rows = await tx<FactRow>(a.factTable)
    .where({ [a.column]: id })
    .whereIn(
      ["device_id", "device_seq"],
      facts.map((f) => [f.deviceId, f.deviceSeq]),
    )
    .select("device_id", "device_seq");
  return new Set(rows.map((r) => `${r.device_id} ${r.device_seq}`));
}

const INSERT_AT_ONCE = 500;

/** `stored`: consecutive, after the cursor. */
export async function insertFacts(tx: Tx, a: Aggregate, id: string, stored: readonly Stored[]): Promise<void> {
  const last = stored.at(-1);
  if (last === undefined) return;
  for (let i = 0; i < stored.length; i += INSERT_AT_ONCE)
    await tx(a.factTable).insert(stored.slice(i, i + INSERT_AT_ONCE).map((s) => toRow(a, s.fact, s.seq, s.receivedAtMs)));
  await tx(a.table).where({ id }).update({ last_seq: last.seq });
}

/**
 * Stores one fact as number `seq` in one round trip, if and only if the cursor stands right before it; `cache` also renews the cached
 * columns. False: the cursor stood elsewhere. Throws on a repeated id or number; nothing is changed then.
 */
export async function storeNext(
  db: Db,
  a: Aggregate,
  next: Stored,
  cache: Record<string, string | number | null> | null,
): Promise<boolean> {
  const row = toRow(a, next.fact, next.seq, next.receivedAtMs);
  const columns = Object.keys(row);
  const renewed = { last_seq: next.seq, ...cache };
  const sets = Object.keys(renewed).map((column) => `${column} = ?`);
  const reply = (await db.raw(
    `begin not atomic
      declare exit handler for sqlexception begin rollback; resignal; end;
      start transaction;
      update ${a.table} set ${sets.join(", ")} where id = ? and last_seq = ?;
      if row_count() = 1 then
        insert into ${a.factTable} (${columns.join(", ")}) values (${columns.map(() => "?").join(", ")});
        commit;
        select 1 as done;
      else
        rollback;
        select 0 as done;
      end if;
    end`,
    [...Object.values(renewed), idOf(a, next.fact), next.seq - 1, ...Object.values(row)] as (string | number)[],
  )) as unknown as [[{ done: number }[], unknown], unknown];
  return reply[0][0][0]?.done === 1;
}

/** The cached columns; can be dropped and made again from the facts at any time. */
export async function renewCache(tx: Tx, a: Aggregate, id: string, facts: readonly Fact[]): Promise<void> {
  await tx(a.table).where({ id }).update(a.cache(id, facts));
}
