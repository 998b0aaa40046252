import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { describeMark, describeRun } from "./describe.ts";
import { foldRun } from "./fold.ts";
import { end, gap, mark, randomLog, resume, start, undo, warning } from "./testing/marks.ts";

describe("marks in words", () => {
  it.each([
    [start(0), "start, cold"],
    [start(0, { startState: { state: "unknown", by: "not known" } }), "start, start state not known"],
    [gap(1), "gap: card swap, body on"],
    [mark("gap", 1, { cause: "unknown", power: "off" }), "gap: cause not said, powered off"],
    [resume(2), "recording again"],
    [mark("split", 2, {}), "new file, no gap"],
    [mark("reading", 2, {}), "reading, values to follow"],
    [
      mark("reading", 2, { gauge: 7, ambientC: 23.06, batteryPct: 61, countdownSec: 91 }),
      "gauge 7, ambient 23.1 °C, battery 61 %, camera shows 1 min 31 s left",
    ],
    [mark("touch", 2, { feel: "warm" }), "touch: warm"],
    [mark("touch", 2, { feel: "not said" }), "touch, not said how"],
    [mark("warning", 2, { phase: "shown", minutesLeft: 4 }), "warning shown, camera says 4 min left"],
    [mark("condition", 2, { change: "other", text: "door open" }), "other: door open"],
    [mark("condition", 2, { change: "not said" }), "condition changed"],
    [end(3), "end: heat shutdown"],
    [mark("end", 3, { cause: "unknown", foundOff: { lastSeenMs: 1 } }), "end: cause not said, found off"],
    [mark("check", 4, { item: "lighter mode", result: "yes", minutes: 6 }), "lighter mode: yes, 6 min"],
    [mark("note", 4, { text: "click" }), "click"],
    [mark("photo", 4, {}), "photo"],
  ])("%#", (m, words) => expect(describeMark(m)).toBe(words));
  it("follows the temperature unit", () => {
    expect(describeMark(mark("reading", 1, { shellC: 40 }), "F")).toBe("surface 104.0 °F");
  });
  it("says what it does not understand", () => {
    expect(describeMark({ ...mark("note", 1, { text: "" }), kind: "hologram", foreign: true, body: {} })).toBe(
      "hologram: not understood by this version",
    );
  });
});

describe("a run as one sentence", () => {
  const say = (...marks: Parameters<typeof foldRun>[0]) => describeRun(foldRun(marks), 90_000);
  it("names its state and its end", () => {
    const s = start(0);
    expect(say()).toBe("Not started.");
    expect(say(s)).toBe("Recorded 0:01:30, still rolling.");
    expect(say(s, gap(60))).toBe("Recorded 0:01:00, one gap of 30 s in all, in a gap.");
    expect(say(s, gap(10), resume(20), gap(30), resume(35), end(80, "card full"))).toBe(
      "Recorded 0:01:05, 2 gaps of 15 s in all, ended by card full, so at least this long.",
    );
    expect(say(s, warning(50), end(80))).toBe("Recorded 0:01:20, first warning at 0:00:50, ended by heat shutdown at 0:01:20.");
    expect(say(s, undo(s, 40))).toBe("Recorded 0:00:40, void.");
  });
  it("is one sentence for any log", () => {
    fc.assert(
      fc.property(randomLog, (log) => {
        const words = describeRun(foldRun(log), 200_000);
        expect(words).toMatch(/^[A-Z].*\.$/);
        expect(words).not.toMatch(/undefined|NaN|null/);
      }),
    );
  });
});
