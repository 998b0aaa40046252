// Bench clocks and their appended pieces.

import type { Clock } from "@keep-rolling/contract/clocks";
import type { Db, Tx } from "../../db/connection.ts";

interface ClockRow {
  id: string;
  kind: Clock["kind"];
  wanted_rate: number;
}
interface PieceRow {
  clock_id: string;
  wall_ms: number;
  clock_ms: number;
  rate: number;
}

export async function readClocks(db: Db | Tx): Promise<Clock[]> {
  const rows = await db<ClockRow>("clock").orderBy("id");
  const pieces = await db<PieceRow>("clock_segment").orderBy(["clock_id", "n"]);
  return rows.map((row) => ({
    id: row.id,
    kind: row.kind,
    wantedRate: row.wanted_rate,
    segments: pieces.filter((p) => p.clock_id === row.id).map((p) => ({ wallMs: p.wall_ms, clockMs: p.clock_ms, rate: p.rate })),
  }));
}

/** One clock with its row locked for the rest of the transaction; null when there is none. */
export async function lockClock(tx: Tx, id: string): Promise<Clock | null> {
  await tx("clock").where({ id }).forUpdate();
  return (await readClocks(tx)).find((c) => c.id === id) ?? null;
}

export async function appendPiece(tx: Tx, clock: Clock, piece: Clock["segments"][number], wantedRate: number): Promise<void> {
  await tx("clock_segment").insert({
    clock_id: clock.id,
    n: clock.segments.length + 1,
    wall_ms: piece.wallMs,
    clock_ms: piece.clockMs,
    rate: piece.rate,
  });
  await tx("clock").where({ id: clock.id }).update({ wanted_rate: wantedRate });
}

export async function addClock(tx: Tx, id: string, kind: Clock["kind"]): Promise<void> {
  await tx("clock").insert({ id, kind, wanted_rate: 1 }).onConflict("id").ignore();
}
