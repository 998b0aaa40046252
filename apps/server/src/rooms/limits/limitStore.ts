// Recorded limits, frozen. Append-only: a later one supersedes, nothing is changed.

import type { Db, Tx } from "../../db/connection.ts";

/** What is frozen; the contract's limit without what is read today. */
export interface FrozenDoc {
  [key: string]: unknown;
}
export interface StatementRow {
  id: string;
  unitId: string;
  anyFirmwareSha: string;
  recordedAtMs: number;
  doc: FrozenDoc;
  evidenceSha: string;
  supersedes: string | null;
}
interface Raw {
  id: string;
  unit_id: string;
  any_firmware_sha: string;
  recorded_at_ms: number;
  doc: FrozenDoc;
  evidence_sha: string;
  supersedes: string | null;
}
const toRow = (r: Raw): StatementRow => ({
  id: r.id,
  unitId: r.unit_id,
  anyFirmwareSha: r.any_firmware_sha,
  recordedAtMs: r.recorded_at_ms,
  doc: r.doc,
  evidenceSha: r.evidence_sha,
  supersedes: r.supersedes,
});

export async function readStatements(db: Db | Tx): Promise<StatementRow[]> {
  return (await db<Raw>("statement").orderBy(["recorded_at_ms", "id"])).map(toRow);
}

export async function insertStatement(tx: Tx, row: StatementRow): Promise<void> {
  await tx("statement").insert({
    id: row.id,
    unit_id: row.unitId,
    any_firmware_sha: row.anyFirmwareSha,
    recorded_at_ms: row.recordedAtMs,
    doc: JSON.stringify(row.doc),
    evidence_sha: row.evidenceSha,
    supersedes: row.supersedes,
  });
}
