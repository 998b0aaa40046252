// One-time codes in the database, so that any server of the bench can take one. Only the hash is kept.

import type { Tx } from "../../db/connection.ts";

interface Row {
  code_sha: string;
  until_ms: number;
  used_ms: number | null;
}

export async function addPairing(tx: Tx, codeSha: string, untilMs: number, nowMs: number): Promise<void> {
  await tx("pairing").where("until_ms", "<", nowMs).delete();
  await tx("pairing").insert({ code_sha: codeSha, until_ms: untilMs });
}

/** True once, for a code that still holds. */
export async function usePairing(tx: Tx, codeSha: string, nowMs: number): Promise<boolean> {
  const used = await tx<Row>("pairing")
    .where({ code_sha: codeSha })
    .whereNull("used_ms")
    .andWhere("until_ms", ">=", nowMs)
    .update({ used_ms: nowMs });
  return used === 1;
}
