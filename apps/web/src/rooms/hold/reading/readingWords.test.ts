import type { HoldShot } from "@keep-rolling/core/holds";
import { describe, expect, it } from "vitest";
import { agreementWords, classicalWords, isoWords, thereWords, tiringWords } from "./readingWords.ts";

describe("what is said beside the dependable time", () => {
  it("of judges rounds agreement down, and does not praise what chance would do", () => {
    expect(agreementWords("KD", "RB", { pictures: 40, alike: 0.75, kappa: 0.659, keptKappa: 0.5 })).toBe(
      "KD and RB gave the same grade to 30 of 40; agreement beyond chance 0.65 over the four grades, 0.50 on kept or not (1 is perfect, 0 is chance).",
    );
    expect(agreementWords("KD", "RB", { pictures: 4, alike: 1, kappa: null, keptKappa: null })).toMatch(/chance would do as well/);
    expect(agreementWords("KD", "RB", { pictures: 6, alike: 0.5, kappa: 0.1, keptKappa: null })).toMatch(/of so few it says little/);
    expect(agreementWords("KD", "RB", null)).toMatch(/no picture in common/);
  });
  it("of light names the setting, or what is not known", () => {
    expect(isoWords({ kind: "raise", iso: 400, stops: 2, x: -5 })).toBe(
      "ISO 400 brings it to 1/30 s, which is dependable: 2.0 stops of noise, within what you tolerate.",
    );
    expect(isoWords({ kind: "unknown", x: 1, iso: 200 })).toMatch(/still takes 2 s, slower than was shot: nothing is known there/);
    const there = { mean: 0.1, lower90: 0.03, least: 0.02, burst: null, regripped: null };
    expect(isoWords({ kind: "both", x: -3, iso: 3200, there })).toMatch(/close to none can be promised; no burst helps/);
    expect(isoWords({ kind: "both", x: -3, iso: 3200, there: { ...there, least: 0.559, burst: 4 } })).toMatch(
      /at least 55 % are kept; take 4/,
    );
  });
  it("says of the dependable time what the sentence says, and promises nothing faster than was shot", () => {
    expect(thereWords("1/60 s", 0.8, 0.914, false)).toBe(
      "At 1/60 s about 91 % are kept by the curve; at least 8 of 10 is what is sure (90 %).",
    );
    const beyond = thereWords("1/60 s", 0.8, 0.914, true);
    expect(beyond).toBe("At 1/60 s the curve has about 91 % kept; nothing that fast was shot to show it.");
  });
  it("of the classical curve names both ends, one or none, and never lets it pass for a claim", () => {
    const said = (low: number | null, high: number | null): string =>
      classicalWords({ setting: "on", share: 0.8, classical: { at: -5, low, high } });
    expect(said(-6, -4)).toMatch(/8 of 10 kept near 1\/30 s, between 1\/60 s and 1\/15 s \(90 %, if shots were independent/);
    expect(said(-6, null)).toMatch(/1\/60 s or slower, no limit on the slow side/);
    expect(said(null, -4)).toMatch(/1\/15 s or faster, no limit on the fast side/);
    expect(classicalWords({ setting: "on", share: 0.8, classical: null })).toMatch(/does not exist for these shots/);
  });
  it("of tiring does not take what cannot be told for its absence", () => {
    expect(tiringWords([])).toBe("Whether the hands tired cannot be told from these shots.");
    const shots = (kept: (i: number) => boolean): HoldShot[] =>
      Array.from({ length: 60 }, (_, i) => ({ id: String(i), atMs: i, setting: "on", x: -(i % 3), grade: kept(i) ? "kept" : "lost" }));
    // What tells them apart from tired hands is not in the shots.
    expect(tiringWords(shots((i) => i < 30))).toMatch(
      /^Fewer were kept the later they came \(p 0\.\d{3}\): hands that tire, or light or focus that changed\./,
    );
    expect(tiringWords(shots((i) => i % 4 !== 0))).toMatch(
      /^No sign in these 60 shots that the hands tired \(p [01]\.\d{3}\); a little would not be seen\.$/,
    );
  });
});
