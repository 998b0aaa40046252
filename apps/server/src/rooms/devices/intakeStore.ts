// Readings, events and batches of devices. Same channel, time and value: duplicate; another value: the first is kept and the
// conflict listed. The minute roll-up is kept in the same transaction.

import type { IntakeReply } from "@keep-rolling/contract/devices";
import type { Db, Tx } from "../../db/connection.ts";

export interface DeviceRow {
  id: string;
  kind: string;
  name: string;
  unitId: string | null;
  revoked: boolean;
}
interface Raw {
  id: string;
  kind: string;
  name: string;
  unit_id: string | null;
  token_hash: string | null;
  revoked_at: Date | null;
}
const toDevice = (r: Raw): DeviceRow => ({ id: r.id, kind: r.kind, name: r.name, unitId: r.unit_id, revoked: r.revoked_at !== null });

export async function readDevices(db: Db): Promise<DeviceRow[]> {
  return (await db<Raw>("device").orderBy("name")).map(toDevice);
}

export async function deviceOfToken(db: Db, tokenHash: string): Promise<DeviceRow | null> {
  const row = await db<Raw>("device").where({ token_hash: tokenHash }).whereNull("revoked_at").first();
  return row === undefined ? null : toDevice(row);
}

export async function saveDevice(
  tx: Tx,
  device: { id: string; kind: string; name: string; unitId: string; tokenHash: string },
): Promise<void> {
  const row = { kind: device.kind, name: device.name, unit_id: device.unitId, token_hash: device.tokenHash, revoked_at: null };
  await tx("device")
    .insert({ id: device.id, ...row })
    .onConflict("id")
    .merge(row);
}

/** Names a browser; false when the id belongs to another kind of device. */
export async function nameBrowser(tx: Tx, id: string, name: string): Promise<boolean> {
  const known = await tx<Raw>("device").where({ id }).forUpdate().first();
  if (known !== undefined && known.kind !== "browser") return false;
  if (known === undefined) await tx("device").insert({ id, kind: "browser", name });
  else await tx("device").where({ id }).update({ name });
  return true;
}

export async function revokeDevice(db: Db, id: string, at: Date): Promise<boolean> {
  return (await db("device").where({ id }).update({ revoked_at: at, token_hash: null })) > 0;
}

/** Batches of one device are taken one after the other. */
export async function lockDevice(tx: Tx, id: string): Promise<void> {
  await tx("device").where({ id }).forUpdate().first("id");
}

export async function knownBatch(tx: Tx, deviceId: string, key: string): Promise<{ sha256: string; reply: IntakeReply } | null> {
  const row = await tx<{ device_id: string; idem_key: string; sha256: string; reply: IntakeReply }>("intake_batch")
    .where({ device_id: deviceId, idem_key: key })
    .first("sha256", "reply");
  return row ?? null;
}

export async function saveBatch(
  tx: Tx,
  batch: { deviceId: string; key: string; sha256: string; reply: IntakeReply; receivedMs: number },
): Promise<void> {
  const { deviceId, key, sha256, reply, receivedMs } = batch;
  await tx("intake_batch").insert({ device_id: deviceId, idem_key: key, sha256, reply: JSON.stringify(reply), received_ms: receivedMs });
}

export async function streamOf(
  tx: Tx,
  deviceId: string,
  channel: { name: string; quantity: string; unit: string; bodyId: string; fromMs: number },
): Promise<number> {
  const where = { device_id: deviceId, channel: channel.name };
  await tx("stream")
    .insert({ ...where, quantity: channel.quantity, unit: channel.unit })
    .onConflict(["device_id", "channel"])
    .ignore();
  const row = await tx<{ id: number }>("stream").where(where).first("id");
  const id = row?.id ?? 0;
  await useFor(tx, id, channel);
  return id;
}

/** A channel watches one body at a time: moved to another, it stops feeding the first. */
async function useFor(
  tx: Tx,
  streamId: number,
  { quantity, bodyId, fromMs }: { quantity: string; bodyId: string; fromMs: number },
): Promise<void> {
  const open = await tx<{ stream_id: number; unit_id: string; from_ms: number; to_ms: number | null }>("stream_use")
    .where({ stream_id: streamId })
    .whereNull("to_ms")
    .select("unit_id", "from_ms");
  if (open.some((u) => u.unit_id === bodyId)) return;
  for (const { unit_id, from_ms } of open)
    await tx("stream_use")
      .where({ stream_id: streamId, unit_id, from_ms })
      .update({ to_ms: Math.max(from_ms, fromMs - 1) });
  await tx("stream_use").insert({ stream_id: streamId, unit_id: bodyId, role: quantity, from_ms: fromMs });
}

export interface Point {
  atMs: number;
  value: number;
}

/** Inserts what is new and says which times were there already, with the same or another value. */
export async function insertReadings(
  tx: Tx,
  streamId: number,
  points: readonly Point[],
): Promise<{ stored: Point[]; duplicate: number; conflict: Point[] }> {
  const known = new Map<number, number>();
  const rows = await tx<{ stream_id: number; at_ms: number; value: number }>("reading")
    .where({ stream_id: streamId })
    .whereIn(
      "at_ms",
      points.map((p) => p.atMs),
    );
  for (const row of rows) known.set(row.at_ms, row.value);
  const out = { stored: [] as Point[], duplicate: 0, conflict: [] as Point[] };
  for (const point of points) {
    const before = known.get(point.atMs);
    if (before === undefined) {
      known.set(point.atMs, point.value);
      out.stored.push(point);
    } else if (before === point.value) out.duplicate++;
    else out.conflict.push(point);
  }
  if (out.stored.length > 0) await tx("reading").insert(out.stored.map((p) => ({ stream_id: streamId, at_ms: p.atMs, value: p.value })));
  await rollUp(tx, streamId, byMinute(out.stored));
  return out;
}

function byMinute(points: readonly Point[]): Map<number, Point[]> {
  const groups = new Map<number, Point[]>();
  for (const p of points) {
    const minute = Math.floor(p.atMs / 60_000);
    groups.set(minute, [...(groups.get(minute) ?? []), p]);
  }
  return groups;
}

async function rollUp(tx: Tx, streamId: number, minutes: ReadonlyMap<number, readonly Point[]>): Promise<void> {
  const rows = [...minutes].map(([minute, points]) => minuteRow(streamId, minute, points));
  if (rows.length === 0) return;
  const places = rows.map(() => "(?,?,?,?,?,?,?,?,?,?)").join(", ");
  // Values before times: MariaDB assigns from left to right.
  await tx.raw(
    `insert into reading_minute (stream_id, minute, n, min, max, sum, first_ms, first, last_ms, last) values ${places}
     on duplicate key update n = n + values(n), min = least(min, values(min)), max = greatest(max, values(max)), sum = sum + values(sum),
     first = if(values(first_ms) < first_ms, values(first), first), first_ms = least(first_ms, values(first_ms)),
     last = if(values(last_ms) > last_ms, values(last), last), last_ms = greatest(last_ms, values(last_ms))`,
    rows.flat(),
  );
}

function minuteRow(streamId: number, minute: number, points: readonly Point[]): number[] {
  const sorted = [...points].sort((a, b) => a.atMs - b.atMs);
  const [first, last] = [sorted[0] as Point, sorted.at(-1) as Point];
  const values = sorted.map((p) => p.value);
  const sum = values.reduce((a, b) => a + b, 0);
  return [streamId, minute, values.length, Math.min(...values), Math.max(...values), sum, first.atMs, first.value, last.atMs, last.value];
}

export async function insertEvents(
  tx: Tx,
  deviceId: string,
  unitId: string,
  events: readonly { id: string; atMs: number; kind: string; body: object }[],
): Promise<{ stored: string[]; duplicate: number }> {
  const ids = events.map((e) => e.id);
  const rows = ids.length === 0 ? [] : await tx<{ id: string }>("device_event").whereIn("id", ids).select("id");
  const known = new Set(rows.map((r) => r.id));
  const fresh = events.filter((e) => !known.has(e.id) && known.add(e.id));
  if (fresh.length > 0) {
    await tx("device_event").insert(
      fresh.map((e) => ({ id: e.id, device_id: deviceId, unit_id: unitId, at_ms: e.atMs, kind: e.kind, body: JSON.stringify(e.body) })),
    );
  }
  return { stored: fresh.map((e) => e.id), duplicate: events.length - fresh.length };
}
