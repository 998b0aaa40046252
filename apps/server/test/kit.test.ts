// Kit beyond single rows: the kit as a file, what happened to bodies, plans and days, former versions of rows that have grown fields.

import type { BundleReport, Kit, KitBundle, UnitEvent } from "@keep-rolling/contract/kit";
import { kitReply } from "@keep-rolling/contract/kit";
import fc from "fast-check";
import { v7 as uuidv7 } from "uuid";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import type { TestBench } from "./bench.ts";
import { testBench } from "./bench.ts";

let bench: TestBench;
let demo: TestBench;
beforeAll(async () => {
  bench = await testBench();
  demo = await testBench({ demo: true });
});
afterAll(async () => {
  await bench.close();
  await demo.close();
});
const kitOf = async (b: TestBench): Promise<Kit> => kitReply.parse((await b.call("GET", "/api/kit")).json);
const fileOf = async (b: TestBench): Promise<KitBundle> => (await b.call("GET", "/api/kit-file")).json as KitBundle;
const changes = (report: BundleReport): string[] => report.rows.filter((r) => r.what !== "same").map((r) => `${r.what} ${r.entity}`);

describe("the kit as a file", () => {
  it("goes into another bench whole, by a preview that changes nothing, and is the same there afterwards", async () => {
    const file = await fileOf(demo);
    const before = await kitOf(bench);
    const preview = (await bench.call("POST", "/api/kit-file/preview", file)).json as BundleReport;
    expect(preview.stored).toBe(false);
    expect(changes(preview)).toContain("new items");
    expect(await kitOf(bench)).toEqual(before);
    const done = (await bench.call("POST", "/api/kit-file", file)).json as BundleReport;
    expect(done).toEqual({ ...preview, stored: true });
    expect((await fileOf(bench)).kit).toEqual(file.kit);
    expect(changes((await bench.call("POST", "/api/kit-file/preview", file)).json as BundleReport)).toEqual([]);
  });

  it("makes a new version of what differs, and records a change of firmware as something that happened", async () => {
    const file = await fileOf(demo);
    const [unit] = file.kit.units.filter((u) => u.bench === "demo");
    const [item] = file.kit.items;
    if (unit === undefined || item === undefined) throw new Error("the demo has no unit or item");
    unit.firmware = "9.9";
    item.count = 7;
    const done = (await demo.call("POST", "/api/kit-file", file)).json as BundleReport;
    expect(changes(done).sort()).toEqual(["changed items", "changed units"]);
    const kit = await kitOf(demo);
    expect(kit.items.find((i) => i.id === item.id)).toMatchObject({ count: 7, rev: 2 });
    const { events } = (await demo.call("GET", "/api/unit-events")).json as { events: UnitEvent[] };
    expect(events.filter((e) => e.unitId === unit.id && e.kind === "firmware")).toMatchObject([{ body: { to: "9.9" } }]);
  });

  it("takes half of a character as the replacement character, in every text, and whole ones as they are", async () => {
    const item = {
      id: uuidv7(),
      archived: false,
      name: "Card \ud800",
      count: 1,
      fits: "\udc00",
      notes: "kept: 🚣 and \ud83d\ude00",
      spec: { kind: "card", capacityGb: 64, writeMBps: 60 },
    };
    const taken = await bench.call("POST", "/api/kit-file", { format: "keep-rolling-kit", formatVersion: 1, kit: { items: [item] } });
    expect(taken.status).toBe(200);
    const kept = (await kitOf(bench)).items.find((i) => i.id === item.id);
    expect(kept).toMatchObject({ name: "Card \ufffd", fits: "\ufffd", notes: item.notes });
  });
  it("is taken whole or not at all, and says which part cannot be taken", async () => {
    const orphan = {
      id: uuidv7(),
      archived: false,
      modelId: uuidv7(),
      name: "Lost body",
      serialLabel: "",
      firmware: "1",
      notes: "",
      bench: "real",
    };
    const item = {
      id: uuidv7(),
      archived: false,
      name: "Card",
      count: 1,
      fits: "",
      notes: "",
      spec: { kind: "card", capacityGb: 64, writeMBps: 60 },
    };
    const bad = await bench.call("POST", "/api/kit-file", {
      format: "keep-rolling-kit",
      formatVersion: 1,
      kit: { items: [item], units: [orphan] },
    });
    expect(bad).toMatchObject({ status: 422, json: { detail: expect.stringMatching(/^Lost body belongs to something/) as string } });
    expect((await kitOf(bench)).items.some((i) => i.id === item.id)).toBe(false);
    const twice = await bench.call("POST", "/api/kit-file", { format: "keep-rolling-kit", formatVersion: 1, kit: { items: [item, item] } });
    expect(twice).toMatchObject({ status: 422, json: { detail: "Two items of the file have one id. Nothing was changed." } });
    const other = await bench.call("POST", "/api/kit-file", { format: "something else" });
    expect(other).toMatchObject({
      status: 422,
      json: { detail: expect.stringContaining("This is no kit file of Keep Rolling.") as string },
    });
    const zero = await bench.call("POST", "/api/kit-file", {
      format: "keep-rolling-kit",
      formatVersion: 1,
      kit: { items: [{ ...item, spec: { ...item.spec, capacityGb: 0 } }] },
    });
    expect(zero).toMatchObject({ status: 422, json: { detail: "kit.items.0.spec.capacityGb: More than zero. Nothing was changed." } });
  });

  it("never loses a row: whatever items go there and back", async () => {
    const items = fc.array(
      fc.record({
        name: fc.string({ minLength: 1, maxLength: 40 }).filter((s) => s.trim() === s && s.length > 0 && !s.includes("\u0000")),
        count: fc.nat({ max: 999 }),
        wh: fc.double({ min: 0.1, max: 1000, noNaN: true }),
        chargeMin: fc.option(fc.integer({ min: 1, max: 1440 }), { nil: null }),
      }),
      { minLength: 1, maxLength: 6 },
    );
    await fc.assert(
      fc.asyncProperty(items, async (list) => {
        const docs = list.map(({ name, count, wh, chargeMin }) => ({
          id: uuidv7(),
          archived: false,
          name,
          count,
          fits: "",
          notes: "",
          spec: { kind: "battery" as const, wh, chargeMin },
        }));
        const taken = await bench.call("POST", "/api/kit-file", { format: "keep-rolling-kit", formatVersion: 1, kit: { items: docs } });
        expect(taken.status).toBe(200);
        const back = (await fileOf(bench)).kit.items;
        for (const doc of docs) expect(back.find((i) => i.id === doc.id)).toEqual(doc);
      }),
      { numRuns: 15 },
    );
  });
});

describe("what happened to a body", () => {
  it("is added once, ended and taken back by further facts, and never lost", async () => {
    const [unit] = (await kitOf(bench)).units;
    const event = { id: uuidv7(), kind: "out of service", atMs: 1000, toMs: null, text: "shutter stuck" };
    const path = `/api/units/${unit?.id ?? ""}/events`;
    expect((await bench.call("POST", path, event)).status).toBe(200);
    expect((await bench.call("POST", path, event)).status).toBe(200);
    expect((await bench.call("POST", `/api/unit-events/${event.id}/after`, { id: uuidv7(), event: "ended", atMs: 5000 })).status).toBe(200);
    const { events } = (await bench.call("GET", "/api/unit-events")).json as { events: UnitEvent[] };
    expect(events.filter((e) => e.unitId === unit?.id).map((e) => [e.kind, e.atMs])).toEqual([
      ["out of service", 1000],
      ["ended", 5000],
    ]);
    expect(await bench.call("POST", path, { ...event, id: uuidv7(), toMs: 10 })).toMatchObject({ status: 422 });
    expect((await bench.call("POST", `/api/units/${uuidv7()}/events`, { ...event, id: uuidv7() })).status).toBe(404);
    expect((await bench.call("POST", `/api/unit-events/${uuidv7()}/after`, { id: uuidv7(), event: "ended", atMs: 1 })).status).toBe(404);
  });
});

describe("plans and days", () => {
  it("are saved like any row; a day wants its plan, and ends after it begins", async () => {
    const plan = { id: uuidv7(), archived: false, name: "P", bench: "real", cells: [] };
    const day = {
      id: uuidv7(),
      archived: false,
      name: "D",
      planId: plan.id,
      date: "2031-06-21",
      zone: "Europe/Dublin",
      fromMin: 540,
      toMin: 1020,
      orderSchool: "random",
      seed: 4_294_967_295,
      units: [],
      sun: [{ fromMin: 600, toMin: 700 }],
      weather: [],
      chargers: 1,
      turnoverMin: 12.5,
      choices: [{ slot: "a#1", startMin: 600, cardId: null, swaps: null, out: false }],
    };
    const put = (entity: string, doc: { id: string }, rev = 0) =>
      bench.call("PUT", `/api/kit/${entity}/${doc.id}`, doc, { "if-match": `"${rev}"` });
    expect((await put("days", day)).status).toBe(422);
    expect((await put("plans", plan)).status).toBe(200);
    expect((await put("days", day)).status).toBe(200);
    expect((await kitOf(bench)).days.find((d) => d.id === day.id)).toEqual({ ...day, rev: 1 });
    expect(await put("days", { ...day, toMin: 500 } as never, 1)).toMatchObject({
      status: 422,
      json: { fields: [{ path: "toMin", message: "It ends before it begins." }] },
    });
  });
});

describe("rows that have grown", () => {
  it("a version from before has no traits, and bringing it back says so", async () => {
    const old = { id: uuidv7(), archived: false, name: "Old", sensorWidthMm: 36, sensorHeightMm: 24, megapixels: 24 };
    const traits = {
      mount: "Reed",
      slots: ["", "slim"],
      batteryFits: "",
      sensorStabiliser: true,
      electronic: [],
      electronicNeedsOther: false,
    };
    const put = (doc: object, rev: number) => bench.call("PUT", `/api/kit/models/${old.id}`, doc, { "if-match": `"${rev}"` });
    await put(old, 0);
    await put({ ...old, traits }, 1);
    expect((await kitOf(bench)).models.find((m) => m.id === old.id)?.traits).toEqual(traits);
    await put(old, 2);
    expect((await kitOf(bench)).models.find((m) => m.id === old.id)?.traits).toBeNull();
  });
});
