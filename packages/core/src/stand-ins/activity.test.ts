import { expect, it } from "vitest";
import { end, gap, mark, resume, start, undo } from "../runs/testing/marks.ts";
import { activitySpans } from "./activity.ts";

it("follows the presses in the order they were made, not the corrected record", () => {
  const g = gap(600);
  const off = mark("correction", 603, { power: "off" }, { target: g.id });
  const log = [start(0), g, off, resume(640), end(900)];
  expect(activitySpans(log)).toEqual([
    { fromMs: 0, activity: "recording" },
    { fromMs: 600_000, activity: "idle" },
    { fromMs: 603_000, activity: "off" },
    { fromMs: 640_000, activity: "recording", fresh: "card" },
    { fromMs: 900_000, activity: "off" },
  ]);
  const earlier = mark("correction", 650, { atMs: 590_000 }, { target: g.id });
  expect(activitySpans([...log, earlier])).toEqual(activitySpans(log));
});

it("an undone gap records again from the undo on", () => {
  const g = gap(600);
  expect(activitySpans([start(0), g, undo(g, 605)])).toEqual([
    { fromMs: 0, activity: "recording" },
    { fromMs: 600_000, activity: "idle" },
    { fromMs: 605_000, activity: "recording" },
  ]);
  expect(activitySpans([g])).toEqual([]);
});
