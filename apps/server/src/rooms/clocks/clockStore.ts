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

/** Enough for any moment a page may ask about; an archive takes every piece. */
const PIECES_NOW = 50;

/** Clocks with the pieces that hold now and shortly before. */
export async function readClocksNow(db: Db): Promise<Clock[]> {
  const rows = await db<ClockRow>("clock").orderBy("id");
  const [pieces] = (await db.raw(
    `select clock_id, wall_ms, clock_ms, rate from
      (select p.*, row_number() over (partition by clock_id order by n desc) as back from clock_segment p) q
      where back <= ? order by clock_id, n`,
    [PIECES_NOW],
  )) as [PieceRow[]];
  return joined(rows, pieces);
}

export async function readClocks(db: Db | Tx): Promise<Clock[]> {
  const rows = await db<ClockRow>("clock").orderBy("id");
  const pieces = await db<PieceRow>("clock_segment").orderBy(["clock_id", "n"]);
  return joined(rows, pieces);
}

const joined = (rows: readonly ClockRow[], pieces: readonly PieceRow[]): Clock[] =>
  rows.map((row) => ({
    id: row.id,
    kind: row.kind,
    wantedRate: row.wanted_rate,
    segments: pieces.filter((p) => p.clock_id === row.id).map((p) => ({ wallMs: p.wall_ms, clockMs: p.clock_ms, rate: p.rate })),
  }));

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
