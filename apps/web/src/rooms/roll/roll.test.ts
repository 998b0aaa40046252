import { foldRun } from "@keep-rolling/core/runs";
import type { Mark } from "@keep-rolling/core/runs";
import { describe, expect, it } from "vitest";
import { MARK_ACTIONS } from "./actions.ts";
import { choicesOf, readValue, valuesOf } from "./details.ts";
import { offersOf } from "./offers.ts";
import { TypedAhead } from "./typedAhead.ts";
import { firstSetup, setupSchema, startBody, toUnit } from "./setup.ts";
import type { Kit } from "@keep-rolling/contract/kit";
import { bodies } from "@keep-rolling/contract/marks";
import { CONDITION, MODE, PROTOCOL } from "../../testing/kit.ts";
import { mark } from "../../testing/marks.ts";

describe("the keys", () => {
  it("are one letter each, and every kind of a single run can be pressed", () => {
    const keys = MARK_ACTIONS.map((a) => a.key);
    expect(new Set(keys).size).toBe(keys.length);
    const fold = foldRun([mark("start", 0, {})]);
    const kinds = new Set(MARK_ACTIONS.map((a) => a.press(fold, 3).kind));
    for (const kind of ["gap", "resume", "split", "reading", "touch", "warning", "condition", "end", "note"]) expect(kinds).toContain(kind);
    expect(MARK_ACTIONS.find((a) => a.key === "u")?.press(fold, 9.0)).toEqual({ kind: "reading", body: { gauge: 10 } });
    expect(MARK_ACTIONS.find((a) => a.key === "u")?.press(fold, 10)).toEqual({ kind: "reading", body: { gauge: 10 } });
  });
  it("offer at most ten choices under number keys, each a correction of that kind", () => {
    for (const m of [
      mark("gap", 1, { cause: "unknown", power: "on" }),
      mark("end", 1, { cause: "unknown" }),
      mark("touch", 1, { feel: "not said" }),
    ]) {
      const choices = choicesOf(m).flatMap((g) => g.choices);
      expect(choices.length).toBeGreaterThanOrEqual(4);
      expect(choices.filter((c) => c.chosen)).toHaveLength(m.kind === "gap" ? 1 : 0);
    }
    // A swap asks first whether the body was off, and takes what the old battery showed.
    const swap = mark("gap", 1, { cause: "battery swap", power: "on" });
    expect(choicesOf(swap)[0]).toMatchObject({
      ask: "Was the body off?",
      choices: [{ words: "powered off" }, { words: "body on", chosen: true }],
    });
    expect(valuesOf(swap).map((v) => v.key)).toEqual(["batteryPct"]);
    expect(valuesOf(mark("gap", 1, { cause: "card swap", power: "on" }))).toEqual([]);
    const hot = choicesOf(mark("end", 1, { cause: "tester stopped", becauseHot: true }))
      .flatMap((g) => g.choices)
      .filter((c) => c.chosen);
    expect(hot.map((c) => c.words)).toEqual(["tester stopped, because it was hot"]);
  });
});

describe("words typed while their mark is being stored", () => {
  it("belong to its form, and Enter with them", () => {
    const ahead = new TypedAhead();
    expect(ahead.take("x")).toBe(false);
    ahead.begin();
    for (const key of ["f", "a", "m", "Backspace", "n", "Enter"]) expect(ahead.take(key)).toBe(true);
    expect(ahead.take("Escape")).toBe(false);
    expect(ahead.give()).toEqual({ text: "fan", entered: true });
    ahead.end();
    expect(ahead.take("g")).toBe(false);
    expect(ahead.give()).toEqual({ text: "", entered: false });
  });
});

describe("typed values", () => {
  const surface = valuesOf(mark("reading", 1, {})).find((f) => f.key === "shellC");
  it("are refused with a sentence before they become a mark", () => {
    if (surface === undefined) throw new Error("no surface field");
    expect(readValue(surface, "400", "C")).toEqual({ ok: false, sentence: "Surface of 400 cannot be: -40 to 110 °C. Nothing was stored." });
    expect(readValue(surface, "warm", "C")).toMatchObject({ ok: false });
    expect(readValue(surface, "41,5", "C")).toEqual({ ok: true, value: 41.5 });
    expect(readValue(surface, "104", "F")).toEqual({ ok: true, value: 40 });
  });
});

describe("what a device says", () => {
  const event = (id: string, atSec: number, kind: string, body = {}) => ({ id, deviceId: "dev", atMs: atSec * 1000, kind, body });
  it("is offered until accepted, or until a press says the same; never from the future", () => {
    const start = mark("start", 0, {});
    const shown = event("e1", 100, "warning", { phase: "shown", minutesLeft: 4 });
    const off = event("e2", 300, "shutdown");
    const words = (marks: Mark[], nowSec: number) => offersOf(foldRun(marks), marks, [off, shown], nowSec * 1000).map((o) => o.words);
    expect(words([start], 200)).toEqual(["the camera shows: warning shown, 4 min left"]);
    expect(words([start], 400)).toHaveLength(2);
    expect(words([start, mark("warning", 103, { phase: "shown" })], 400)).toEqual(["the camera went off: heat shutdown"]);
    const taken = mark("warning", 100, { phase: "shown" }, { accepts: "e1", source: "accepted" });
    expect(words([start, taken], 200)).toEqual([]);
    expect(words([start, mark("end", 310, { cause: "other" })], 400)).toEqual([]);
  });
});

describe("the set-up form", () => {
  const good = {
    unitId: "u",
    modeId: "m",
    conditionId: "c",
    protocolId: "p",
    runKind: "endurance",
    onMin: 10,
    offMin: 5,
    pausePower: "on",
    adhocName: "",
    sun: "none",
    air: "still",
    screen: "lit",
    power: "internal",
    powerOffSetting: "normal",
    ambient: 21,
    plusMinus: 1,
    basis: "guessed",
    state: "cold",
    by: "gauge",
    said: "",
  } as const;
  it("refuses nonsense with sentences", () => {
    expect(setupSchema.safeParse(good).success).toBe(true);
    const bad = setupSchema.safeParse({ ...good, unitId: "", ambient: Number.NaN, plusMinus: -1 });
    expect(bad.error?.issues.map((i) => i.message)).toEqual(["Choose the unit.", "Zero or more."]);
    const half = setupSchema.safeParse({ ...good, plusMinus: null, basis: "" });
    expect(half.error?.issues.map((i) => i.message)).toEqual(["Measured or guessed?", "How far may it be off?"]);
  });
  it("stores °C whatever was typed, and gives nothing when the kit lost a part", () => {
    expect(toUnit(21, "F")).toBe(69.8);
    expect(
      startBody(
        { models: [], units: [], modes: [], figures: [], items: [], conditions: [], protocols: [], plans: [], days: [] },
        good,
        "C",
      ),
    ).toBeNull();
  });
  it("starts a run although the kit's rows have grown fields that a mark does not know", () => {
    const id = (n: number): string => `01900000-0000-7000-8000-00000000000${n}`;
    const row = { archived: false, rev: 1, addedTomorrow: 7 };
    const kit = {
      models: [{ ...row, id: id(1), name: "Model" }],
      units: [{ ...row, id: id(2), modelId: id(1), name: "Body", serialLabel: "", firmware: "1.0", notes: "", bench: "real" }],
      modes: [{ ...row, id: id(3), modelId: id(1), ...MODE }],
      conditions: [{ ...row, id: id(4), ...CONDITION, settings: null }],
      protocols: [{ ...row, id: id(5), ...PROTOCOL, schools: null }],
      figures: [],
      items: [],
      plans: [],
      days: [],
    } as unknown as Kit;
    const body = startBody(kit, { ...good, unitId: id(2), modeId: id(3), conditionId: id(4), protocolId: id(5) }, "C");
    expect(bodies.start.safeParse(body).error).toBeUndefined();
    // What was not asked is not recorded, and nothing is taken for measured.
    const { ambient } = firstSetup(kit, { unitId: id(2), rehearse: false, cell: null });
    expect(ambient).toBeNull();
    const silent = startBody(kit, firstSetup(kit, { unitId: id(2), rehearse: false, cell: null }), "C");
    expect(silent).toMatchObject({ ambient: { basis: "not recorded" }, startState: { state: "unknown" } });
    expect(bodies.start.safeParse(silent).error).toBeUndefined();
  });
});
