import type { Db, Tx } from "../db/connection.ts";

export interface BlobRow {
  sha256: string;
  bytes: number;
  mime: string;
}

export async function addBlob(tx: Tx, row: BlobRow, receivedMs: number): Promise<void> {
  await tx("blob")
    .insert({ ...row, received_ms: receivedMs })
    .onConflict("sha256")
    .ignore();
}

export async function findBlob(db: Db, sha256: string): Promise<BlobRow | null> {
  return (await db<BlobRow>("blob").where({ sha256 }).first("sha256", "bytes", "mime")) ?? null;
}
