import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { itemDoc, modelTraits } from "./items.ts";
import { conditionSnapshot, protocolSnapshot } from "./snapshots.ts";
import { startBody } from "./marks.ts";
import { kitBundle } from "./kit.ts";
import { dayDoc, planDoc } from "./plan.ts";

const id = "01900000-0000-7000-8000-000000000001";
const says = (parsed: { success: boolean; error?: { issues: { path: PropertyKey[]; message: string }[] } }): string[] =>
  parsed.error?.issues.map((i) => `${i.path.join(".")}: ${i.message}`) ?? [];
const item = (spec: unknown, more: object = {}) => ({ id, archived: false, name: "Thing", count: 1, fits: "", notes: "", spec, ...more });

describe("things on the wire", () => {
  it("each kind has its own numbers, and none of another's", () => {
    expect(itemDoc.safeParse(item({ kind: "card", capacityGb: 64, writeMBps: 60 })).success).toBe(true);
    expect(itemDoc.safeParse(item({ kind: "card", capacityGb: 64, writeMBps: 60, wh: 3 })).success).toBe(false);
    expect(itemDoc.safeParse(item({ kind: "battery", wh: 16, chargeMin: null })).success).toBe(true);
    expect(itemDoc.safeParse(item({ kind: "teapot" })).success).toBe(false);
  });
  it("says what is wrong in sentences, at the field", () => {
    expect(says(itemDoc.safeParse(item({ kind: "card", capacityGb: -1, writeMBps: 60 })))).toEqual(["spec.capacityGb: More than zero."]);
    expect(says(itemDoc.safeParse(item({ kind: "lens", focalMinMm: 50, focalMaxMm: 20, stabiliser: "none" })))).toEqual([
      "spec.focalMaxMm: The longest focal length is below the shortest.",
    ]);
    expect(says(itemDoc.safeParse(item({ kind: "power supply", watts: 30 }, { count: 1.5 })))).toEqual([
      "count: How many, a whole number.",
    ]);
    const traits = { mount: "", slots: [], batteryFits: "", sensorStabiliser: false, electronic: [], electronicNeedsOther: false };
    expect(says(modelTraits.safeParse(traits))).toEqual(["slots: At least one card slot."]);
  });
});

const day = {
  id,
  archived: false,
  name: "Day",
  planId: id,
  date: "2031-06-21",
  zone: "UTC",
  fromMin: 540,
  toMin: 1080,
  orderSchool: "balanced",
  seed: 0,
  units: [id],
  sun: [],
  weather: [],
  chargers: 0,
  turnoverMin: 0,
  choices: [],
};

describe("plans and days on the wire", () => {
  it("a day ends after it begins, in a zone there is, on a date there is", () => {
    expect(dayDoc.safeParse(day).success).toBe(true);
    expect(says(dayDoc.safeParse({ ...day, toMin: 540 }))).toEqual(["toMin: It ends before it begins."]);
    expect(says(dayDoc.safeParse({ ...day, date: "2031-02-30" }))).toEqual(["date: A date as 2031-06-21."]);
    expect(says(dayDoc.safeParse({ ...day, zone: "Moon/Crater" }))[0]).toMatch(/^zone: Not a time zone/);
    expect(says(dayDoc.safeParse({ ...day, sun: [{ fromMin: 700, toMin: 600 }] }))).toEqual(["sun.0.toMin: It ends before it begins."]);
    expect(dayDoc.safeParse({ ...day, seed: 2 ** 32 }).success).toBe(false);
  });
  it("a cell is skipped with a reason or not at all", () => {
    const cell = { id, unitId: id, modeId: id, conditionId: id, protocolId: id, trials: 3, skip: null };
    const plan = (skip: string | null) => planDoc.safeParse({ id, archived: false, name: "P", bench: "real", cells: [{ ...cell, skip }] });
    expect(plan(null).success).toBe(true);
    expect(says(plan("no"))).toEqual(["cells.0.skip: Say why, in a few words."]);
  });
  it("any day that is taken comes back as it was", () => {
    const minute = fc.integer({ min: 0, max: 2879 });
    const choices = fc.array(
      fc.record({
        slot: fc.uuid(),
        startMin: fc.option(minute, { nil: null }),
        cardId: fc.constantFrom(id, null),
        swaps: fc.constantFrom(true, false, null),
        out: fc.boolean(),
      }),
      { maxLength: 5 },
    );
    fc.assert(
      fc.property(minute, choices, fc.nat(), (fromMin, chosen, seed) => {
        const doc = { ...day, fromMin, toMin: fromMin + 1, choices: chosen, seed };
        expect(dayDoc.parse(JSON.parse(JSON.stringify(doc)))).toEqual(doc);
      }),
    );
  });
});

describe("what has grown", () => {
  const condition = {
    id,
    name: "Room",
    ambientC: 21,
    toleranceC: 2,
    sun: "none",
    air: "still",
    screen: "lit",
    power: "internal",
    powerOffSetting: "normal",
  };
  const protocol = {
    id,
    name: "P",
    continuity: { poweredOff: "strict", bridgeBodyOnMs: 0 },
    checkpointSec: 300,
    checkpointAfterWarningSec: 60,
    onWarning: "stop",
  };
  it("conditions and protocols from before are still read, as they were", () => {
    expect(conditionSnapshot.parse(condition)).toEqual(condition);
    expect(protocolSnapshot.parse(protocol)).toEqual(protocol);
    expect(conditionSnapshot.safeParse({ ...condition, settings: { humidityPct: 101 } }).success).toBe(false);
    const schools = { load: "worst case", coolDown: { to: "rest" }, tauMin: 30, stopAfterMin: null, swaps: "none" };
    expect(protocolSnapshot.safeParse({ ...protocol, schools }).success).toBe(false);
    expect(protocolSnapshot.safeParse({ ...protocol, schools: { ...schools, coolDown: { to: "ambient" } } }).success).toBe(true);
  });
  it("a start names its block, or none", () => {
    expect(startBody.shape.slot.safeParse(undefined).success).toBe(true);
    expect(startBody.shape.slot.safeParse({ dayId: id, slot: "c#1" }).success).toBe(true);
    expect(startBody.shape.slot.safeParse({ dayId: "today", slot: "" }).success).toBe(false);
  });
  it("a kit file without some kinds is one with none of them", () => {
    expect(kitBundle.parse({ format: "keep-rolling-kit", formatVersion: 1, kit: {} }).kit.items).toEqual([]);
    expect(says(kitBundle.safeParse({ format: "keep-rolling-kit", formatVersion: 2, kit: {} }))).toEqual([
      "formatVersion: This kit file was written by a later version.",
    ]);
  });
});
