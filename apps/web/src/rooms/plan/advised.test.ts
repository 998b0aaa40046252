// What a unit's own runs say of its modes: recorded times to heat, never the whole way of a paused one.

import type { Kit } from "@keep-rolling/contract/kit";
import { practiceStart } from "@keep-rolling/demo";
import type { Mark } from "@keep-rolling/core/runs";
import { foldRun } from "@keep-rolling/core/runs";
import { describe, expect, it } from "vitest";
import type { CellState } from "../../shared/day/matrix.ts";
import type { SeenRun } from "../../record/runs.ts";
import { advised } from "./matrix.ts";

const setup = { ...practiceStart(), startState: { state: "cold", by: "hours since last powered", value: 9 } as const };
const kit = {
  units: [{ id: setup.unit.id, modelId: "m" }],
  modes: [{ ...setup.mode, modelId: "m", archived: false }],
} as unknown as Kit;
let made = 0;
function seen(...presses: readonly [string, number, object][]): SeenRun {
  const marks = ([["start", 0, setup], ...presses] as const).map(([kind, atSec, body]) => {
    const [id, atMs] = [`m${++made}`, 1000 * atSec];
    const envelope = { id, runId: "r", deviceId: "d", deviceSeq: made, v: 1, kind, atMs, madeAtMs: atMs, source: "pressed", body };
    return { ...envelope, deviceMs: atMs, offsetMs: 0, offsetErrMs: 1 } as unknown as Mark;
  });
  return { id: `r${made}`, fold: foldRun(marks), row: null } as unknown as SeenRun;
}
const why = (...runs: SeenRun[]): string | undefined => {
  const states = [{ cell: { unitId: setup.unit.id, modeId: setup.mode.id }, counted: runs }] as unknown as CellState[];
  return advised(kit, setup.unit.id, runs, states)[0]?.advice.why;
};
const HEAT = { cause: "thermal shutdown" };

describe("what own runs say of a mode", () => {
  it("is the middle of the recorded times to heat", () => {
    expect(why(seen(["end", 1800, HEAT]), seen(["end", 2400, HEAT]), seen(["end", 9000, { cause: "battery empty" }]))).toContain(
      "ended by heat at about 0:35",
    );
  });
  it("takes no time from a run that a pause broke, nor says that heat never ended one", () => {
    const broken = seen(["gap", 600, { cause: "battery swap", power: "off" }], ["resume", 1200, {}], ["end", 5400, HEAT]);
    expect(why(broken)).toMatch(/1 counted run, no time to a heat shutdown yet$/);
    expect(why(broken, seen(["end", 1800, HEAT]))).toContain("ended by heat at about 0:30");
  });
  it("takes the time before a body was found off, and none from a refusal", () => {
    const found = seen(["end", 2400, { ...HEAT, foundOff: { lastSeenMs: 1_800_000 } }]);
    expect(why(found, seen(["end", 0, HEAT]))).toContain("ended by heat at about 0:30");
  });
});
