import type { HandsRow } from "@keep-rolling/core/holds";
import { describe, expect, it } from "vitest";
import { apartWords, askedWords, groupKey, groupWords, pocketName, rowNotes, untestedWords } from "./rowWords.ts";

const gain = (low: number | null, high: number | null) => apartWords("A", "B", { ok: true, point: null, low, high });

describe("two rows beside each other", () => {
  it("say which may be slower, outward, and only where zero is ruled out", () => {
    expect(gain(0.51, 2.31)).toMatch(/^A may be slower than B by 0\.5 to 2\.4 stops\./);
    expect(gain(-2.31, -0.51)).toMatch(/^B may be slower than A by 0\.5 to 2\.4 stops\./);
    expect(gain(-0.2, 2)).toMatch(/cannot be told yet: by -0\.2 to 2\.0 stops\./);
    expect(gain(0.55, null)).toMatch(/^A may be slower than B, by at least 0\.5 stops\./);
    expect(gain(null, -0.55)).toMatch(/^B may be slower than A, by at least 0\.5 stops\./);
    for (const open of [gain(null, 1), gain(-1, null), gain(null, null)])
      expect(open).toMatch(/cannot be told yet\. They were not shot together/);
  });
  it("say why nothing can be told", () => {
    expect(apartWords("A", "B", { ok: false, reason: "too-few-sessions" })).toMatch(/two lie between/);
    expect(apartWords("A", "B", { ok: false, reason: "rising" })).toMatch(/no limit that can be read/);
  });
});

describe("a row", () => {
  it("names its use and share where they are not the usual ones", () => {
    expect(askedWords({ share: 0.8, use: null })).toBe("");
    expect(askedWords({ share: 0.5, use: "print" })).toBe("pictures, print; 5 of 10 kept");
  });
  const row = (more: Partial<HandsRow> = {}) =>
    ({
      lensName: "Reed",
      focalMm: 30,
      stance: "leaning",
      by: "KD",
      unitId: "tern",
      share: 0.8,
      use: null,
      sessionIds: ["a"],
      ...more,
    }) as HandsRow;
  it("of another body is another one, also where lens and hands read the same", () => {
    expect(pocketName(row(), "")).toBe("Reed at 30, leaning, KD");
    expect(pocketName(row({ by: "" }), "Plover B")).toBe("Reed at 30, leaning, Plover B");
    expect(groupKey(row({ by: "kd ", lensName: "Grebe", sessionIds: ["b"] }))).toBe(groupKey(row()));
    const others = [
      row(),
      row({ unitId: "plover" }),
      row({ stance: "seated" as HandsRow["stance"] }),
      row({ share: 0.5 }),
      row({ by: "RB" }),
    ];
    // Hands and bodies that nobody named are not known to be the same.
    const unknown = [row({ by: "" }), row({ by: "", sessionIds: ["b"] }), row({ unitId: null }), row({ unitId: null, sessionIds: ["b"] })];
    expect(new Set([...others, ...unknown].map(groupKey)).size).toBe(9);
    expect(groupWords(row(), "Tern A")).toBe("KD, leaning, Tern A");
    expect(groupWords(row({ by: "" }), "Tern A")).toBe("hands not said, leaning, Tern A, Reed at 30 mm");
  });
  it("says what was left out, and what was not blind", () => {
    expect(rowNotes({ unsaid: 0, inView: 0 })).toEqual([]);
    expect(rowNotes({ unsaid: 1, inView: 1 })).toEqual(["1 picture says neither off nor on: left out", "1 grade not blind"]);
    expect(rowNotes({ unsaid: 0, inView: 4 })).toEqual(["4 grades not blind"]);
  });
  it("of a lens not tested is an estimate, and says from how many", () => {
    const words = untestedWords({ low: -6.1, high: -3.9, from: 1 });
    expect(words).toMatch(/^An estimate from 1 tested lens, not a measurement: the limit lies somewhere between 1\/80 s and 1\/13 s\./);
    expect(words).toMatch(/no slower than 1\/80 s until then/);
  });
});
