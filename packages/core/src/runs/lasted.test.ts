import { describe, expect, it } from "vitest";
import { foldRun } from "./fold.ts";
import { lastedWords } from "./lasted.ts";
import type { Mark } from "./mark.ts";
import { end, gap, mark, resume, start, undo, warning } from "./testing/marks.ts";

const plain = (marks: readonly Mark[], endpoint: Parameters<typeof lastedWords>[1]): string =>
  lastedWords(foldRun(marks), endpoint).replaceAll("\u00a0", " ");

describe("what a run is told to have lasted", () => {
  it("is the moment of what is asked, and 'at least' for everything else", () => {
    const hot = [start(), warning(1500), end(1800)];
    expect([null, "shutdown", "firstWarning", "batteryEmpty"].map((e) => plain(hot, e as never))).toEqual([
      "0:30:00",
      "0:30:00",
      "0:25:00",
      "≥ 0:30:00",
    ]);
    const empty = [start(), end(3600, "battery empty")];
    expect([null, "batteryEmpty", "firstWarning"].map((e) => plain(empty, e as never))).toEqual(["≥ 1:00:00", "1:00:00", "≥ 1:00:00"]);
  });
  it("ends, by the run's rule, at a pause that it does not bridge; the bench tells the whole recording", () => {
    const broken = [start(), gap(1200, "off"), resume(1500), end(3000)];
    expect(plain(broken, "shutdown")).toBe("≥ 0:20:00");
    expect(plain(broken, null)).toBe("0:45:00");
  });
  it("is a range where the body was found off", () => {
    const begun = start();
    const found = mark("end", 2400, { cause: "thermal shutdown", foundOff: { lastSeenMs: begun.atMs + 1_800_000 } });
    expect(plain([begun, found], "shutdown")).toBe("0:30:00 to 0:40:00");
  });
  it("says what stands in for a time where there is none", () => {
    const first = start();
    expect(plain([first, end(0)], "shutdown")).toBe("0:00:00");
    expect(plain([first], null)).toBe("rolling");
    expect(plain([first, undo(first, 9)], null)).toBe("void");
    expect(plain([], null)).toBe("not started");
  });
});
