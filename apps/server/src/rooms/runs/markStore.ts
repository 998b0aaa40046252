// Marks and runs in the database. Insert only; a run's row is made by its start mark and caches what the fold says.

import { createHash } from "node:crypto";
import type { StoredMark } from "@keep-rolling/contract/marks";
import { markSchema } from "@keep-rolling/contract/marks";
import type { Mark, MarkOf, RunFold } from "@keep-rolling/core/runs";
import { FOLD_VERSION, isForeign } from "@keep-rolling/core/runs";
import type { Db, Tx } from "../../db/connection.ts";
import { cacheColumns } from "./runCache.ts";

interface MarkRow {
  run_id: string;
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
}

const ENVELOPE = [
  "id",
  "runId",
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

function toRow(mark: Mark, seq: number, receivedMs: number): Omit<MarkRow, "body" | "extra"> & { body: string; extra: string | null } {
  const extra = isForeign(mark) ? Object.fromEntries(Object.entries(mark).filter(([key]) => !ENVELOPE.includes(key))) : {};
  return {
    run_id: mark.runId,
    seq,
    id: mark.id,
    device_id: mark.deviceId,
    device_seq: mark.deviceSeq,
    kind: mark.kind,
    v: mark.v,
    at_ms: mark.atMs,
    made_at_ms: mark.madeAtMs,
    source: mark.source,
    device_ms: mark.deviceMs,
    offset_ms: mark.offsetMs,
    offset_err_ms: mark.offsetErrMs,
    target_id: mark.target ?? null,
    replaces_id: mark.replaces ?? null,
    accepts_id: mark.accepts ?? null,
    body: JSON.stringify(mark.body),
    extra: Object.keys(extra).length > 0 ? JSON.stringify(extra) : null,
    received_ms: receivedMs,
  };
}

function toStored(row: MarkRow): StoredMark {
  const raw = {
    ...(row.extra ?? {}),
    id: row.id,
    runId: row.run_id,
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
  return { seq: row.seq, receivedAtMs: row.received_ms, mark: markSchema.parse(raw) };
}

export async function readMarks(db: Db | Tx, runIds: readonly string[], afterSeq = 0): Promise<Map<string, StoredMark[]>> {
  const byRun = new Map<string, StoredMark[]>(runIds.map((id) => [id, []]));
  if (runIds.length === 0) return byRun;
  const rows = await db<MarkRow>("mark")
    .whereIn("run_id", [...runIds])
    .andWhere("seq", ">", afterSeq)
    .orderBy(["run_id", "seq"]);
  for (const row of rows) byRun.get(row.run_id)?.push(toStored(row));
  return byRun;
}

/** Those of these ids that are on record, of any run. */
export async function findMarks(tx: Tx, ids: readonly string[]): Promise<Map<string, StoredMark>> {
  const rows = await tx<MarkRow>("mark").whereIn("id", [...ids]);
  return new Map(rows.map((row) => [row.id, toStored(row)]));
}

/** Which of their devices' numbers this run has already, as "device number". */
export async function sequencesTaken(tx: Tx, runId: string, marks: readonly Mark[]): Promise<Set<string>> {
  const rows = await tx<MarkRow>("mark")
    .where({ run_id: runId })
    .whereIn(
      ["device_id", "device_seq"],
      marks.map((m) => [m.deviceId, m.deviceSeq]),
    )
    .select("device_id", "device_seq");
  return new Set(rows.map((r) => `${r.device_id} ${r.device_seq}`));
}

/** `stored`: consecutive, after the run's cursor. */
export async function insertMarks(tx: Tx, runId: string, stored: readonly StoredMark[]): Promise<void> {
  const last = stored.at(-1);
  if (last === undefined) return;
  for (let i = 0; i < stored.length; i += INSERT_AT_ONCE)
    await tx("mark").insert(stored.slice(i, i + INSERT_AT_ONCE).map((s) => toRow(s.mark, s.seq, s.receivedAtMs)));
  await tx("run").where({ id: runId }).update({ last_seq: last.seq });
}
const INSERT_AT_ONCE = 500;

/**
 * Stores one mark as the run's number `seq` in one round trip, if and only if the run's cursor stands right before it; `fold` also
 * renews the cached columns. False: the cursor stood elsewhere. Throws on a repeated id or number; nothing is changed then.
 */
export async function storeNext(db: Db, mark: Mark, seq: number, receivedMs: number, fold: RunFold | null): Promise<boolean> {
  const row = toRow(mark, seq, receivedMs);
  const columns = Object.keys(row) as (keyof typeof row)[];
  const cache = { last_seq: seq, ...(fold === null ? {} : cacheColumns(mark.runId, fold)) };
  const sets = Object.keys(cache).map((column) => `${column} = ?`);
  const reply = (await db.raw(
    `begin not atomic
      declare exit handler for sqlexception begin rollback; resignal; end;
      start transaction;
      update run set ${sets.join(", ")} where id = ? and last_seq = ?;
      if row_count() = 1 then
        insert into mark (${columns.join(", ")}) values (${columns.map(() => "?").join(", ")});
        commit;
        select 1 as done;
      else
        rollback;
        select 0 as done;
      end if;
    end`,
    [...Object.values(cache), mark.runId, seq - 1, ...columns.map((column) => row[column])],
  )) as unknown as [[{ done: number }[], unknown], unknown];
  return reply[0][0][0]?.done === 1;
}

/** Makes the run's row when it is new, then locks it for the rest of the transaction. */
export async function createRun(tx: Tx, mark: MarkOf<"start">): Promise<void> {
  const { unit, mode, condition, protocol } = mark.body;
  const shas = await Promise.all([
    snapshot(tx, "unit", unit),
    snapshot(tx, "mode", mode),
    snapshot(tx, "condition", condition),
    snapshot(tx, "protocol", protocol),
  ]);
  await tx("run")
    .insert({
      id: mark.runId,
      clock_id: mark.body.clockId,
      kind: mark.body.runKind,
      unit_id: unit.id,
      mode_id: mode.id,
      unit_sha: shas[0],
      mode_sha: shas[1],
      condition_sha: shas[2],
      protocol_sha: shas[3],
      parent_run_id: mark.body.parentRunId ?? null,
      provenance: unit.simulated ? "simulated" : "live",
      last_seq: 0,
      status: "none",
      started_ms: mark.atMs,
      fold_v: FOLD_VERSION,
    })
    .onConflict("id")
    .ignore();
}

export async function lockRun(tx: Tx, id: string): Promise<{ lastSeq: number; clockId: string; unitId: string } | null> {
  const row = await tx<{ id: string; last_seq: number; clock_id: string; unit_id: string }>("run").where({ id }).forUpdate().first();
  return row === undefined ? null : { lastSeq: row.last_seq, clockId: row.clock_id, unitId: row.unit_id };
}

/** The cached fold of a run; can be dropped and made again from the marks at any time. */
export async function cacheFold(tx: Tx, runId: string, fold: RunFold): Promise<void> {
  await tx("run").where({ id: runId }).update(cacheColumns(runId, fold));
}

async function snapshot(tx: Tx, kind: string, doc: object): Promise<string> {
  const json = JSON.stringify(doc);
  const sha256 = createHash("sha256").update(json).digest("hex");
  await tx("snapshot").insert({ sha256, kind, doc: json }).onConflict("sha256").ignore();
  return sha256;
}

/** What could not be taken in is kept whole, with the reason. */
export async function keepIssue(
  db: Db | Tx,
  issue: { deviceId: string | null; lineNo: number; raw: string; code: string; receivedMs: number },
): Promise<void> {
  const { deviceId, lineNo, raw, code, receivedMs } = issue;
  await db("intake_issue").insert({
    device_id: deviceId,
    line_no: lineNo,
    raw: raw.slice(0, 1_000_000),
    code: code.slice(0, 200),
    received_ms: receivedMs,
  });
}
