import { foldSession } from "@keep-rolling/core/sessions";
import { holdOf, readHold, seenAtOnce } from "@keep-rolling/core/holds";
import { describe, expect, it } from "vitest";
import { DEMO_HOLDS, demoHoldFacts } from "./hold.ts";

describe("the demo's shutter-speed tests", () => {
  it.each(DEMO_HOLDS.map((h) => [`${h.plan.lensName}, ${h.plan.stance}`, h] as const))(
    "%s: shot to the end, and what is claimed fits the hands",
    (_name, made) => {
      const fold = foldSession(demoHoldFacts(made));
      expect(fold).toMatchObject({ state: "open", findings: [] });
      const hold = holdOf(fold);
      expect(hold).toMatchObject({ next: null, left: 0, plan: made.plan });
      const read = readHold(made.plan, seenAtOnce(made.plan, hold));
      for (const s of read.settings) {
        expect(s.claim.claim ?? -99).toBeLessThanOrEqual(made.hands.threshold[s.setting]);
        expect(s.claim.interval?.high ?? 99).toBeGreaterThanOrEqual(made.hands.threshold[s.setting]);
      }
      const truth = made.hands.threshold.on - made.hands.threshold.off;
      if (read.gain?.ok !== true) throw new Error("no gain");
      expect(read.gain.low ?? -99).toBeLessThanOrEqual(truth);
      expect(read.gain.high ?? 99).toBeGreaterThanOrEqual(truth);
    },
  );
  it("claim a time for both settings in at least three of the four", () => {
    const told = DEMO_HOLDS.map((made) => readHold(made.plan, seenAtOnce(made.plan, holdOf(foldSession(demoHoldFacts(made))))));
    expect(told.filter((r) => r.settings.every((s) => s.claim.claim !== null)).length).toBeGreaterThanOrEqual(3);
  });
});
