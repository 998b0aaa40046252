import { foldRun, heatTrace } from "@keep-rolling/core/runs";
import { describe, expect, it } from "vitest";
import { mark } from "../testing/marks.ts";
import type { SeenRun } from "./runs.ts";
import { settle, toSettle } from "./settling.ts";

const marks = [mark("start", 0, {}), mark("end", 3000, { cause: "thermal shutdown" })];
const fold = foldRun(marks);
const run: SeenRun = {
  id: "r",
  row: null,
  marks,
  fold,
  trace: heatTrace(fold),
  unmarked: [{ eventId: "e", atMs: 2_410_000, phase: "shown", minutesLeft: 5 }],
};

describe("a warning that a device told and nobody marked", () => {
  it("is a finding with the time it was shown, and one press takes it over with the device's own time", async () => {
    const [item] = toSettle(run, "C");
    expect(item?.sentence).toBe("The camera showed its warning at 0:40:10, 5 min left, and nobody marked it.");
    const pressed: unknown[] = [];
    const press = (...args: unknown[]): Promise<never> => {
      pressed.push(args);
      return Promise.resolve(undefined as never);
    };
    await settle(press, item?.ways[0]?.presses ?? []);
    expect(pressed).toEqual([["warning", { phase: "shown", minutesLeft: 5 }, { atMs: 2_410_000, source: "accepted", accepts: "e" }]]);
    expect(toSettle({ ...run, unmarked: [] }, "C")).toEqual([]);
  });
});
