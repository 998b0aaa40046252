import { describe, expect, it } from "vitest";
import { retestReasons } from "./recordedLimit.ts";
import type { FrozenLimit } from "./recordedLimit.ts";

const limit: FrozenLimit = {
  unitId: "u",
  endpoint: "shutdown",
  firmware: "2.1",
  valueMs: 2_470_000,
  share: 0.63,
  confidence: 0.9,
  evidenceIds: ["a", "b"],
  recordedAtMs: 100,
};
const row = (runId: string, timeLoMs: number, startedMs = 50, firmware = "2.1") => ({ runId, timeLoMs, startedMs, firmware });
const evidence = [row("a", 2_470_000), row("b", 2_600_000)];

describe("re-test", () => {
  it("stands while nothing disagrees", () => {
    expect(retestReasons(limit, { unitFirmware: "2.1", counted: [...evidence, row("c", 2_471_000, 200)] })).toEqual([]);
  });
  it("lets another firmware's shorter run speak only if it ran later; one's own speaks whenever it ran", () => {
    const against = (startedMs: number, firmware: string) =>
      retestReasons(limit, { unitFirmware: "2.1", counted: [...evidence, row("c", 2_400_000, startedMs, firmware)] }).length;
    expect([against(50, "2.0"), against(100, "2.0"), against(101, "2.2"), against(50, "2.1"), against(101, "2.1")]).toEqual([
      0, 0, 1, 1, 1,
    ]);
  });
  it("asks for a re-test after a shorter run, another firmware or lost evidence", () => {
    const reasons = retestReasons(limit, { unitFirmware: "2.2", counted: [row("a", 2_470_000), row("c", 2_400_000, 200)] });
    expect(reasons.map((r) => [r.code, r.runIds])).toEqual([
      ["shorter-run", ["c"]],
      ["firmware-changed", []],
      ["evidence-changed", ["b"]],
    ]);
    expect(reasons[1]?.text).toBe("Re-test: the unit now runs firmware 2.2, this was measured on 2.1.");
  });
});
