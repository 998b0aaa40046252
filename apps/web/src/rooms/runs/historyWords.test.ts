import { describe, expect, it } from "vitest";
import { mark } from "../../testing/marks.ts";
import { arrival, asides } from "./historyWords.ts";

describe("what the history says beside a mark", () => {
  it("how long it was on its way, by the device's corrected clock", () => {
    const pressed = mark("gap", 1, {}, { deviceMs: 1_000_000, offsetMs: -90_000, offsetErrMs: 20 });
    expect(arrival(pressed, 910_400)).toBe("at once");
    expect(arrival(pressed, 1_001_000)).toBe("after 1 min 31 s");
    expect(arrival(pressed, undefined)).toBe("not yet, kept on this device");
    expect(arrival({ ...pressed, offsetErrMs: 86_400_000_000 }, 1_001_000)).toBe("at once");
  });
  it("what became of it, where it came from, and how sure its time is", () => {
    expect(asides(mark("touch", 5, {}), null)).toBe("");
    const early = mark("warning", 5, {}, { madeAtMs: 36_000, source: "accepted", offsetErrMs: 4000 });
    expect(asides(early, "corrected")).toBe(
      "corrected · taken from the camera · happened 31 s before the press · its clock was sure to ± 4 s",
    );
    expect(asides(mark("touch", 5, {}, { offsetErrMs: 86_400_000_000 }), "taken back")).toBe("undone · its clock had not been compared");
  });
});
