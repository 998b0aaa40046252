import type { MeasuredClip } from "@keep-rolling/contract/walks";
import { measuredClip } from "@keep-rolling/contract/walks";
import type { Db, Tx } from "../../db/connection.ts";

interface Row {
  session_id: string;
  sha256: string;
  doc: unknown;
}

/** In the order of their names; a row that is none of this version's is left out, and stays on record. */
export async function readWalkClips(db: Db | Tx, sessionId: string): Promise<MeasuredClip[]> {
  const rows = await db<Row>("walk_clip").where({ session_id: sessionId }).orderBy("sha256");
  return rows.flatMap((r) => {
    const parsed = measuredClip.safeParse(typeof r.doc === "string" ? JSON.parse(r.doc) : r.doc);
    return parsed.success ? [parsed.data] : [];
  });
}

/** Another measurement of the same clip replaces the former. */
export async function saveWalkClip(db: Db | Tx, sessionId: string, clip: MeasuredClip, receivedMs: number): Promise<void> {
  await db("walk_clip")
    .insert({ session_id: sessionId, sha256: clip.sha256, doc: JSON.stringify(clip), received_ms: receivedMs })
    .onConflict(["session_id", "sha256"])
    .merge(["doc", "received_ms"]);
}
