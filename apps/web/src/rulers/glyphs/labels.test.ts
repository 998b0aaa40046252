import { describe, expect, it } from "vitest";
import { labelsMeet, ratedWords } from "./words.ts";

describe("words on the ruler", () => {
  const limit = (at: number) => ({ at, label: "0:30:48" });
  const rated = (at: number) => ({ at, label: "published 0:45 at 23.0 °C" });
  it("stand on outer sides, so that neighbours do not meet", () => {
    expect(labelsMeet(limit(300), rated(330), 900)).toBe(false);
    expect(labelsMeet(limit(300), rated(301), 900)).toBe(false);
  });
  it("meet when an edge turns one of them round", () => {
    // The rating at the right edge has its words on the left, where the limit's end.
    expect(labelsMeet(limit(780), rated(880), 900)).toBe(true);
    expect(labelsMeet(limit(500), rated(880), 900)).toBe(false);
    // The limit at the left edge has its words on the right, where the rating's begin.
    expect(labelsMeet(limit(20), rated(40), 900)).toBe(true);
  });
  it("name the rated temperature in the reader's unit, and drop it where it is narrow", () => {
    expect(ratedWords({ limitSec: 2700, ambientC: 23 }, "C")).toBe("published 0:45 at 23.0 °C");
    expect(ratedWords({ limitSec: 2700, ambientC: 23 }, "F")).toBe("published 0:45 at 73.4 °F");
    expect(ratedWords({ limitSec: 2700, ambientC: 23 }, "F", true)).toBe("published 0:45");
    expect(ratedWords({ limitSec: 2700, ambientC: null }, "C")).toBe("published 0:45");
  });
});
