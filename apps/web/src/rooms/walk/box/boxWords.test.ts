import { describe, expect, it } from "vitest";
import { boxWords } from "./boxWords.ts";

describe("the box check in words", () => {
  it("names what was seen beside what it means", () => {
    expect(boxWords({ ok: true, says: "motion sensors", offFrac: 0.0003, onFrac: 0.0062 })).toMatch(
      /^It listens to motion sensors: .* Off, the target moves by 0\.03 % of the width; on, by 0\.62 % of the width\.$/,
    );
    expect(boxWords({ ok: true, says: "the picture, or nothing", offFrac: 0.0003, onFrac: 0.0003 })).toContain(
      "looks at the picture, or does nothing",
    );
  });
  it("says what to do when it cannot tell, and never calls unfollowed still", () => {
    expect(boxWords({ ok: false, reason: "not-followed", offFrac: 0.0003, onFrac: null })).toMatch(
      /nothing is known.*on, by not followed\.$/,
    );
    expect(boxWords({ ok: false, reason: "target-not-fixed", offFrac: 0.004, onFrac: 0.02 })).toContain("not fixed to the camera");
    expect(boxWords({ ok: false, reason: "too-short", offFrac: null, onFrac: null })).toBe("Two seconds at least are needed of each.");
  });
});
