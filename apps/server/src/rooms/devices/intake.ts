// The public intake, version 1. Every line stands alone: a bad one is kept as an issue with its number, the rest goes through.
// The same batch sent again gets the same answer.

import { createHash } from "node:crypto";
import type { IntakeLine, IntakeReply } from "@keep-rolling/contract/devices";
import type { StreamMessage } from "@keep-rolling/contract/live";
import { intakeLine } from "@keep-rolling/contract/devices";
import type { Tx } from "../../db/connection.ts";
import { write } from "../../db/connection.ts";
import type { Deps } from "../../deps.ts";
import { Refusal } from "../../http/refusal.ts";
import { keepIssue } from "../../record/issueStore.ts";
import { runsUnderWay } from "../runs/index.ts";
import type { DeviceRow } from "./intakeStore.ts";
import { deviceOfToken, insertEvents, insertReadings, knownBatch, lockDevice, saveBatch, streamOf } from "./intakeStore.ts";

export const hashToken = (token: string): string => createHash("sha256").update(token).digest("hex");

export async function deviceFrom(deps: Deps, authorization: string | undefined): Promise<DeviceRow & { unitId: string }> {
  const token = /^Bearer ([\w-]{20,200})$/.exec(authorization ?? "")?.[1];
  const device = token === undefined ? null : await deviceOfToken(deps.db, hashToken(token));
  if (device === null || device.unitId === null) {
    throw new Refusal(
      401,
      "no-token",
      "No valid token",
      "A device posts with the bearer token made for it in the kit. Nothing was stored.",
    );
  }
  return { ...device, unitId: device.unitId };
}

type Reading = Extract<IntakeLine, { type: "reading" }>;
type Event = Extract<IntakeLine, { type: "event" }>;
interface Sorted {
  readings: Reading[];
  events: Event[];
  issues: { line: number; reason: string; raw: string }[];
}

export async function takeBatch(
  deps: Deps,
  device: DeviceRow & { unitId: string },
  key: string,
  lines: readonly unknown[],
): Promise<IntakeReply> {
  const sha256 = createHash("sha256").update(JSON.stringify(lines)).digest("hex");
  const sorted = sortLines(lines);
  const taken = await write(deps.db, async (tx) => {
    await lockDevice(tx, device.id);
    const known = await knownBatch(tx, device.id, key);
    if (known !== null) {
      if (known.sha256 !== sha256)
        throw new Refusal(409, "already-there", "Key used twice", "This idempotency key was used for another batch. Nothing was stored.");
      return { reply: known.reply, fresh: { readings: [], events: [] } };
    }
    const done = await store(tx, device, sorted, deps.now());
    for (const issue of sorted.issues) {
      await keepIssue(tx, { deviceId: device.id, lineNo: issue.line, raw: issue.raw, code: issue.reason, receivedMs: deps.now() });
    }
    await saveBatch(tx, { deviceId: device.id, key, sha256, reply: done.reply, receivedMs: deps.now() });
    return done;
  });
  await tell(deps, device, taken.fresh);
  return taken.reply;
}

function sortLines(lines: readonly unknown[]): Sorted {
  const sorted: Sorted = { readings: [], events: [], issues: [] };
  lines.forEach((raw, line) => {
    const parsed = intakeLine.safeParse(raw);
    if (!parsed.success) {
      const first = parsed.error.issues[0];
      const reason = `${first?.path.join(".") ?? ""} ${first?.message ?? "not understood"}`.trim().slice(0, 180);
      sorted.issues.push({ line, reason, raw: JSON.stringify(raw) });
    } else if (parsed.data.type === "reading") sorted.readings.push(parsed.data);
    else sorted.events.push(parsed.data);
  });
  return sorted;
}

interface Fresh {
  readings: Reading[];
  events: Event[];
}

async function store(
  tx: Tx,
  device: DeviceRow & { unitId: string },
  sorted: Sorted,
  nowMs: number,
): Promise<{ reply: IntakeReply; fresh: Fresh }> {
  const reply: IntakeReply = { stored: 0, duplicate: 0, conflict: 0, issues: sorted.issues.map(({ line, reason }) => ({ line, reason })) };
  const fresh: Fresh = { readings: [], events: [] };
  for (const channel of new Set(sorted.readings.map((r) => r.channel))) {
    const rows = sorted.readings.filter((r) => r.channel === channel);
    const [first] = rows;
    if (first === undefined) continue;
    const streamId = await streamOf(tx, device.id, {
      name: channel,
      quantity: first.quantity,
      unit: first.unit,
      bodyId: device.unitId,
      fromMs: first.atMs,
    });
    const done = await insertReadings(tx, streamId, rows);
    reply.stored += done.stored.length;
    reply.duplicate += done.duplicate;
    reply.conflict += done.conflict.length;
    const stored = new Set(done.stored.map((p) => p.atMs));
    fresh.readings.push(...rows.filter((r) => stored.has(r.atMs)));
    for (const point of done.conflict) {
      await keepIssue(tx, {
        deviceId: device.id,
        lineNo: 0,
        raw: JSON.stringify({ channel, ...point }),
        code: "another value is on record for this time",
        receivedMs: nowMs,
      });
    }
  }
  const events = await insertEvents(tx, device.id, device.unitId, sorted.events);
  reply.stored += events.stored.length;
  reply.duplicate += events.duplicate;
  fresh.events = sorted.events.filter((e) => events.stored.includes(e.id));
  return { reply, fresh };
}

async function tell(deps: Deps, device: { id: string; unitId: string }, fresh: Fresh): Promise<void> {
  const times = [...fresh.readings, ...fresh.events].map((x) => x.atMs);
  if (times.length === 0) return;
  const message: Omit<Extract<StreamMessage, { type: "events" }>, "runId"> = {
    type: "events",
    events: fresh.events.map(({ id, atMs, kind, body }) => ({ id, deviceId: device.id, atMs, kind, body })),
    readings: fresh.readings.map((r) => ({ channel: r.quantity, unit: r.unit, atMs: r.atMs, value: r.value })),
  };
  for (const runId of await runsUnderWay(deps.db, device.unitId, Math.min(...times), Math.max(...times)))
    deps.hub.publish({ ...message, runId });
}
