import { describe, expect, it } from "vitest";
import { describeRun } from "./describe.ts";
import { foldRun } from "./fold.ts";
import type { Mark } from "./mark.ts";
import { DEFAULT_RULE, LENIENT_RULE, isRefusal, observe } from "./observe.ts";
import { expectedEnds, nextDue } from "./reminders.ts";
import { elapsedWhenRecorded, recordedAt, summarise } from "./summarise.ts";
import { end, gap, mark, resume, start, START, undo, warning } from "./testing/marks.ts";
import { redoTarget, undoTarget } from "./undoKey.ts";

const codes = (marks: readonly Mark[]) => foldRun(marks).findings.map((f) => f.code);

describe("a run by hand", () => {
  // Recorded 0-600 and 618-2485 s: 2467 s; elapsed 2485 s; one gap of 18 s; warning at 2376 s, lead 109 s.
  const log = [start(0), gap(600), resume(618), warning(2376), end(2485)];
  it("adds up", () => {
    const fold = foldRun(log);
    expect(fold.state).toBe("ended");
    expect(summarise(fold, 0)).toEqual({
      recordedMs: { lo: 2_467_000, hi: 2_467_000 },
      elapsedMs: 2_485_000,
      gapMs: 18_000,
      warningLeadMs: 109_000,
    });
    expect(fold.findings).toEqual([]);
    expect(recordedAt(fold, 618_000)).toBe(600_000);
    expect(elapsedWhenRecorded(fold, 601_000)).toBe(619_000);
    expect(elapsedWhenRecorded(fold, 3_000_000)).toBeNull();
  });
  it("is one sentence for a screen reader", () => {
    expect(describeRun(foldRun(log), 0)).toBe(
      "Recorded 0:41:07, one gap of 18 s in all, first warning at 0:39:36, ended by heat shutdown at 0:41:25.",
    );
    expect(describeRun(foldRun([start(0), end(60, "card full")]), 0)).toMatch(/so at least this long/);
  });
  it("bridges the short body-on gap, and breaks at the first powered-off one", () => {
    expect(observe(foldRun(log), DEFAULT_RULE, "shutdown")).toMatchObject({ ok: true, event: 1, timeMs: { lo: 2_467_000 } });
    const off = foldRun([start(0), gap(600, "off"), resume(605), end(2000)]);
    expect(observe(off, DEFAULT_RULE, "shutdown")).toMatchObject({
      ok: true,
      event: 0,
      timeMs: { lo: 600_000, hi: 600_000 },
      because: "broken by a powered-off gap",
    });
    expect(observe(off, LENIENT_RULE, "shutdown")).toMatchObject({ ok: true, event: 1, timeMs: { lo: 1_995_000 } });
    const pauses = foldRun([start(0), gap(100), resume(115), gap(200), resume(206), end(900)]);
    expect(observe(pauses, DEFAULT_RULE, "shutdown")).toMatchObject({
      event: 0,
      timeMs: { lo: 185_000 },
      because: "broken by pauses beyond the rule",
    });
  });
  it("counts to the first warning when that is the endpoint", () => {
    expect(observe(foldRun(log), DEFAULT_RULE, "firstWarning")).toMatchObject({ event: 1, timeMs: { lo: 2_358_000 } });
    expect(observe(foldRun([start(0), end(60, "battery empty")]), DEFAULT_RULE, "firstWarning")).toMatchObject({
      event: 0,
      timeMs: { lo: 60_000 },
    });
    expect(observe(foldRun([start(0), end(60, "battery empty")]), DEFAULT_RULE, "batteryEmpty")).toMatchObject({ event: 1 });
  });
});

describe("uncertain and odd records", () => {
  it("gives an interval when found off, never before the last sign of life", () => {
    const found = mark("end", 1000, { cause: "thermal shutdown", foundOff: { lastSeenMs: 700_000 } });
    expect(summarise(foldRun([start(0), found]), 0).recordedMs).toEqual({ lo: 700_000, hi: 1_000_000 });
    expect(summarise(foldRun([start(0), gap(800), resume(810), found]), 0).recordedMs).toEqual({ lo: 800_000, hi: 990_000 });
  });
  it("keeps a refusal as a zero result outside the cold cell", () => {
    const refused = foldRun([start(5), end(5)]);
    expect(isRefusal(refused)).toBe(true);
    expect(observe(refused, DEFAULT_RULE, "shutdown")).toEqual({ ok: false, reason: "refused" });
  });
  it("flags instead of losing", () => {
    expect(codes([start(0), resume(10)])).toEqual(["resume-without-gap"]);
    expect(codes([start(100), gap(10)])).toEqual(["before-start"]);
    expect(codes([start(0), end(10), gap(20)])).toEqual(["after-end"]);
    expect(codes([start(0), mark("reading", 5, { gauge: 11 })])).toEqual(["odd-value"]);
    expect(codes([start(0), mark("reading", 5, {})])).toEqual(["details-missing"]);
    expect(codes([start(0), mark("note", 5, { text: "x" }, { madeAtMs: 1000 })])).toEqual(["future-time"]);
    expect(codes([start(0), { ...mark("note", 5, { text: "x" }), kind: "hologram", foreign: true, body: {} }])).toEqual(["not-understood"]);
    expect(codes([start(0), mark("undo", 5, {}, { target: "nowhere" })])).toEqual(["target-missing"]);
    expect(codes([mark("note", 5, { text: "x" }), gap(7)])).toEqual(["no-start"]);
  });
  it("lets two devices corroborate one end, and asks when they disagree", () => {
    const other = (m: Mark): Mark => ({ ...m, deviceId: "d2" });
    expect(codes([start(0), end(10), other(end(11))])).toEqual([]);
    expect(codes([start(0), end(10), other(end(11, "battery empty"))])).toEqual(["end-causes-differ"]);
    expect(codes([start(0), gap(5), other(gap(6)), resume(9), other(resume(10))])).toEqual([]);
  });
  it("finds two corrections that have not seen each other", () => {
    const e = end(100);
    const a = mark("correction", 101, { atMs: 95_000 }, { target: e.id });
    const b = mark("correction", 102, { atMs: 90_000 }, { target: e.id, deviceId: "d2" });
    expect(codes([start(0), e, a, b])).toEqual(["corrections-disagree"]);
    expect(codes([start(0), e, a, { ...b, replaces: a.id }])).toEqual([]);
    expect(foldRun([start(0), e, a, b]).end?.hiMs).toBe(90_000);
  });
  it("survives undos that name each other", () => {
    const a = mark("undo", 1, {}, { id: "x", target: "y" });
    const b = mark("undo", 2, {}, { id: "y", target: "x" });
    expect(codes([start(0), a, b])).toEqual(["circular"]);
  });
  it("a void run keeps its record", () => {
    const s = start(0);
    const fold = foldRun([s, gap(100), undo(s, 120)]);
    expect(fold.state).toBe("void");
    expect(summarise(fold, 999_000).recordedMs.hi).toBe(100_000);
    expect(observe(fold, DEFAULT_RULE, "shutdown")).toEqual({ ok: false, reason: "void" });
  });
});

describe("keys and reminders", () => {
  it("undo takes back this device's last live mark, redo takes back the undo", () => {
    const [s, g] = [start(0), gap(10)];
    expect(undoTarget([s, g], "d1")?.id).toBe(g.id);
    const u = undo(g, 11);
    expect(undoTarget([s, g, u], "d1")?.id).toBe(s.id);
    expect(redoTarget([s, g, u], "d1")?.id).toBe(u.id);
    const redone = [s, g, u, undo(u, 12)];
    expect(redoTarget(redone, "d1")).toBeNull();
    expect(undoTarget(redone, "d1")?.id).toBe(g.id);
    expect(undoTarget(redone, "d2")).toBeNull();
  });
  it("reminds on the plan's grid, closer after the first warning", () => {
    expect(nextDue(foldRun([start(0)]), 1000)).toMatchObject({ dueMs: 300_000, overdue: false });
    expect(nextDue(foldRun([start(0), mark("reading", 290, { gauge: 2 })]), 300_000)).toMatchObject({ dueMs: 600_000 });
    expect(nextDue(foldRun([start(0)]), 301_000)).toMatchObject({ dueMs: 300_000, overdue: true });
    expect(nextDue(foldRun([start(0), warning(400)]), 401_000)).toMatchObject({ dueMs: 460_000, everyMs: 60_000 });
    expect(nextDue(foldRun([start(0), end(10)]), 20_000)).toBeNull();
  });
  it("expects the clip limit from the last start, resume or split", () => {
    const mode = { ...START.mode, clipLimitSec: 1800 };
    expect(expectedEnds(foldRun([start(0, { mode })]))).toEqual([{ cause: "clip limit", atElapsedMs: 1_800_000 }]);
    expect(expectedEnds(foldRun([start(0, { mode }), mark("split", 600, {})]))).toEqual([{ cause: "clip limit", atElapsedMs: 2_400_000 }]);
    expect(expectedEnds(foldRun([start(0)]))).toEqual([]);
  });
});
