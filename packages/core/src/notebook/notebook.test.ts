// A notebook read: what people write, what is carried down, what cannot be, and what the run becomes.

import { describe, expect, it } from "vitest";
import type { Mark } from "../runs/index.ts";
import { foldRun, observe, summarise } from "../runs/index.ts";
import { mark, start } from "../runs/testing/marks.ts";
import type { Column } from "./columns.ts";
import { emptyRow, looksLikeHeadings, matchHeadings } from "./columns.ts";
import { factsOf } from "./facts.ts";
import { parseMoment } from "./moment.ts";
import type { Known, NotedRun, ReadRow } from "./readSheet.ts";
import { readSheet } from "./readSheet.ts";
import { readDegrees, readEnd, readGaps, readStart, readWarning, readYes } from "./words.ts";

const MIN = 60_000;
const DAY = 24 * 60 * MIN;
const NOON = Date.UTC(2026, 5, 4, 12);
const KNOWN: Known = {
  units: [
    { id: "a", name: "Dipper A", modelId: "m", firmware: "1.2" },
    { id: "b", name: "Dipper B", modelId: "m", firmware: "1.3" },
  ],
  modes: [{ id: "uhd", name: "UHD 25", modelId: "m" }],
  conditions: [{ id: "room", name: "Club room" }],
  others: [],
  nowMs: NOON + 30 * DAY,
  utc: true,
  unit: "C",
};
const row = (said: Partial<Record<Column, string>>) => ({ ...emptyRow(), ...said });
const FIRST = row({
  date: "4 Jun 2026 10:00",
  unit: "Dipper A",
  mode: "uhd 25",
  condition: "club room",
  recorded: "70",
  end: "heat",
  firmware: "1.1",
});
const runOf = (read: ReadRow | undefined): NotedRun => {
  if (read?.what !== "run") throw new Error(JSON.stringify(read));
  return read.run;
};
const messages = (read: ReadRow | undefined): string[] =>
  read?.what === "trouble" ? read.troubles.map((t) => `${t.column}: ${t.message}`) : [];

describe("cells of a notebook", () => {
  it("are dates in the usual ways, day before month, and no day that does not exist", () => {
    const said = { year: 2026, month: 6, day: 4 };
    for (const text of ["2026-06-04", "4.6.2026", "4/6/26", "4 Jun 2026", "4. June 2026", "4 jun", "4.6."])
      expect(parseMoment(text, 2026), text).toEqual({ ok: true, date: said, time: null });
    const time = { hour: 14, minute: 5, second: 0 };
    for (const text of ["2026-06-04T14:05", "4 Jun 2026, 14:05", "4.6.2026 14:05"])
      expect(parseMoment(text, 2026), text).toEqual({ ok: true, date: said, time });
    expect(parseMoment("14:05", 2026)).toEqual({ ok: true, date: null, time });
    expect(parseMoment("4 oct 9:00", 2026)).toMatchObject({ date: { month: 10 } });
    for (const bad of ["31.6.2026", "29 Feb 2026", "25:00", "yesterday", "2026-13-01", "4 foo"])
      expect(parseMoment(bad, 2026), bad).toEqual({ ok: false });
  });
  it("are start states or rests, ends, degrees, gaps and yes or no; what cannot be read is null", () => {
    expect(["cold", "W", "", "?"].map((t) => readStart(t)?.state)).toEqual(["cold", "warm", "unknown", "unknown"]);
    expect(["45", "rest of 1.5 h", "20 min rest"].map((t) => readStart(t)?.restMs)).toEqual([45 * MIN, 90 * MIN, 20 * MIN]);
    expect(readStart("lukewarm")).toBeNull();
    expect(["Heat", "overheated", "battery", "card full", "29:59", "stopped by me", "", "?"].map(readEnd)).toEqual([
      "thermal shutdown",
      "thermal shutdown",
      "battery empty",
      "card full",
      "clip limit",
      "tester stopped",
      "unknown",
      "unknown",
    ]);
    // Half an answer is asked again: a low battery is not an empty one.
    expect(["gremlins", "stopped, battery low", "photo", "some time", "attempt"].map(readEnd)).toEqual([null, null, null, null, null]);
    const inC = (t: string) => readDegrees(t, "C");
    expect(["21,5", "-3 °C", "", "-", "warm"].map(inC)).toEqual([21.5, -3, "as above", "not recorded", null]);
    // The unit written behind it counts, whatever the tester's own is.
    expect([readDegrees("70F", "C"), readDegrees("70", "F"), readDegrees("21 °C", "F")]).toEqual([21.1, 21.1, 21]);
    expect([readWarning("none"), readWarning(""), readWarning("52 min")?.ms, readWarning("soon")]).toEqual([
      { ms: null, none: true },
      { ms: null, none: false },
      52 * MIN,
      null,
    ]);
    expect(readGaps("31:00 for 40 s off; 45 min for 1 min on")).toEqual([
      { afterMs: 31 * MIN, longMs: 40_000, power: "off" },
      { afterMs: 45 * MIN, longMs: MIN, power: "on" },
    ]);
    // Nothing said of the power: the stricter reading.
    expect(readGaps("31 min for 40 s")).toEqual([{ afterMs: 31 * MIN, longMs: 40_000, power: "off" }]);
    expect(["none", "some", "31 min for 0 s"].map(readGaps)).toEqual([[], null, null]);
    expect(["yes", "", "x", "perhaps"].map(readYes)).toEqual([true, false, true, null]);
  });
  it("stand under headings of one's own, the longer match first, none of them twice", () => {
    const heads = ["Camera", "Day", "Run time (min)", "Temp °C", "Stopped by", "Remarks", "FW"];
    expect(matchHeadings(heads)).toMatchObject({
      unit: 0,
      date: 1,
      recorded: 2,
      ambient: 3,
      end: 4,
      note: 5,
      firmware: 6,
      mode: null,
      gaps: null,
    });
    expect(looksLikeHeadings(heads)).toBe(true);
    expect(looksLikeHeadings(["4 Jun", "Dipper A", "70"])).toBe(false);
  });
});

describe("rows of a notebook", () => {
  it("carry unit, mode, condition, firmware, day and ambient down, and say the ambient was carried", () => {
    const [first, second, third] = readSheet(
      [
        { ...FIRST, ambient: "22" },
        row({ date: "14:00", recorded: "1:05:00", end: "heat" }),
        row({ unit: "Dipper B", date: "14:00", recorded: "60", ambient: "-", firmware: "-" }),
      ],
      KNOWN,
    );
    expect(runOf(first)).toMatchObject({
      startMs: NOON - 120 * MIN,
      recordedMs: 70 * MIN,
      firmware: "1.1",
      ambientC: 22,
      carried: false,
      end: "thermal shutdown",
    });
    expect(runOf(second)).toMatchObject({
      startMs: NOON + 120 * MIN,
      recordedMs: 65 * MIN,
      firmware: "1.1",
      ambientC: 22,
      carried: true,
      modeId: "uhd",
    });
    expect(runOf(third)).toMatchObject({
      unitId: "b",
      firmware: "not known",
      ambientC: null,
      end: "unknown",
      start: { state: "unknown", restMs: null },
    });
  });
  it("ask for the firmware of that day once a body, and never take another body's or today's for it", () => {
    const read = readSheet(
      [
        { ...FIRST, firmware: "" },
        { ...FIRST, unit: "Dipper B", firmware: "" },
      ],
      KNOWN,
    ).map(messages);
    expect(read.map((m) => m[0])).toEqual([
      "firmware: Which firmware ran then? A dash if nobody knows; it runs 1.2 now.",
      "firmware: Which firmware ran then? A dash if nobody knows; it runs 1.3 now.",
    ]);
  });
  it("on one day of one body need a time of day or a rest: a made-up one would leave heat in the body that nobody knows of", () => {
    const second = (said: Partial<Record<Column, string>>) =>
      readSheet([{ ...FIRST, date: "4 Jun 2026" }, row({ recorded: "60", ...said })], KNOWN)[1];
    expect(messages(second({}))).toEqual([
      "date: Give the time of day, or the rest before it: the run above is the same body's, on the same day.",
    ]);
    expect(runOf(second({ date: "5 Jun 2026" }))).toMatchObject({ startMs: NOON + DAY, timeSaid: false });
    expect(runOf(second({ start: "45" })).startMs).toBe(NOON + 115 * MIN);
    // Rest and times that contradict each other are asked again.
    expect(messages(second({ date: "15:10", start: "45", recovery: "yes" }))).toEqual(["start: By the times it rested 2 h 00 min."]);
  });
  it("say how the date was read, and keep a noted absence of a warning as a note", () => {
    const [read] = readSheet([{ ...FIRST, date: "3/4/2026 9:05", warning: "none" }], KNOWN);
    expect(read?.what === "run" ? read.echo : "").toMatch(/^3 Apr 2026 9:05 · 1 h 10 min recorded · no warning noted/);
    expect(factsOf(runOf(read))).toContainEqual({
      kind: "note",
      body: { text: "By the notebook there was no warning." },
      afterMs: 70 * MIN,
    });
    expect(factsOf(runOf(read)).some((f) => f.kind === "warning")).toBe(false);
  });
  it("without a time of day follow the run above and its rest, and say so", () => {
    const [first, second] = readSheet([{ ...FIRST, date: "4 Jun 2026" }, row({ start: "45", recorded: "20", recovery: "yes" })], KNOWN).map(
      runOf,
    );
    expect(first).toMatchObject({ startMs: NOON, timeSaid: false });
    expect(second).toMatchObject({ startMs: NOON + 115 * MIN, follows: 0, start: { restMs: 45 * MIN } });
    expect(first === undefined ? [] : factsOf(first)).toContainEqual({
      kind: "note",
      body: { text: "The time of day was not in the notebook." },
      afterMs: 70 * MIN,
    });
  });
  it("that cannot be are refused at their column: overlap, future, warning after the end, gaps outside, unknown names", () => {
    const wrong = (said: Partial<Record<Column, string>>, known = KNOWN): string[] =>
      messages(readSheet([{ ...FIRST, ...said }], known)[0]);
    expect(wrong({})).toEqual([]);
    expect(wrong({ recorded: "" })).toEqual(["recorded: Give the time, e.g. 40 min."]);
    expect(wrong({ warning: "80" })).toEqual(["warning: The warning came after it had ended."]);
    expect(wrong({ gaps: "75 min for 1 min off" })).toEqual(["gaps: A gap lies within the recorded time."]);
    expect(wrong({ date: "4 Jun 2027 10:00" })).toEqual(["date: It would end in the future."]);
    expect(wrong({ recovery: "yes" })).toEqual(["recovery: There is no run above it."]);
    expect(wrong({ ambient: "90" })).toEqual(["ambient: −40 to 70 °C."]);
    expect(wrong({}, { ...KNOWN, others: [{ unitId: "a", fromMs: NOON - 60 * MIN, toMs: NOON }] })).toEqual([
      "date: Another run of this body overlaps it.",
    ]);
    const [, second] = readSheet([FIRST, { ...FIRST, date: "4 Jun 2026 11:00" }], KNOWN);
    expect(messages(second)).toEqual(["date: Another run of this body overlaps it."]);
    expect(readSheet([{ ...FIRST, mode: "8K", condition: "Pier" }], KNOWN)[0]).toMatchObject({
      unknown: { mode: "8K", condition: "Pier" },
    });
  });
  it("become marks that fold to what was written, gaps between, and count as the same end", () => {
    const [run] = readSheet([{ ...FIRST, gaps: "31 min for 40 s off; 45 min for 1 min on", warning: "50", note: "lid open" }], KNOWN).map(
      runOf,
    );
    if (run === undefined) throw new Error("no run");
    const marks = [start(0), ...factsOf(run).map((f) => mark(f.kind, f.afterMs / 1000, f.body as never, { source: "late" }) as Mark)];
    const fold = foldRun(marks);
    expect(summarise(fold, 0)).toMatchObject({ recordedMs: { lo: 70 * MIN, hi: 70 * MIN }, elapsedMs: 70 * MIN + 100_000, gapMs: 100_000 });
    expect(fold.warnings[0]?.shownMs).toBe(50 * MIN + 100_000);
    expect(fold.findings).toEqual([]);
    // The powered-off gap ends the record by the strict rule.
    expect(observe(fold, { poweredOff: "strict", bridgeBodyOnMs: 20_000 }, "shutdown")).toMatchObject({
      ok: true,
      event: 0,
      timeMs: { lo: 31 * MIN },
    });
  });
});
