// Reading runs: rows, strikes, and what devices said while they rolled.

import type { DeviceEvent } from "@keep-rolling/contract/devices";
import type { RunRow } from "@keep-rolling/contract/runs";
import type { Counted } from "@keep-rolling/core/cells";
import type { Endpoint } from "@keep-rolling/core/runs";
import type { Db, Tx } from "../../db/connection.ts";

interface Row {
  id: string;
  clock_id: string;
  clock_kind: RunRow["clockKind"] | null;
  provenance: RunRow["provenance"];
  unit_id: string;
  mode_id: string;
  status: RunRow["status"];
  last_seq: number;
  started_ms: number;
  ended_ms: number | null;
  recorded_lo_ms: number | null;
  recorded_hi_ms: number | null;
  end_cause: string | null;
}
export interface RunWindow {
  row: RunRow;
  fromMs: number;
  toMs: number;
}
export interface RunFilter {
  ids?: readonly string[];
  unitId?: string;
  open?: boolean;
  latest?: number;
  /** Only what comes after this run in the order of the list. */
  after?: { startedMs: number; id: string };
}

/** Newest first. */
export async function readRuns(db: Db | Tx, filter: RunFilter): Promise<RunWindow[]> {
  const query = db("run")
    .leftJoin("clock", "clock.id", "run.clock_id")
    .select<Row[]>("run.*", "clock.kind as clock_kind")
    .orderBy([
      { column: "started_ms", order: "desc" },
      { column: "run.id", order: "desc" },
    ]);
  const { after } = filter;
  if (filter.ids !== undefined) void query.whereIn("run.id", [...filter.ids]);
  if (filter.unitId !== undefined) void query.where("unit_id", filter.unitId);
  if (filter.open === true) void query.whereIn("status", ["rolling", "gap"]);
  if (filter.latest !== undefined) void query.limit(filter.latest);
  if (after !== undefined)
    void query.andWhereRaw("(started_ms < ? or (started_ms = ? and run.id < ?))", [after.startedMs, after.startedMs, after.id]);
  const rows = await query;
  const struck = await readStrikes(db);
  return rows.map((r) => ({
    row: {
      id: r.id,
      clockId: r.clock_id,
      clockKind: r.clock_kind ?? "real",
      provenance: r.provenance,
      unitId: r.unit_id,
      modeId: r.mode_id,
      status: r.status,
      lastSeq: r.last_seq,
      startedMs: r.started_ms,
      endedMs: r.ended_ms,
      recordedMs: r.recorded_lo_ms === null || r.recorded_hi_ms === null ? null : { lo: r.recorded_lo_ms, hi: r.recorded_hi_ms },
      endCause: r.end_cause,
      struck: struck.get(r.id)?.reason ?? null,
    },
    fromMs: r.started_ms,
    toMs: r.ended_ms ?? Number.MAX_SAFE_INTEGER,
  }));
}

/** What runs of these cells, on any firmware, and these runs say of an endpoint, by their cached columns; struck ones left out. */
export async function readObserved(db: Db | Tx, cellShas: readonly string[], runIds: readonly string[]): Promise<ObservedRun[]> {
  if (cellShas.length + runIds.length === 0) return [];
  const rows = await db<ObservedRow>("run")
    .whereIn("any_firmware_sha", [...new Set(cellShas)])
    .orWhereIn("id", [...new Set(runIds)])
    .select("id", "started_ms", "any_firmware_sha", "firmware", "observed");
  const struck = await readStrikes(db);
  return rows
    .filter((r) => !struck.has(r.id))
    .map((r) => ({
      runId: r.id,
      startedMs: r.started_ms,
      cellSha: r.any_firmware_sha,
      firmware: r.firmware ?? "",
      observed: r.observed ?? {},
    }));
}
interface ObservedRow {
  id: string;
  started_ms: number;
  any_firmware_sha: string;
  firmware: string | null;
  observed: ObservedRun["observed"] | null;
}
export interface ObservedRun {
  runId: string;
  startedMs: number;
  cellSha: string;
  firmware: string;
  observed: Partial<Record<Endpoint, Counted | null>>;
}

export async function readPulse(db: Db): Promise<{ id: string; lastSeq: number; status: string }[]> {
  const rows = await db<Row>("run").orderBy("started_ms", "desc").limit(200).select("id", "last_seq", "status");
  return rows.map((r) => ({ id: r.id, lastSeq: r.last_seq, status: r.status }));
}

/** Ids of all runs, first started first. */
export async function readRunIds(tx: Tx): Promise<string[]> {
  const rows = await tx<{ id: string; started_ms: number }>("run").orderBy(["started_ms", "id"]).select("id");
  return rows.map((r) => r.id);
}

export async function readDeviceNames(tx: Tx): Promise<Map<string, string>> {
  const rows = await tx<{ id: string; name: string }>("device").select("id", "name");
  return new Map(rows.map((r) => [r.id, r.name]));
}

interface StrikeRow {
  id: string;
  run_id: string;
  reason: string;
  undoes: string | null;
}

/** Live strikes by run: one that no later row takes back. */
export async function readStrikes(db: Db | Tx): Promise<Map<string, { id: string; reason: string }>> {
  const rows = await db<StrikeRow>("strike").orderBy(["at_ms", "id"]);
  const undone = new Set(rows.map((r) => r.undoes));
  return new Map(rows.filter((r) => r.undoes === null && !undone.has(r.id)).map((r) => [r.run_id, { id: r.id, reason: r.reason }]));
}

export async function addStrike(
  tx: Tx,
  strike: { id: string; runId: string; reason: string; undoes: string | null; atMs: number },
): Promise<void> {
  await tx("strike")
    .insert({ id: strike.id, run_id: strike.runId, reason: strike.reason, undoes: strike.undoes, at_ms: strike.atMs })
    .onConflict("id")
    .ignore();
}

export interface Channel {
  channel: string;
  unit: string;
  readings: { atMs: number; value: number }[];
}
/** Above this many rows a channel is drawn from its minute roll-up: first, lowest, highest and last of each minute keep the peaks. */
const RAW_ROWS = 3600;

/** Channels that watched a body in [fromMs, toMs]. Equal neighbours of a gauge are one. */
export async function readChannels(db: Db, unitId: string, fromMs: number, toMs: number): Promise<Channel[]> {
  const streams = await db("stream_use")
    .join("stream", "stream.id", "stream_use.stream_id")
    .where("stream_use.unit_id", unitId)
    .andWhere("stream_use.from_ms", "<=", toMs)
    .andWhere((q) => void q.whereNull("stream_use.to_ms").orWhere("stream_use.to_ms", ">=", fromMs))
    .select<UsedStream[]>("stream.id", "unit", "quantity", "from_ms", "to_ms");
  const channels: Channel[] = [];
  for (const s of streams) {
    const readings = await readSeries(db, s.id, Math.max(fromMs, s.from_ms), Math.min(toMs, s.to_ms ?? toMs));
    if (readings.length > 0)
      channels.push({ channel: s.quantity, unit: s.unit, readings: s.quantity === "gauge" ? changesOnly(readings) : readings });
  }
  return channels;
}
interface UsedStream {
  id: number;
  unit: string;
  quantity: string;
  from_ms: number;
  to_ms: number | null;
}

/** The gauges of many runs in one query: only where a step changes, which is all a strip draws. */
export async function readGauges(db: Db, windows: readonly RunWindow[]): Promise<Map<string, Channel["readings"]>> {
  const gauges = new Map<string, Channel["readings"]>(windows.map((w) => [w.row.id, []]));
  if (windows.length === 0) return gauges;
  const windowRows = windows.map(() => "select ? as run_id, ? as unit_id, ? as from_ms, ? as to_ms").join(" union all ");
  const [rows] = (await db.raw(
    `select w.run_id, r.at_ms, r.value from (${windowRows}) w
      join stream_use u on u.unit_id = w.unit_id and u.role = 'gauge' and u.from_ms <= w.to_ms and (u.to_ms is null or u.to_ms >= w.from_ms)
      join reading r on r.stream_id = u.stream_id and r.at_ms between greatest(w.from_ms, u.from_ms) and least(w.to_ms, coalesce(u.to_ms, w.to_ms))
      order by w.run_id, r.at_ms`,
    windows.flatMap((w) => [w.row.id, w.row.unitId, w.fromMs, w.toMs]),
  )) as [{ run_id: string; at_ms: number; value: number }[]];
  for (const { run_id, at_ms, value } of rows) {
    const known = gauges.get(run_id);
    if (known !== undefined && known.at(-1)?.value !== value) known.push({ atMs: at_ms, value });
  }
  return gauges;
}

async function readSeries(db: Db, streamId: number, fromMs: number, toMs: number): Promise<Channel["readings"]> {
  const range: [number, number] = [fromMs, toMs];
  const raw = await db<{ stream_id: number; at_ms: number; value: number }>("reading")
    .where({ stream_id: streamId })
    .whereBetween("at_ms", range)
    .orderBy("at_ms")
    .limit(RAW_ROWS + 1);
  if (raw.length <= RAW_ROWS) return raw.map((r) => ({ atMs: r.at_ms, value: r.value }));
  const minutes = await db<{
    stream_id: number;
    minute: number;
    min: number;
    max: number;
    first_ms: number;
    first: number;
    last_ms: number;
    last: number;
  }>("reading_minute")
    .where({ stream_id: streamId })
    .whereBetween("minute", [Math.floor(fromMs / 60_000), Math.floor(toMs / 60_000)])
    .orderBy("minute");
  return minutes
    .flatMap((m) => [
      { atMs: m.first_ms, value: m.first },
      { atMs: m.minute * 60_000 + 20_000, value: m.min },
      { atMs: m.minute * 60_000 + 40_000, value: m.max },
      { atMs: m.last_ms, value: m.last },
    ])
    .filter((r) => r.atMs >= fromMs && r.atMs <= toMs);
}

const changesOnly = (readings: Channel["readings"]): Channel["readings"] =>
  readings.filter((r, i) => i === 0 || r.value !== readings[i - 1]?.value);

export async function readEvents(db: Db, unitId: string, fromMs: number, toMs: number): Promise<DeviceEvent[]> {
  const rows = await db<EventRow>("device_event")
    .where({ unit_id: unitId })
    .whereBetween("at_ms", [fromMs, toMs])
    .orderBy(["at_ms", "id"])
    .limit(2000);
  return rows.map(toEvent);
}

interface EventRow {
  id: string;
  device_id: string;
  unit_id: string;
  at_ms: number;
  kind: string;
  body: Record<string, unknown>;
}
const toEvent = (r: EventRow): DeviceEvent => ({ id: r.id, deviceId: r.device_id, atMs: r.at_ms, kind: r.kind, body: r.body });

/** A camera shows its warning a few times a run; more come from a device that repeats itself. */
const WARNINGS_A_RUN = 20;

/** The warnings that devices told during these runs, in one query. */
export async function readWarnings(db: Db, windows: readonly RunWindow[]): Promise<Map<string, DeviceEvent[]>> {
  const told = new Map<string, DeviceEvent[]>();
  if (windows.length === 0) return told;
  const windowRows = windows.map(() => "select ? as run_id, ? as of_unit, ? as from_ms, ? as to_ms").join(" union all ");
  const [rows] = (await db.raw(
    `select w.run_id, e.* from (${windowRows}) w
      join device_event e on e.unit_id = w.of_unit and e.at_ms between w.from_ms and w.to_ms and e.kind = 'warning'
      order by w.run_id, e.at_ms, e.id`,
    windows.flatMap((w) => [w.row.id, w.row.unitId, w.fromMs, w.toMs]),
  )) as [(EventRow & { run_id: string })[]];
  for (const row of rows) {
    const known = told.get(row.run_id) ?? [];
    if (known.length < WARNINGS_A_RUN) told.set(row.run_id, [...known, toEvent(row)]);
  }
  return told;
}

/** Runs of a body that were under way at one of these moments. */
export async function runsUnderWay(db: Db, unitId: string, fromMs: number, toMs: number): Promise<string[]> {
  const rows = await db<Row>("run")
    .where({ unit_id: unitId })
    .andWhere("started_ms", "<=", toMs)
    .andWhere((q) => void q.whereNull("ended_ms").orWhere("ended_ms", ">=", fromMs))
    .select("id");
  return rows.map((r) => r.id);
}
