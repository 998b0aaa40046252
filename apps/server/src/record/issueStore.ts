// What could not be taken in, and what a device's clock turned out to be: kept beside the facts.

import type { Db, Tx } from "../db/connection.ts";

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

export async function noteDeviceEvent(
  tx: Tx,
  event: { id: string; deviceId: string; unitId: string; atMs: number; kind: string; body: object },
): Promise<void> {
  await tx("device_event")
    .insert({
      id: event.id,
      device_id: event.deviceId,
      unit_id: event.unitId,
      at_ms: event.atMs,
      kind: event.kind,
      body: JSON.stringify(event.body),
    })
    .onConflict("id")
    .ignore();
}
