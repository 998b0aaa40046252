import { describe, expect, it } from "vitest";
import { foldRun } from "./fold.ts";
import { nextAction } from "./nextAction.ts";
import { end, mark, start } from "./testing/marks.ts";

const duty = { runKind: "duty" as const, duty: { onMin: 4, offMin: 5, power: "on" as const } };

describe("what a run asks for next", () => {
  it("is the earliest of checkpoint and duty step", () => {
    expect(nextAction(foldRun([start(0)]), 60_000)).toMatchObject({ what: "checkpoint", dueMs: 300_000, overdue: false });
    expect(nextAction(foldRun([start(0, duty)]), 60_000)).toMatchObject({ what: "stop", dueMs: 240_000 });
    const answered = [start(0, duty), mark("gap", 240, { cause: "planned pause", power: "on" })];
    expect(nextAction(foldRun(answered), 250_000)).toMatchObject({ what: "checkpoint", dueMs: 300_000 });
  });
  it("is the end of the rest once it has ended, if one was set", () => {
    const over = foldRun([start(0), end(600)]);
    expect(nextAction(over, 700_000)).toBeNull();
    expect(nextAction(over, 700_000, 5)).toEqual({ what: "the rest is over", dueMs: 900_000, overdue: false });
    expect(nextAction(over, 900_000, 5)).toMatchObject({ overdue: true });
  });
});
