// Filling a fresh bench: built-in kit, and the demo if asked. A seeding that was cut off is cleared and done again; the row that
// says "seeded" is written last.

import type { Kit, KitEntity } from "@keep-rolling/contract/kit";
import type { StandInRun } from "@keep-rolling/core/stand-ins";
import type { MarkOf } from "@keep-rolling/core/runs";
import type { DemoRun, KitDocs } from "@keep-rolling/demo";
import { demoId } from "@keep-rolling/demo";
import { v5 as uuidv5 } from "uuid";
import { addClock } from "../rooms/clocks/index.ts";
import type { Db, Tx } from "../db/connection.ts";
import { insertEvents, insertReadings, nameBrowser, saveDevice, standInFacts, streamOf } from "../rooms/devices/index.ts";
import { saveRow } from "../rooms/kit/index.ts";
import { cacheFold, createRun, insertMarks } from "../rooms/runs/index.ts";

export async function readWorkspace(db: Db): Promise<{ seeded: boolean } | null> {
  const row = await db<{ id: number; seeded_at: Date | null }>("workspace").where({ id: 1 }).first();
  return row === undefined ? null : { seeded: row.seeded_at !== null };
}

export async function makeWorkspace(db: Db): Promise<void> {
  await db("workspace").insert({ id: 1 }).onConflict("id").ignore();
}

export async function markSeeded(db: Db, at: Date): Promise<void> {
  await db("workspace").where({ id: 1 }).update({ seeded_at: at });
}

/** Only ever called on a bench that was never finished: empties every table but the schema's own and the workspace row. */
export async function clearUnfinished(db: Db): Promise<void> {
  const [rows] = (await db.raw(
    "select table_name as name from information_schema.tables where table_schema = database() and table_name not like 'schema\\_step%' and table_name <> 'workspace'",
  )) as [{ name: string }[]];
  for (const { name } of rows) await db(name).delete();
}

const KIT_SAVED_MS = Date.UTC(2031, 5, 10, 18);

export async function seedKit(tx: Tx, docs: KitDocs): Promise<void> {
  for (const [entity, rows] of Object.entries(docs) as [KitEntity, Omit<Kit[KitEntity][number], "rev">[]][]) {
    for (const doc of rows) await saveRow(tx, entity, doc, 1, KIT_SAVED_MS);
  }
}

/** Simulated clocks stand until the server lets them go; real time has no pieces. */
export async function seedClocks(tx: Tx, demoNowMs: number | null): Promise<void> {
  await addClock(tx, "real", "real");
  await addClock(tx, "rehearsal", "rehearsal");
  if (demoNowMs === null) return;
  await addClock(tx, "demo", "demo");
  await tx("clock_segment").insert({ clock_id: "demo", n: 1, wall_ms: 0, clock_ms: demoNowMs, rate: 0 });
}

export async function seedRuns(tx: Tx, runs: readonly DemoRun[], nowMs: number): Promise<void> {
  if (runs.length > 0) await nameBrowser(tx, demoId("device", 1), "pontoon laptop");
  const last = new Map<string, DemoRun>();
  for (const run of runs) {
    const start = run.marks.find((m): m is MarkOf<"start"> => m.kind === "start");
    if (start === undefined) throw new RangeError(`demo run ${run.runId} has no start`);
    const unitId = start.body.unit.id;
    await createRun(tx, start);
    await insertMarks(
      tx,
      run.runId,
      run.marks.map((mark, i) => ({ seq: i + 1, receivedAtMs: mark.madeAtMs, mark })),
    );
    await cacheFold(tx, run.runId, run.marks);
    await seedFacts(tx, unitId, { runId: run.runId, marks: run.marks, before: last.get(unitId) ?? null }, nowMs);
    last.set(unitId, run);
  }
}

async function seedFacts(tx: Tx, unitId: string, run: StandInRun, nowMs: number): Promise<void> {
  const device = uuidv5("stand-in", unitId);
  await saveDevice(tx, { id: device, kind: "stand-in", name: "stand-in", unitId, tokenHash: uuidv5("no token yet", unitId) });
  const { lines } = standInFacts(run, nowMs);
  const readings = lines.filter((l) => l.type === "reading");
  for (const name of new Set(readings.map((r) => r.channel))) {
    const rows = readings.filter((r) => r.channel === name);
    const [first] = rows;
    if (first === undefined) continue;
    const streamId = await streamOf(tx, device, { name, quantity: first.quantity, unit: first.unit, bodyId: unitId, fromMs: first.atMs });
    await insertReadings(tx, streamId, rows);
  }
  await insertEvents(
    tx,
    device,
    unitId,
    lines.filter((l) => l.type === "event"),
  );
}
