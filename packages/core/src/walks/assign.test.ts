import { describe, expect, it } from "vitest";
import { proposeTakes } from "./assign.ts";
import type { WalkClip, WalkTake } from "./session.ts";
import { clipOf, takeOf } from "./testing/takes.ts";

describe("which clip is which take", () => {
  const t = (id: string, startMs: number, endMs: number | null = startMs + 10_000, more: Partial<WalkTake> = {}): WalkTake =>
    takeOf(id, { startMs, endMs, ...more });
  const c = (sha256: string, startMs: number | null, durationMs = 12_000, more: Partial<WalkClip> = {}): WalkClip =>
    clipOf(sha256, { startMs, durationMs, ...more });
  const said = (clips: WalkClip[], takes: WalkTake[]) => proposeTakes(clips, takes).map((p) => [p.sha256, p.takeId ?? p.because]);
  it("goes by time where the clip's clock is known", () => {
    expect(said([c("b", 99_000), c("a", -1000)], [t("1", 0), t("2", 100_000)])).toEqual([
      ["a", "1"],
      ["b", "2"],
    ]);
  });
  it("leaves what no take or two takes could be", () => {
    expect(said([c("x", 500_000)], [t("1", 0)])).toEqual([["x", "no-take-then"]]);
    expect(said([c("x", 8000, 10_000)], [t("1", 0, 13_000), t("2", 13_000, 25_000)])).toEqual([["x", "between-takes"]]);
    expect(said([c("x", 0), c("y", 1000)], [t("1", 0)])).toEqual([
      ["x", "1"],
      ["y", "take-has-clip"],
    ]);
  });
  it("goes by order only when numbers and lengths agree", () => {
    const takes = [t("1", 0), t("2", 50_000), t("3", 90_000, 100_000, { bad: "" })];
    expect(said([c("C10", null), c("C9", null), c("C11", null)], takes)).toEqual([
      ["C9", "1"],
      ["C10", "2"],
      ["C11", "3"],
    ]);
    // Without the bad take's clip there are as many as good takes.
    expect(said([c("C1", null), c("C2", null)], takes).map(([, take]) => take)).toEqual(["1", "2"]);
    expect(said([c("C1", null)], [])).toEqual([["C1", "no-take-free"]]);
    expect(said([c("C1", null)], takes)).toEqual([["C1", "counts-differ"]]);
    expect(said([c("C1", null), c("C2", null, 600_000)], takes).map(([, why]) => why)).toEqual(["lengths-differ", "lengths-differ"]);
  });
  it("cuts a clip that ran through several takes at the times of the card", () => {
    const [p] = proposeTakes([c("x", 1000, 30_000)], [t("1", 0, 10_000), t("2", 15_000, 25_000), t("3", 29_500, 60_000)]);
    expect(p).toMatchObject({ takeId: null, because: "several-takes" });
    expect(p?.cuts).toEqual([
      { takeId: "1", fromMs: 0, toMs: 9000 },
      { takeId: "2", fromMs: 14_000, toMs: 24_000 },
    ]);
    // A take that has a clip of its own is none of the parts.
    const taken = [c("y", 0, 9000, { takeId: "1", by: "hand" }), c("x", 1000, 30_000)];
    expect(proposeTakes(taken, [t("1", 0, 10_000), t("2", 15_000, 25_000)])[0]).toMatchObject({ because: null, takeId: "2" });
  });
  it("keeps the cards of two bodies apart", () => {
    const takes = [t("a1", 0, 10_000, { unitId: "A" }), t("b1", 0, 10_000, { unitId: "B" })];
    const clips = [c("p", 100, 9000, { unitId: "B" }), c("q", 200, 9000, { unitId: "A" })];
    expect(said(clips, takes)).toEqual([
      ["p", "b1"],
      ["q", "a1"],
    ]);
    const untimed = [c("p", null, 9000, { unitId: "B" }), c("q", null, 9000, { unitId: "A" })];
    expect(Object.fromEntries(said(untimed, takes))).toEqual({ p: "b1", q: "a1" });
    const unsaid = [c("p", null, 9000), c("q", null, 9000)];
    expect(said(unsaid, takes).map(([, why]) => why)).toEqual(["card-not-said", "card-not-said"]);
    // From which card is not said: it could be either.
    expect(said([c("p", 100, 9000)], takes)).toEqual([["p", "between-takes"]]);
  });
  it("leaves alone what a hand has set", () => {
    expect(said([c("a", 0, 10_000, { by: "hand", takeId: null })], [t("1", 0)])).toEqual([]);
  });
});
