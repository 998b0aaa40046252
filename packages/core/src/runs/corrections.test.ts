import { describe, expect, it } from "vitest";
import type { CorrectionBody } from "./kinds/kinds.ts";
import type { Mark } from "./mark.ts";
import { foldRun } from "./fold.ts";
import { end, gap, mark, resume, start, undo, warning } from "./testing/marks.ts";
import { asCorrected, liveCorrectionOf } from "./undoKey.ts";

const fix = (target: Mark, atSec: number, body: CorrectionBody, more: Partial<Mark> = {}): Mark =>
  mark("correction", atSec, body, { target: target.id, ...more });
const codes = (...marks: Mark[]): string[] => foldRun(marks).findings.map((f) => f.code);

describe("corrections", () => {
  it("replace only the fields given, never the kind", () => {
    const g = mark("gap", 10, { cause: "unknown", power: "on" });
    const fold = foldRun([
      start(0),
      g,
      fix(g, 11, { cause: "battery swap" }),
      fix(g, 12, { power: "off" }, { replaces: "none" }),
      resume(20),
    ]);
    expect(fold.gaps).toMatchObject([{ cause: "battery swap", power: "off", fromMs: 10_000, toMs: 20_000 }]);
    expect(fold.findings).toEqual([]);
  });
  it("can move a mark past another; the order follows the corrected time", () => {
    const [g, r] = [gap(10), resume(20)];
    const fold = foldRun([start(0), g, r, fix(g, 30, { atMs: 15_000 })]);
    expect(fold.gaps).toMatchObject([{ fromMs: 15_000, toMs: 20_000 }]);
  });
  it("of a start change ambient and start state for the whole run", () => {
    const s = start(0);
    const fold = foldRun([
      s,
      fix(s, 5, { ambient: { valueC: 30, plusMinusC: 2, basis: "guessed" } }),
      fix(s, 6, { startState: { state: "warm", by: "probe", value: 31 } }),
    ]);
    expect(fold.setup).toMatchObject({ ambient: { valueC: 30, basis: "guessed" }, startState: { state: "warm", value: 31 } });
  });
  it("of a start put a run entered wrongly under the right body, mode and condition, with what was set, and take it back", () => {
    const s = start(0);
    const was = foldRun([s]).setup;
    if (was === null) throw new Error("no start");
    const right = fix(s, 5, {
      unit: { ...was.unit, id: "u2", name: "Body two", firmware: "1.1" },
      mode: { ...was.mode, id: "mo2", name: "UHD 50" },
      condition: { ...was.condition, id: "c2", name: "Pontoon" },
      settings: { iso: "400", card: "Card 2" },
    });
    const fold = foldRun([s, right, end(100)]);
    expect(fold.setup).toMatchObject({ unit: { firmware: "1.1" }, mode: { name: "UHD 50" }, condition: { name: "Pontoon" } });
    expect(fold.setup?.settings).toEqual({ iso: "400", card: "Card 2" });
    expect(fold.findings).toEqual([]);
    expect(foldRun([s, right, end(100), undo(right, 101)]).setup).toEqual(was);
  });
  it("of a start never turn a real body into a stand-in, or the other way", () => {
    const s = start(0);
    const was = foldRun([s]).setup;
    if (was === null) throw new Error("no start");
    const fold = foldRun([s, fix(s, 5, { unit: { ...was.unit, simulated: !was.unit.simulated } })]);
    expect(fold.setup).toEqual(was);
    expect(fold.findings.map((f) => f.code)).toEqual(["odd-correction"]);
  });
  it("of a start tie a run to the shutdown it recovers from, and untie it", () => {
    const s = start(0);
    const tied = fix(s, 5, { follows: { runId: "parent", as: "recovery" } });
    expect(foldRun([s, tied]).setup).toMatchObject({ runKind: "recovery", parentRunId: "parent" });
    const free = foldRun([s, tied, fix(s, 6, { follows: null }, { replaces: tied.id })]).setup;
    expect(free?.runKind).toBe("endurance");
    expect(free).not.toHaveProperty("parentRunId");
  });
  it("make and unmake an interval", () => {
    const e = end(100);
    const made = fix(e, 101, { lastSeenMs: 70_000 });
    expect(foldRun([start(0), e, made]).end).toMatchObject({ loMs: 70_000, hiMs: 100_000 });
    expect(foldRun([start(0), e, made, fix(e, 102, { lastSeenMs: null }, { replaces: made.id })]).end).toMatchObject({
      loMs: 100_000,
      hiMs: 100_000,
    });
  });
  it("with a cause that the kind cannot have change nothing and are named", () => {
    const g = gap(10);
    expect(codes(start(0), g, fix(g, 11, { cause: "thermal shutdown" }))).toEqual(["odd-correction"]);
    expect(codes(start(0), g, fix(g, 11, { feel: "warm" }))).toEqual(["odd-correction"]);
    expect(codes(start(0), mark("correction", 5, { atMs: 1 }, { target: "gone" }))).toEqual(["target-missing"]);
  });
  it("that agree are no quarrel", () => {
    const e = end(100);
    expect(codes(start(0), e, fix(e, 101, { atMs: 95_000 }), fix(e, 102, { atMs: 95_000 }, { deviceId: "d2" }))).toEqual([]);
  });
  it("undone count no more, and the one before counts again", () => {
    const w = warning(50);
    const [first, second] = [fix(w, 51, { minutesLeft: 5 }), fix(w, 52, { minutesLeft: 3 })];
    const chain = { ...second, replaces: first.id } as Mark;
    expect(foldRun([start(0), w, first, chain]).warnings[0]?.minutesLeft).toBe(3);
    expect(foldRun([start(0), w, first, chain, undo(chain, 53)]).warnings[0]?.minutesLeft).toBe(5);
    expect(foldRun([start(0), w, first, chain, undo(chain, 53)]).corrections.get(w.id)).toBe(1);
  });
  it("tell a new author what they replace", () => {
    const w = warning(50);
    const [first, second] = [fix(w, 51, { minutesLeft: 5 }), fix(w, 52, { minutesLeft: 3 })];
    expect(liveCorrectionOf([w], w.id)).toBeUndefined();
    expect(liveCorrectionOf([w, first, second], w.id)).toBe(second.id);
    expect(liveCorrectionOf([w, first, second, undo(second, 53)], w.id)).toBe(first.id);
    expect(asCorrected([w, first], w.id)).toMatchObject({ body: { minutesLeft: 5 } });
    expect(asCorrected([w], "nobody")).toBeNull();
  });
});
