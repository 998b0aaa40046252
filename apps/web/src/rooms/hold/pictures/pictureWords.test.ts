import { describe, expect, it } from "vitest";
import { cutWords } from "./pictureWords.ts";

describe("another spot of every picture", () => {
  const said = (before: number, cutNow: number, atHand: number): string => cutWords({ all: 60, before, cutNow, atHand });
  it("is told with what is still missing, and why", () => {
    expect(said(0, 60, 60)).toBe("Cut of 60 pictures: choose it on the table of shots.");
    expect(said(0, 59, 59)).toMatch(/^Cut of 59 pictures: .* Of 1 more the original is not at hand: drop it again, then cut\.$/);
    expect(said(40, 1, 1)).toMatch(/^Cut of 1 picture: .* Of 19 more the original is not at hand: drop them again, then cut\.$/);
    expect(said(60, 0, 0)).toBe("This spot is kept of all of them already.");
  });
  it("is not taken for kept where it could not be cut", () => {
    expect(said(0, 0, 0)).toMatch(/^No original is at hand/);
    expect(said(12, 0, 0)).toMatch(/^No original is at hand/);
    expect(said(0, 0, 60)).toMatch(/was their card taken out\?/);
  });
});
