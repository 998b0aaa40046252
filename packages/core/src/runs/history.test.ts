import { describe, expect, it } from "vitest";
import { NEVER_COMPARED_ERR_MS } from "../time/deviceClock.ts";
import { foldRun } from "./fold.ts";
import { historyOf } from "./history.ts";
import { retimeMoved } from "./retime.ts";
import { gap, mark, start, undo } from "./testing/marks.ts";

describe("the history of a run", () => {
  it("names every mark in the order of presses, with what became of it", () => {
    const s = start(0);
    const g = gap(20);
    const note = mark("note", 25, { text: "door" }, { deviceId: "d2" });
    const fix = mark("correction", 30, { cause: "battery swap" }, { target: g.id });
    const back = undo(note, 40);
    const lines = historyOf([back, fix, note, g, s]);
    expect(lines.map((l) => [l.words, l.became, l.about])).toEqual([
      ["start, cold", null, null],
      ["gap: card swap, body on", "corrected", null],
      ["door", "taken back", null],
      ["battery swap", null, "gap: card swap, body on"],
      ["undo", null, "door"],
    ]);
    const redo = historyOf([s, g, note, fix, back, undo(back, 50)]);
    expect(redo.find((l) => l.mark.id === note.id)?.became).toBeNull();
    expect(redo.find((l) => l.mark.id === back.id)?.became).toBe("taken back");
  });
  it("says when what is named is not on record", () => {
    expect(historyOf([start(0), mark("undo", 5, {}, { target: "elsewhere" })])[1]?.about).toBeNull();
  });
});

describe("a clock that was off", () => {
  const unsure = { deviceId: "phone", offsetMs: 0, offsetErrMs: NEVER_COMPARED_ERR_MS };
  const moved = { deviceId: "phone", offsetThenMs: 0, offsetNowMs: 93_000 };
  it("moves presses nobody had compared, once, and no others", () => {
    const s = start(0);
    const late = mark("gap", 10, { cause: "card swap", power: "on" }, unsure);
    const sure = mark("resume", 20, {}, { deviceId: "phone", offsetMs: 0, offsetErrMs: 12 });
    const desk = mark("note", 30, { text: "x" }, { deviceId: "desk", offsetMs: 0, offsetErrMs: NEVER_COMPARED_ERR_MS });
    const log = [s, late, sure, desk];
    const [one, ...none] = retimeMoved(log, moved);
    expect([one, none]).toEqual([{ target: late.id, atMs: 103_000 }, []]);
    const fixed = [...log, mark("correction", 200, { atMs: one?.atMs }, { target: late.id })];
    expect(retimeMoved(fixed, moved)).toEqual([]);
    expect(foldRun(fixed).gaps[0]?.fromMs).toBe(103_000);
  });
  it("leaves presses alone whose time was sure although the clock was set later", () => {
    expect(retimeMoved([start(0), mark("gap", 10, { cause: "tester", power: "on" }, { ...unsure, offsetErrMs: 40 })], moved)).toEqual([]);
  });
});
