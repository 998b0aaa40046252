// What could not be taken in, and reading at one moment.

import type { SetAside } from "@keep-rolling/contract/data";
import type { Db, Tx } from "../../db/connection.ts";

/** Everything read in `work` is of one moment. */
export const atOneMoment = <T>(db: Db, work: (tx: Tx) => Promise<T>): Promise<T> =>
  db.transaction(work, { isolationLevel: "repeatable read" });

const SET_ASIDE_SHOWN = 500;

/** What could not be taken in, newest first. */
export async function readSetAside(db: Db): Promise<SetAside[]> {
  const rows = await db("intake_issue")
    .leftJoin("device", "device.id", "intake_issue.device_id")
    .orderBy("intake_issue.id", "desc")
    .limit(SET_ASIDE_SHOWN)
    .select<{ id: number; device_id: string | null; name: string | null; received_ms: number; code: string; raw: string }[]>(
      "intake_issue.id",
      "intake_issue.device_id",
      "device.name",
      "intake_issue.received_ms",
      "intake_issue.code",
      "intake_issue.raw",
    );
  return rows.map((r) => ({ n: r.id, deviceId: r.device_id, deviceName: r.name, receivedMs: r.received_ms, code: r.code, raw: r.raw }));
}
