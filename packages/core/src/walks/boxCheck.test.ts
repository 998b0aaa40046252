import { describe, expect, it } from "vitest";
import { boxCheck } from "./boxCheck.ts";

const clip = (jitterFrac: number | null, seconds = 5) => ({ jitterFrac, seconds });

describe("the box check", () => {
  it("hears motion sensors in a fixed target that moves, and nothing else in one that stays", () => {
    expect(boxCheck(clip(0.0003), clip(0.006))).toMatchObject({ ok: true, says: "motion sensors" });
    expect(boxCheck(clip(0.0003), clip(0.0004))).toMatchObject({ ok: true, says: "the picture, or nothing" });
    // Loose, but no looser with it on.
    expect(boxCheck(clip(0.0015), clip(0.0018))).toMatchObject({ ok: true, says: "the picture, or nothing" });
  });
  it("refuses a target that moves with everything off, and what lies between", () => {
    expect(boxCheck(clip(0.003), clip(0.02))).toMatchObject({ ok: false, reason: "target-not-fixed" });
    expect(boxCheck(clip(0.0003), clip(0.0012))).toMatchObject({ ok: false, reason: "cannot-tell" });
    expect(boxCheck(clip(0.0015), clip(0.004))).toMatchObject({ ok: false, reason: "cannot-tell" });
  });
  it("never takes a picture that was not followed, or hardly seen, for a still one", () => {
    expect(boxCheck(clip(0.0003), clip(null))).toMatchObject({ ok: false, reason: "not-followed" });
    expect(boxCheck(clip(0.0003), clip(0.0003, 1))).toMatchObject({ ok: false, reason: "too-short" });
  });
});
