import { demoId } from "@keep-rolling/demo";
import pino from "pino";
import { afterAll, describe, expect, it } from "vitest";
import type { Db } from "../src/db/connection.ts";
import { migrateDown, migrateUp } from "../src/db/migrations.ts";
import { composeDeps } from "../src/compose.ts";
import { mediaFolder } from "../src/media/folder.ts";
import { STEPS } from "../src/rooms.ts";
import { seedBench } from "../src/seed/service.ts";
import { freshDatabase, testBench } from "./bench.ts";

const opened: Db[] = [];
afterAll(() => Promise.all(opened.map((db) => db.destroy())));

async function shape(db: Db): Promise<unknown> {
  const [rows] = (await db.raw(
    "select table_name, column_name, column_type, is_nullable from information_schema.columns where table_schema = database() order by 1, ordinal_position",
  )) as [unknown];
  const [indexes] = (await db.raw(
    "select table_name, index_name, seq_in_index, column_name, non_unique from information_schema.statistics where table_schema = database() order by 1, 2, 3",
  )) as [unknown];
  return { rows, indexes };
}

describe("the schema", () => {
  it("goes up, down and up to the same shape", async () => {
    const db = await freshDatabase();
    opened.push(db);
    await migrateUp(db, STEPS);
    const before = await shape(db);
    await migrateDown(db, STEPS);
    expect(await db.schema.hasTable("mark")).toBe(false);
    await migrateUp(db, STEPS);
    expect(await shape(db)).toEqual(before);
  });
  it("goes on after a kill at any step: done and not written down, or a lock row left by a former version", async () => {
    const db = await freshDatabase();
    opened.push(db);
    for (const [i, step] of STEPS.entries()) {
      // Killed right after the step, before it was written down; then started again, of that version and of today's.
      if (i > 0) await db.raw(step.up);
      await migrateUp(db, STEPS.slice(0, i + 1));
      if (step.name === STEPS.find((s) => s.up.includes("workspace"))?.name)
        await db("workspace").insert({ id: 1, secret: "x".repeat(64) });
    }
    expect(await shape(db)).toEqual(await shape(opened[0] as Db));
    expect(await db("workspace").first()).toMatchObject({ id: 1 });
    // What a former version's migrator left locked.
    await db.raw("create table schema_step_lock (`index` int, is_locked int)");
    await db("schema_step_lock").insert({ index: 1, is_locked: 1 });
    const last = STEPS.at(-1)?.name ?? "";
    await db("schema_step").where({ name: last }).delete();
    await migrateUp(db, STEPS);
    expect((await db("schema_step").select("name")).map((r: { name: string }) => r.name).sort()).toEqual(STEPS.map((s) => s.name).sort());
  });
  it("is changed by one process at a time", async () => {
    const db = await freshDatabase();
    opened.push(db);
    await Promise.all([migrateUp(db, STEPS), migrateUp(db, STEPS), migrateUp(db, STEPS)]);
    expect(await db("schema_step").count({ n: "*" }).first()).toEqual({ n: STEPS.length });
  });
  it("has a comment on every table", async () => {
    const db = opened[0] as Db;
    const [rows] = (await db.raw(
      "select table_name from information_schema.tables where table_schema = database() and table_comment = '' and table_name not like 'schema_step%'",
    )) as [unknown[]];
    expect(rows).toEqual([]);
  });
});

describe("the demo", () => {
  it.runIf(process.env.PROOF === "1")("seeds to equal dumps twice, also under another time zone, and only once", async () => {
    const dump = async (db: Db): Promise<Record<string, unknown>> => {
      const tables = [
        "camera_model",
        "unit",
        "mode",
        "figure",
        "test_condition",
        "protocol",
        "kit_version",
        "run",
        "mark",
        "device_event",
        "reading",
        "statement",
      ];
      return Object.fromEntries(await Promise.all(tables.map(async (t) => [t, (await db(t).orderByRaw("1, 2")) as unknown] as const)));
    };
    // Made in this machine's own zone, by whichever test was the first to ask for it.
    const first = await testBench({ demo: true });
    const zone = process.env.TZ;
    process.env.TZ = "Pacific/Auckland";
    const second = await testBench({ demo: "anew" });
    process.env.TZ = zone;
    opened.push(first.db, second.db);
    expect(await dump(second.db)).toEqual(await dump(first.db));
    expect(await first.db("reading").count({ n: "*" }).first()).toMatchObject({ n: expect.any(Number) as number });
    const limits = (await first.call("GET", "/api/limits")).json as { limits: { retest: unknown[]; n: number }[] };
    expect(limits.limits).toHaveLength(1);
    expect(limits.limits[0]?.n).toBeGreaterThanOrEqual(5);
  });
  it("is made again when the first start was cut off half-way", async () => {
    const db = await freshDatabase();
    opened.push(db);
    await migrateUp(db, STEPS);
    await db("workspace").insert({ id: 1 });
    await db("clock").insert({ id: "real", kind: "real", wanted_rate: 1 });
    await db("camera_model").insert({
      id: demoId("kit", 20),
      name: "half",
      sensor_width_mm: 1,
      sensor_height_mm: 1,
      megapixels: 1,
      rev: 1,
    });
    const deps = composeDeps({
      db,
      media: mediaFolder("nowhere"),
      spool: "nowhere",
      log: pino({ level: "silent" }),
      now: () => 1_000_000_000,
    });
    await seedBench(deps, false);
    expect(await db("camera_model").select("name")).toEqual([{ name: "Practice body" }]);
    await db("camera_model").update({ name: "mine" });
    await seedBench(deps, true);
    expect(await db("camera_model").select("name")).toEqual([{ name: "mine" }]);
  });
});
