// The plan's words, form and files. The calendar file is read back by a parser of its own (ical.js).

import type { DayDoc, PlanDoc } from "@keep-rolling/contract/plan";
import { dayDoc } from "@keep-rolling/contract/plan";
import type { Block } from "@keep-rolling/core/planning";
import ICAL from "ical.js";
import Papa from "papaparse";
import { describe, expect, it } from "vitest";
import { CONDITION, MODE, PROTOCOL } from "../../testing/kit.ts";
import { dayText, newDay, readDay } from "./dayForm.ts";
import type { ExportDay } from "./exports.ts";
import { calendarFile, dayCsv } from "./exports.ts";
import { withCell } from "./matrix.ts";
import { withChoice } from "./useSaveDay.ts";
import { aheadWords, blockSentence, daySentence, expectedWords, daysDoneWords, heatBasisWords } from "./words.ts";

const start = (): Block["setup"] => ({
  clockId: "real",
  unit: { id: "u1", name: "Tern A", serialLabel: "", firmware: "1.0", modelId: "m1", modelName: "Tern", simulated: false },
  mode: { id: "mo1", ...MODE },
  condition: { id: "c1", ...CONDITION },
  protocol: { id: "p1", ...PROTOCOL },
});

const id = (n: number): string => `01900000-0000-7000-8000-${String(n).padStart(12, "0")}`;
const T0 = Date.UTC(2031, 5, 15, 9, 5);
const MIN = 60_000;
const block = (more: Partial<Block> = {}): Block => ({
  slot: "c#1",
  unitId: "u1",
  cellId: "c",
  setup: start(),
  state: "planned",
  startMs: T0,
  endLoMs: T0 + 47 * MIN,
  endMidMs: T0 + 50 * MIN,
  endHiMs: T0 + 61 * MIN,
  endKind: "heat",
  ahead: {
    heat: {
      ok: true,
      range: {
        basis: "this cell",
        by: "seen",
        basisWords: "this cell",
        loMs: 47 * MIN,
        midMs: 50 * MIN,
        hiMs: 61 * MIN,
        n: 4,
        events: 4,
        runIds: [],
      },
    },
    cardMs: 90 * MIN,
    recorderMs: null,
    batteryMs: null,
    clipMs: null,
    testerMs: null,
  },
  swapsAtMs: [],
  needs: [
    { itemId: "a", name: "Slim 120", n: 1 },
    { itemId: "b", name: "T cell", n: 2 },
  ],
  gb: 45.2,
  wh: 7.9,
  batteriesNeeded: 1,
  heatAtStart: 0.061,
  heatAtEnd: 1,
  warm: false,
  restUntilMs: T0 + 130 * MIN,
  pinned: false,
  flags: [],
  ...more,
});
const exported = (more: Partial<ExportDay> = {}): ExportDay => ({
  dayId: id(7),
  name: "Day; with, odd \\ signs\nand two lines",
  schedule: {
    blocks: [block(), block({ slot: "c#2", startMs: T0 + 150 * MIN, endHiMs: T0 + 211 * MIN, state: "ended" })],
    notPlaced: [],
    packing: [],
  },
  breaks: [{ fromMs: T0 + 70 * MIN, toMs: T0 + 80 * MIN }],
  unitName: () => "Tern A, the first",
  clockOf: () => "9:05",
  note: "Runs of simulated bodies.",
  ...more,
});

describe("what a block's heat stands on", () => {
  it("says whether its time constant is a default, fitted from recoveries, or not at hand", () => {
    expect(heatBasisWords(2, { by: "protocol", tauMin: 30, because: "one-rest" })).toBe(
      "2 powered times on record and the blocks before this one, time constant 30 min, a default.",
    );
    const fitted: Parameters<typeof heatBasisWords>[1] = {
      by: "recoveries",
      tauMin: 38,
      rangeMin: { lo: 21, hi: 38 },
      runIds: ["a", "b", "c"],
    };
    expect(heatBasisWords(1, fitted)).toMatch(
      /^1 powered time on record .*38 min, the slow end of 21 to 38 min fitted from 3 recoveries\.$/,
    );
    expect(heatBasisWords(0, null)).toBe("0 powered times on record and the blocks before this one.");
  });
});
describe("the calendar file", () => {
  it("is read back by another parser: every run and break at its time, with an alarm before a planned start", () => {
    const calendar = new ICAL.Component(ICAL.parse(calendarFile(exported())) as never);
    expect(calendar.getFirstPropertyValue("version")).toBe("2.0");
    const events = calendar.getAllSubcomponents("vevent").map((c) => new ICAL.Event(c));
    expect(events.map((e) => [e.startDate.toJSDate().getTime(), e.endDate.toJSDate().getTime()])).toEqual([
      [T0, T0 + 61 * MIN],
      [T0 + 150 * MIN, T0 + 211 * MIN],
      [T0 + 70 * MIN, T0 + 80 * MIN],
    ]);
    expect(events[0]?.summary).toBe(`Tern A, the first: ${start().mode.name}, ${start().condition.name}`);
    expect(events[0]?.description).toContain("Expected 0:47 to 1:01, ended by heat (this cell, 4 runs).");
    expect(events[0]?.description).toContain("Runs of simulated bodies.");
    expect(events[2]?.summary).toBe("Break: shade and water");
    expect(new Set(events.map((e) => e.uid)).size).toBe(3);
    const alarms = calendar.getAllSubcomponents("vevent").map((c) => c.getAllSubcomponents("valarm").length);
    expect(alarms).toEqual([1, 0, 0]);
  });
  it("keeps long and odd words whole, folded by the rules of the format", () => {
    const text = `${"ünusual ".repeat(40)}; and, more \\ here`;
    const file = calendarFile(exported({ unitName: () => text }));
    // RFC 5545, section 3.1: lines of at most 75 octets.
    for (const line of file.split("\r\n")) expect(new TextEncoder().encode(line).length).toBeLessThanOrEqual(75);
    const event = new ICAL.Event(new ICAL.Component(ICAL.parse(file) as never).getFirstSubcomponent("vevent") ?? undefined);
    expect(event.summary.replace(/\s+/g, " ")).toContain("; and, more \\ here".replace(/\s+/g, " "));
  });
  it("an empty day is an empty calendar", () => {
    const file = calendarFile(exported({ schedule: { blocks: [], notPlaced: [], packing: [] }, breaks: [] }));
    expect(new ICAL.Component(ICAL.parse(file) as never).getAllSubcomponents("vevent")).toEqual([]);
  });
});

describe("the day as CSV", () => {
  it("has a line a run, rounds against us, and no cell a spreadsheet would run", () => {
    const { data } = Papa.parse<string[]>(dayCsv(exported({ unitName: () => "=1+1" })));
    expect(data).toHaveLength(3);
    const [head = [], first = []] = data;
    const cell = (name: string): string | undefined => first[head.indexOf(name)];
    expect(cell("unit")).toBe("'=1+1");
    expect([cell("start"), cell("heat at start %"), cell("GB"), cell("Wh"), cell("with")]).toEqual([
      "2031-06-15T09:05:00.000Z",
      "7",
      "46",
      "8",
      "Slim 120, 2 × T cell",
    ]);
  });
});

describe("words", () => {
  it("say a block in one sentence", () => {
    expect(expectedWords(block())).toBe("0:47 to 1:01, ended by heat (this cell, 4 runs)");
    expect(aheadWords(block().ahead)).toBe("heat 0:47 to 1:01 · card 1:30");
    expect(blockSentence(block({ pinned: true }), "Tern A", () => "9:05")).toBe(
      `Tern A, ${start().mode.name}, ${start().condition.name}: starts 9:05, where you put it; expected 0:47 to 1:01, ended by heat (this cell, 4 runs).`,
    );
    expect(blockSentence(block({ state: "rolling" }), "Tern A", () => "9:05")).toContain("rolling since 9:05");
  });
  it("lead with what the day will not show", () => {
    const flag = { code: "ends before heat" as const, text: "" };
    const said = (blocks: Block[], missing = 0): string => {
      const s = daySentence(
        blocks,
        Array.from({ length: missing }, () => ({ slot: "", unitId: "", cellId: "", because: "the day is too short" as const, detail: "" })),
      );
      return s.before + s.marked + s.after;
    };
    expect(said([block({ endKind: "card", flags: [flag] }), block()], 2)).toBe("One run will be ended by its card, not by heat.");
    const cut = block({ endKind: "card", flags: [flag] });
    expect(said([cut, block({ endKind: "clip limit", flags: [flag] })])).toBe(
      "2 runs will be ended by their cards or clip limits, not by heat.",
    );
    // What may end before heat is told beside what will.
    expect(said([cut, block({ flags: [flag] })])).toBe("One run will be ended by its card, not by heat; one more may be.");
    expect(said([block()], 2)).toBe("2 runs do not fit into this day.");
    expect(said([block({ warm: true })])).toBe("One run will start warm.");
    expect(said([block(), block()])).toBe("2 runs are planned, and heat can end every one.");
    expect(said([])).toBe("Nothing is planned.");
  });
});

const day: DayDoc = {
  id: id(7),
  archived: false,
  name: "Day",
  planId: id(6),
  date: "2031-06-15",
  zone: "UTC",
  fromMin: 540,
  toMin: 1510,
  orderSchool: "balanced",
  seed: 3,
  units: [id(2)],
  sun: [{ fromMin: 600, toMin: 720 }],
  weather: [{ fromMin: 540, toMin: 720, tempC: 30, humidityPct: 40, sun: true }],
  chargers: 1,
  turnoverMin: 15,
  choices: [],
};

describe("the form of a day", () => {
  it.each(["C", "F"] as const)("goes there and back in °%s, past midnight too", (unit) => {
    expect(dayDoc.safeParse(day).success).toBe(true);
    expect(readDay(day, dayText(day, unit), unit, [id(2)])).toEqual({ ok: true, doc: day });
  });
  it("names every field that cannot be read", () => {
    const text = {
      ...dayText(day, "C"),
      name: " ",
      from: "early",
      zone: "Moon/Crater",
      sun: [{ from: "9:00", to: "8:00" }],
      weather: [{ from: "9", to: "10", temp: "", humidity: "140", sun: false }],
    };
    const read = readDay(day, text, "C", [id(2)]);
    expect(read.ok ? [] : read.errors.map((e) => `${e.path}: ${e.message}`).sort()).toEqual([
      "from: Write it as 9:15.",
      "name: Give it a name.",
      "sun.0.to: It ends before it begins.",
      "weather.0.humidity: 0 to 100 %.",
      "weather.0.temp: Temperature in °C.",
      "zone: Not a time zone this computer knows, such as Europe/Dublin or UTC.",
    ]);
  });
  it("rows left empty are no rows", () => {
    const read = readDay(day, { ...dayText(day, "C"), sun: [{ from: "", to: "" }], weather: [] }, "C", []);
    expect(read).toMatchObject({ ok: true, doc: { sun: [], weather: [], units: [] } });
  });
  it("a new day is ready to plan: tomorrow, the plan's units, sun and weather as last time", () => {
    const plan: PlanDoc = {
      id: id(6),
      archived: false,
      name: "P",
      bench: "real",
      cells: [{ id: id(10), unitId: id(2), modeId: id(3), conditionId: id(4), protocolId: id(5), trials: 1, skip: null }],
    };
    const kit = {
      units: [
        { id: id(2), archived: false },
        { id: id(3), archived: false },
      ],
      days: [{ ...day, rev: 1 }],
    } as never;
    const made = newDay(kit, plan, Date.UTC(2031, 5, 20, 12), "UTC");
    expect(made).toMatchObject({ date: "2031-06-21", units: [id(2)], sun: day.sun, weather: day.weather, choices: [] });
    expect(dayDoc.safeParse(made).success).toBe(true);
  });
});

describe("choices and cells", () => {
  it("a choice that says nothing any more is dropped", () => {
    const pinned = withChoice(day, "c#1", { startMin: 600 });
    expect(pinned.choices).toEqual([{ slot: "c#1", startMin: 600, cardId: null, swaps: null, out: false }]);
    expect(withChoice(pinned, "c#1", { swaps: true }).choices).toMatchObject([{ startMin: 600, swaps: true }]);
    expect(withChoice(pinned, "c#1", { startMin: null }).choices).toEqual([]);
  });
  it("a cell of no trials and no reason is no cell; a changed one keeps its id", () => {
    const plan: PlanDoc = { id: id(6), archived: false, name: "P", bench: "real", cells: [] };
    const place = { unitId: id(2), modeId: id(3), conditionId: id(4), protocolId: id(5) };
    const one = withCell(plan, place, { trials: 2 });
    expect(one.cells).toMatchObject([{ ...place, trials: 2, skip: null }]);
    expect(withCell(one, place, { skip: "not filmed" }).cells).toMatchObject([{ id: one.cells[0]?.id, skip: "not filmed" }]);
    expect(withCell(one, place, { trials: 0 }).cells).toEqual([]);
    expect(withCell(plan, place, { trials: 0 }).cells).toEqual([]);
  });
});

describe("days of a cell", () => {
  it("say where another day is wanted", () => {
    expect(daysDoneWords([{ day: "2031-06-14" }, { day: "2031-06-14" }])).toBe("on one day, 14 June 2031; next on another day");
    expect(daysDoneWords([{ day: "2031-06-14" }, { day: "2031-06-15" }])).toBe("on 2 days; next on another day");
    expect(daysDoneWords(["a", "b", "b", "c"].map((day) => ({ day })))).toBe("on 3 days");
  });
});
