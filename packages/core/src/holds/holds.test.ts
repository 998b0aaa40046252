import { describe, expect, it } from "vitest";
import type { HoldPlan } from "./plan.ts";
import { plannedVisits, USUALLY, usualSpans } from "./plan.ts";
import { readHold, seenAtOnce } from "./reading.ts";
import type { Grade, HoldShot } from "./shots.ts";
import { visitsOf } from "./shots.ts";
import { holdOf } from "./session.ts";

const PLAN: HoldPlan = {
  ...USUALLY,
  lensName: "Reed 16 to 55",
  focalMm: 30,
  equivalentMm: 45,
  stance: "eye at the finder",
  by: "KD",
  state: "",
  reference: "1/equivalent",
  claimStops: 5,
  spans: { off: { fastest: -8, slowest: -4 }, on: { fastest: -6, slowest: 0 } },
  stepStops: 1,
  shotsEach: 5,
};
let made = 0;
const shot = (setting: "off" | "on", x: number, grade: Grade): HoldShot => ({ id: `s${made++}`, atMs: made, setting, x, grade });
const shots = (setting: "off" | "on", from: number, ...kept: number[]): HoldShot[] =>
  kept.flatMap((k, i) => Array.from({ length: 5 }, (_, n) => shot(setting, from + i, n < k ? "kept" : "lost")));
const read = (plan: HoldPlan, taken: readonly HoldShot[], chosenLate = false) =>
  readHold(plan, seenAtOnce(plan, { shots: taken, chosenLate }));
const fact = (kind: string, body: object, atMs = ++made) =>
  ({ id: `f${made++}`, kind, body, atMs }) as unknown as Parameters<typeof holdOf>[0]["effective"][number];

describe("the plan", () => {
  it("shoots off and on in turn, which first changing from time to time, every time of both", () => {
    const visits = plannedVisits(PLAN);
    expect(visits.slice(0, 4)).toEqual([
      { setting: "off", x: -8 },
      { setting: "on", x: -6 },
      { setting: "on", x: -5 },
      { setting: "off", x: -7 },
    ]);
    expect(visits).toHaveLength(12);
    expect(plannedVisits({ spans: { off: null, on: null }, stepStops: 1 })).toEqual([]);
    expect(plannedVisits({ spans: { off: { fastest: -2, slowest: -1 }, on: null }, stepStops: 0.5 }).map((v) => v.x)).toEqual([
      -2, -1.5, -1,
    ]);
  });
  it("begins two stops faster than the rule with it off, at the rule with it on, on whole stops", () => {
    expect(usualSpans({ focalMm: 30, equivalentMm: 45 }, "1/equivalent")).toEqual({
      off: { fastest: -8, slowest: -4 },
      on: { fastest: -6, slowest: -1 },
    });
    // Without a sensor the actual focal length has to do.
    expect(usualSpans({ focalMm: 30, equivalentMm: null }, "1/equivalent").on?.fastest).toBe(-5);
  });
});

describe("the session", () => {
  it("asks for the first shot not yet taken, and takes a bad one again", () => {
    const plan = fact("holdPlan", { hold: PLAN });
    expect(holdOf({ effective: [plan] })).toMatchObject({ next: { setting: "off", x: -8, n: 1 }, left: 60 });
    const taken = [plan, ...(["kept", "bad", "lost"] as const).map((grade) => fact("shot", { setting: "off", x: -8, grade }))];
    expect(holdOf({ effective: taken })).toMatchObject({ next: { setting: "off", x: -8, n: 3 }, left: 58 });
    // Shots at a time that is not planned are kept, and do not stand for another's.
    const other = [...taken, fact("shot", { setting: "off", x: -8 + 1 / 3, grade: "kept" })];
    expect(holdOf({ effective: other })).toMatchObject({ left: 58, shots: { length: 4 } });
    expect(holdOf({ effective: [] })).toMatchObject({ plan: null, shots: [], chosenLate: false, next: null, left: 0 });
  });
  it("knows a plan whose times were changed once shots were there from one that was changed before, or in its words", () => {
    const plans = [fact("holdPlan", { hold: PLAN }, 1000), fact("shot", { setting: "off", x: -8, grade: "kept" }, 2000)];
    const late = (hold: HoldPlan, atMs: number) =>
      holdOf({ effective: [...plans, fact("holdPlan", { hold }, atMs)].sort((a, b) => a.atMs - b.atMs) }).chosenLate;
    expect(late({ ...PLAN, shotsEach: 7 }, 3000)).toBe(true);
    expect(late({ ...PLAN, shotsEach: 7 }, 1500)).toBe(false);
    expect(late({ ...PLAN, state: "windy" }, 3000)).toBe(false);
  });
  it("takes the last plan, and passes what it does not know", () => {
    const later = fact("holdPlan", { hold: { ...PLAN, shotsEach: 1 } });
    const strange = { ...fact("holdPlan", {}), foreign: true } as ReturnType<typeof fact>;
    expect(holdOf({ effective: [fact("holdPlan", { hold: PLAN }), later, strange] }).plan?.shotsEach).toBe(1);
  });
});

describe("visits", () => {
  it("end where the setting or the time changes, and the same time again is another visit; a bad try ends nothing", () => {
    const taken = [
      shot("off", -6, "kept"),
      shot("off", -6, "bad"),
      shot("off", -6, "lost"),
      shot("on", -4, "kept"),
      shot("off", -6, "kept"),
      shot("off", -5, "lost"),
    ];
    expect(visitsOf(taken, "off")).toEqual([
      { x: -6, kept: 1, shots: 2 },
      { x: -6, kept: 1, shots: 1 },
      { x: -5, kept: 0, shots: 1 },
    ]);
    expect(visitsOf(taken, "on")).toEqual([{ x: -4, kept: 1, shots: 1 }]);
  });
});

describe("what the shots say", () => {
  const plan: HoldPlan = { ...PLAN, spans: { off: { fastest: -8, slowest: -4 }, on: { fastest: -4, slowest: 0 } } };
  const both = [...shots("off", -8, 5, 5, 4, 2, 0), ...shots("on", -4, 5, 5, 4, 1, 0)];
  it("is the claim of the procedure for each setting, and the stops between them (case hold-p1-typical-pair)", () => {
    const typical = read(plan, both);
    const [off, on] = typical.settings;
    expect(off?.claim.claim).toBeCloseTo(-6.894, 2);
    expect(on?.claim.claim).toBeCloseTo(-2.977, 2);
    expect(typical.gain).toMatchObject({ ok: true });
    if (typical.gain?.ok === true) expect(typical.gain.low).toBeCloseTo(2.655, 2);
    expect(off?.times.map((t) => t.kept)).toEqual([5, 5, 4, 2, 0]);
    expect(off?.there?.mean).toBeGreaterThan(0.8);
  });
  it("has the curve it stands on and the classical one beside it, where there is any", () => {
    const [off] = read(plan, both).settings;
    const rates = off?.curve.map((c) => c.rate) ?? [];
    expect(off?.curve[0]?.x).toBe(-8);
    expect(off?.curve.at(-1)?.x).toBeCloseTo(-4, 9);
    expect(rates.every((r, i) => i === 0 || r < (rates[i - 1] ?? 0))).toBe(true);
    // Kept 5 5 4 2 0 of five: 8 of 10 lies between the second and the fourth time for any falling curve.
    expect(off?.classical?.at).toBeGreaterThan(-7);
    expect(off?.classical?.at).toBeLessThan(-5);
    expect(off?.classical?.low ?? 0).toBeLessThan(off?.classical?.at ?? 0);
    const all = read(plan, shots("off", -8, 5, 5, 5, 5, 5)).settings[0];
    expect(all).toMatchObject({ classical: null });
    expect(read(plan, shots("off", -8, 0, 1, 2, 4, 5)).settings[0]).toMatchObject({ classical: null, curve: [] });
    expect(read(plan, shots("off", -8, 5, 5, 0, 0, 0)).settings[0]?.curve.length).toBe(13);
  });
  it("counts from the rule chosen, and places the maker's claim from there", () => {
    expect(read(plan, both)).toMatchObject({ rule: -Math.log2(45), claimed: 5 - Math.log2(45) });
    expect(read({ ...plan, claimStops: null, equivalentMm: null }, both)).toMatchObject({ rule: null, claimed: null });
    const own = read({ ...plan, reference: "off" }, both);
    expect(own.rule).toBeGreaterThan(-7.2);
    expect(own.rule).toBeLessThan(-5.3);
    // Without an upper end the own limit is not known, so nothing is counted from it.
    expect(read({ ...plan, reference: "off" }, shots("off", -8, 5, 5, 5, 5, 5)).rule).toBeNull();
  });
  it("is held back while shots of the plan are missing: who stops may have stopped because of what was seen", () => {
    const [whole, part] = [read(plan, both), read({ ...plan, shotsEach: 6 }, both)];
    const changed = read(plan, both, true);
    expect([whole.heldBack, part.heldBack, changed.heldBack]).toEqual([null, "unfinished", "changed"]);
    for (const k of [0, 1])
      for (const less of [part, changed]) expect(less.settings[k]?.claim.claim ?? 0).toBeLessThan(whole.settings[k]?.claim.claim ?? 0);
  });
  it("of one setting has no stops gained; of nothing, nothing", () => {
    expect(read(plan, shots("on", -4, 5, 5, 4, 1, 0))).toMatchObject({ gain: null, settings: { length: 1 } });
    expect(read(plan, [])).toMatchObject({ gain: null, settings: [] });
    expect(read(plan, [shot("off", -6, "bad")]).settings).toEqual([]);
  });
});
