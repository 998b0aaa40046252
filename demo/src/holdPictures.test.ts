import { holdOf, readHold, seenUsually } from "@keep-rolling/core/holds";
import { foldSession } from "@keep-rolling/core/sessions";
import { describe, expect, it } from "vitest";
import { DEMO_PICTURES, demoPictureFacts, demoPictures } from "./holdPictures.ts";

describe("the demo's test from pictures", () => {
  const made = demoPictures();
  const name = (letter: string, i: number): string => `${letter}${i}`.padStart(64, "0");
  const facts = demoPictureFacts(
    made,
    made.map((_, i) => ({ sha256: name("a", i), cut: name("b", i), preview: name("c", 0) })),
  );
  const fold = foldSession(facts);
  const hold = holdOf(fold);
  it("takes every setting and every bad try from its card, and is graded by one judge to the end", () => {
    expect(fold).toMatchObject({ state: "open", findings: [] });
    expect(hold.unequal).toEqual([]);
    expect(hold.pictures.map((p) => p.setting)).toEqual(made.map((m) => m.shot.setting));
    expect(hold.pictures.filter((p) => p.misfit === "bad-try").length).toBe(made.filter((m) => m.shot.grade === "bad").length);
    expect(hold.judges[0]).toMatchObject({ by: "RB", left: 0 });
    expect(hold.judges[1]?.left).toBeGreaterThan(0);
  });
  it("claims no more than its hands were made with", () => {
    const read = readHold(DEMO_PICTURES.plan, seenUsually(DEMO_PICTURES.plan, hold));
    expect(read.heldBack).toBeNull();
    for (const s of read.settings) {
      expect(s.claim.claim ?? 99).toBeLessThanOrEqual(DEMO_PICTURES.hands.threshold[s.setting]);
      expect(s.claim.interval?.high ?? 99).toBeGreaterThanOrEqual(DEMO_PICTURES.hands.threshold[s.setting]);
    }
  });
});
