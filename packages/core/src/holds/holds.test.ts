import { describe, expect, it } from "vitest";
import type { HoldPlan } from "./plan.ts";
import { plannedVisits, usualSpans } from "./plan.ts";
import { readHold, visitsOf } from "./reading.ts";
import type { Grade, HoldShot } from "./session.ts";
import { holdOf } from "./session.ts";

const PLAN: HoldPlan = {
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
    expect(holdOf({ effective: [] })).toEqual({ plan: null, shots: [], next: null, left: 0 });
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
    const read = readHold(plan, both);
    const [off, on] = read.settings;
    expect(off?.claim.claim).toBeCloseTo(-6.894, 2);
    expect(on?.claim.claim).toBeCloseTo(-2.977, 2);
    expect(read.gain).toMatchObject({ ok: true });
    if (read.gain?.ok === true) expect(read.gain.low).toBeCloseTo(2.655, 2);
    expect(off?.times.map((t) => t.kept)).toEqual([5, 5, 4, 2, 0]);
    expect(off?.there?.mean).toBeGreaterThan(0.8);
  });
  it("counts from the rule chosen, and places the maker's claim from there", () => {
    expect(readHold(plan, both)).toMatchObject({ rule: -Math.log2(45), claimed: 5 - Math.log2(45) });
    expect(readHold({ ...plan, claimStops: null, equivalentMm: null }, both)).toMatchObject({ rule: null, claimed: null });
    const own = readHold({ ...plan, reference: "off" }, both);
    expect(own.rule).toBeGreaterThan(-7.2);
    expect(own.rule).toBeLessThan(-5.3);
    // Without an upper end the own limit is not known, so nothing is counted from it.
    expect(readHold({ ...plan, reference: "off" }, shots("off", -8, 5, 5, 5, 5, 5)).rule).toBeNull();
  });
  it("is held back while shots of the plan are missing: who stops may have stopped because of what was seen", () => {
    const [whole, part] = [readHold(plan, both), readHold({ ...plan, shotsEach: 6 }, both)];
    expect([whole.unfinished, part.unfinished]).toEqual([false, true]);
    for (const k of [0, 1]) expect(part.settings[k]?.claim.claim ?? 0).toBeLessThan(whole.settings[k]?.claim.claim ?? 0);
  });
  it("of one setting has no stops gained; of nothing, nothing", () => {
    expect(readHold(plan, shots("on", -4, 5, 5, 4, 1, 0))).toMatchObject({ gain: null, settings: { length: 1 } });
    expect(readHold(plan, [])).toMatchObject({ gain: null, settings: [] });
    expect(readHold(plan, [shot("off", -6, "bad")]).settings).toEqual([]);
  });
});
