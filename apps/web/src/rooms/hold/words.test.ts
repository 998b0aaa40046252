import type { HoldPlan } from "@keep-rolling/core/holds";
import { readHold } from "@keep-rolling/core/holds";
import { randomFrom } from "@keep-rolling/core/statistics";
import { describe, expect, it } from "vitest";
import { draftOfPlan, emptyHold, plannedHold, withLens, withUsualTimes } from "./holdDraft.ts";
import { remindersOf } from "./planWords.ts";
import {
  cellWords,
  claimWords,
  doubtWords,
  gainWords,
  inViewWords,
  makersWords,
  orderWords,
  sessionsWords,
  settingWords,
  slowerWords,
  workWords,
} from "./words.ts";

type Shots = Parameters<typeof readHold>[1]["shots"];
const plan = {
  share: 0.8,
  order: "balanced",
  claimStops: 5,
  reference: "1/equivalent",
  focalMm: 30,
  equivalentMm: 45,
  spans: { off: null, on: null },
  stepStops: 1,
  shotsEach: 5,
} as unknown as HoldPlan;
const shots = (setting: "off" | "on", from: number, ...kept: number[]): Shots =>
  kept.flatMap((k, i) =>
    Array.from({ length: 5 }, (_, n) => ({
      id: `${setting}${i}${n}`,
      atMs: 0,
      setting,
      x: from + i,
      grade: n < k ? ("kept" as const) : ("lost" as const),
    })),
  );
const said = (of: Shots): string => {
  const [first] = readHold(plan, { shots: of, heldBack: null }).settings;
  return first === undefined ? "" : [settingWords(first), ...doubtWords(first)].join(" ");
};

describe("grades given in view", () => {
  it("are told with how many they are, and that nothing allows for them", () => {
    expect(inViewWords(1, 30)).toMatch(/^1 of 30 grades was given or changed with time and setting in view, not blind/);
    expect(inViewWords(30, 30)).toMatch(/^All 30 grades were given/);
    expect(inViewWords(1, 1)).toMatch(/^The one grade was given/);
  });
});
describe("the order of a test", () => {
  it("is off and on in turn only where both are shot", () => {
    const span = { fastest: -6, slowest: -4 };
    const said = (off: typeof span | null, on: typeof span | null, order: HoldPlan["order"] = "balanced") =>
      orderWords({ order, spans: { off, on } });
    expect([said(span, span), said(null, span), said(span, null)]).toEqual(["off and on in turn", "with it on only", "with it off only"]);
    expect(said(null, span, "adaptive")).toBe("each time chosen by what was seen");
  });
});

describe("times found", () => {
  it("are printed at the next faster place, the other side at the next slower", () => {
    expect([claimWords(-2.977), claimWords(-3), claimWords(-3.01)]).toEqual(["1/8 s", "1/8 s", "1/10 s"]);
    expect([slowerWords(-2.977), slowerWords(-3)]).toEqual(["1/6 s", "1/8 s"]);
  });
});

describe("one setting", () => {
  it("is told as it is: dependable, at least, none, provisional, too slow, rising, too few", () => {
    expect(said(shots("off", -8, 5, 5, 4, 2, 0))).toMatch(
      /^With it off, dependable at 1\/125 s or faster in sessions like this one: at least 8 of 10 kept, 90 % sure\./,
    );
    const all = said(shots("on", -6, 5, 5, 5, 5, 5));
    expect(all).toMatch(/^With it on: at least 1\/\d+ s\. No limit was found on the slow side\./);
    expect(all).toMatch(/or slower; no limit on the slow side/);
    const none = said(shots("off", -4, 0, 0, 0, 0, 0));
    expect(none).toMatch(/nothing was kept \(0 of 25 kept\)\. The limit is faster than 1\/\d+ s\./);
    expect(none).toMatch(/no limit on the fast side/);
    expect(said(shots("off", -8, 0, 1, 2, 4, 5))).toMatch(/kept more often at slower times/);
    expect(said(shots("off", -8, 2, 1, 0, 0, 0))).toMatch(/even the fastest time is not sure enough/);
    // Exact limits by the beta distribution: 5 of 5 gives .05^(1/5) = .549; 3 of 5 between .189 and .924 (Clopper and Pearson 1934; from memory).
    expect(said(shots("off", -8, 5))).toBe(
      "With it off: 5 of 5 kept at 1/250 s. One exposure time says nothing of others: between 54 and 100 % are kept at it (exact limits, 90 % sure, if shots were independent).",
    );
    expect(said(shots("off", -8, 3))).toMatch(/between 18 and 93 % are kept at it/);
    expect(said(shots("off", -8, 5, 5, 5, 0, 0))).toMatch(
      /everything was kept down to 1\/60 s and nothing from 1\/30 s on; such a jump does not fix the point: a time between them says more/,
    );
    expect(said(shots("off", -8, 5, 5, 4, 0, 0))).not.toMatch(/such a jump/);
    expect(said(shots("off", -8, 5, 5, 3, 0, 1))).toMatch(/the single one kept at 1\/15 s is not counted/);
  });
  it("never names a time slower than was shot, nor a chance it was not given, whatever was kept", () => {
    const random = randomFrom(61);
    for (let i = 0; i < 60; i++) {
      const of = shots("on", -8, ...Array.from({ length: 5 }, () => random.int(0, 5)));
      const [s] = readHold(plan, { shots: of, heldBack: null }).settings;
      if (s === undefined) throw new Error("no setting");
      const words = settingWords(s);
      expect(words).not.toMatch(/undefined|NaN|null|Infinity/);
      expect(words.includes("dependable at")).toBe(
        s.claim.claim !== null && !s.claim.flags.includes("faster-than-any-shot") && s.claim.interval?.high !== null,
      );
      if (s.claim.claim === null) expect(workWords(s)).toBeNull();
    }
  });
});

describe("a place of the table", () => {
  const cell = (of: Shots) => {
    const [s] = readHold(plan, { shots: of, heldBack: null }).settings;
    if (s === undefined) throw new Error("no setting");
    return cellWords(s.claim);
  };
  it("has a time, or why there is none, and says what is provisional or only at least", () => {
    expect(cell(shots("off", -8, 5, 5, 4, 2, 0))).toEqual({ time: "1/125 s", note: "" });
    expect(cell(shots("on", -6, 5, 5, 5, 5, 5)).note).toMatch(/^at least/);
    expect(cell(shots("off", -8, 0, 1, 2, 4, 5))).toMatchObject({ time: "" });
    expect(cell(shots("off", -8, 5, 4, 2, 0, 0)).note).toMatch(/provisional|^$/);
  });
  it("speaks for new sessions from three on", () => {
    expect([1, 2, 3].map(sessionsWords)).toEqual([
      "one session: like that day",
      "two sessions: like these two; a third lets it speak for new ones",
      "3 sessions: speaks for new ones of these hands",
    ]);
  });
});

describe("stops gained", () => {
  const gain = (on: Shots, off: Shots) => readHold(plan, { shots: [...off, ...on], heldBack: null }).gain;
  const off = shots("off", -8, 5, 5, 4, 2, 0);
  it("are told with both ends, one end, or not at all", () => {
    const typical = gain(shots("on", -4, 5, 5, 4, 1, 0), off);
    expect(gainWords(typical)).toBe("It lets these hands be slower by 2.6 to 5.2 stops.");
    expect(gainWords(gain(shots("on", -4, 5, 5, 5, 5, 5), off))).toMatch(/^At least \d\.\d stops gained; no limit on the high side\.$/);
    expect(gainWords(gain(shots("on", -4, 0, 0, 0, 0, 0), off))).toMatch(/^At most/);
    expect(gainWords(gain(shots("on", -8, 5, 5, 4, 2, 0), off))).toMatch(/^Whether it helps cannot be told yet/);
    expect(gainWords(gain(shots("on", -8, 0, 1, 2, 4, 5), off))).toMatch(/^Stops gained cannot be told: kept more often at slower times/);
    expect(gainWords(null)).toBeNull();
    // One end alone below nothing says no gain.
    const one = (low: number | null, high: number | null) => gainWords({ ok: true, point: null, low, high });
    expect(one(null, -0.45)).toBe("With it on, faster times are needed: by at least 0.4 stops; no limit on that side.");
    expect(one(-0.5, null)).toMatch(/^Whether it helps cannot be told yet: from -0.5 stops on/);
    expect(one(null, null)).toMatch(/cannot be told/);
  });
  it("stand beside the maker's: not reached, more, or neither", () => {
    const typical = gain(shots("on", -4, 5, 5, 4, 1, 0), off);
    expect(makersWords({ claimStops: 7 }, typical)).toMatch(/not reached by these hands/);
    expect(makersWords({ claimStops: 2 }, typical)).toMatch(/gain more/);
    expect(makersWords({ claimStops: 4 }, typical)).toMatch(/neither reach nor rule it out/);
    expect(makersWords({ claimStops: null }, typical)).toBeNull();
    // An open side rules nothing out.
    expect(makersWords({ claimStops: 7 }, gain(shots("on", -4, 5, 5, 5, 5, 5), off))).toMatch(/neither reach nor rule it out/);
  });
});

describe("the plan as typed", () => {
  const typed = { ...emptyHold(), lensName: "Reed", focalMm: "30", equivalentMm: "45" };
  it("takes the usual times, and makes a plan of them", () => {
    const usual = withUsualTimes(typed);
    expect([usual.off, usual.on]).toEqual([
      { fastest: "1/250", slowest: "1/15" },
      { fastest: "1/60", slowest: "0.5" },
    ]);
    const made = plannedHold(usual);
    expect(made).toMatchObject({ ok: true, shots: 55 });
    if (made.ok) expect(remindersOf(made.plan).join(" ")).toMatch(/as bright at every time/);
  });
  it("is typed again as it was, when it is changed", () => {
    const made = plannedHold({ ...withUsualTimes(typed), by: "KD", claimStops: "5" });
    if (!made.ok) throw new Error(made.errors.join(" "));
    expect(plannedHold(draftOfPlan(made.plan, "landing", ""))).toEqual(made);
  });
  it("takes the equivalent from the body's sensor, and never over what was typed", () => {
    const kit = {
      units: [{ id: "u", modelId: "m" }],
      models: [{ id: "m", sensorWidthMm: 24, sensorHeightMm: 16 }],
    } as unknown as Parameters<typeof withLens>[0];
    const bare = { ...emptyHold(), focalMm: "30" };
    expect(withLens(kit, bare, { unitId: "u" }).equivalentMm).toBe("45");
    expect(withLens(kit, { ...bare, equivalentMm: "45", unitId: "u" }, { unitId: "" }).equivalentMm).toBe("");
    expect(withLens(kit, { ...bare, equivalentMm: "52", equivalentTyped: true }, { unitId: "u" }).equivalentMm).toBe("52");
    // A plan kept does not say whether the kit or a hand gave its equivalent: what the kit would give follows the lens.
    const kept = { ...bare, unitId: "u", equivalentTyped: true };
    expect(withLens(kit, { ...kept, equivalentMm: "45" }, { focalMm: "60" }).equivalentMm).toBe("90");
    expect(withLens(kit, { ...kept, equivalentMm: "52" }, { focalMm: "60" }).equivalentMm).toBe("52");
  });
  it("names each thing that is wrong", () => {
    const made = plannedHold({
      ...typed,
      lensName: "",
      focalMm: "wide",
      claimStops: "40",
      shotsEach: "0",
      off: { fastest: "1/4", slowest: "1/60" },
      on: { fastest: "soon", slowest: "" },
    });
    expect(made.ok ? [] : made.errors).toHaveLength(6);
    const none = plannedHold(typed);
    expect(none.ok ? [] : none.errors).toEqual(["Choose at which times to shoot, off, on or both."]);
  });
});

describe("light as typed", () => {
  const typed = { ...emptyHold(), lensName: "Reed", focalMm: "30", off: { fastest: "1/250", slowest: "1/15" } };
  const metered = { ...typed.metered, time: "1/60", iso: "800", fNumber: "f/4", filters: "3, 6" };
  it("is exact on the dial, and typed again as it was", () => {
    const made = plannedHold({ ...typed, metered: { ...metered, fNumber: "5.6" } });
    if (!made.ok) throw new Error(made.errors.join(" "));
    // f/5.6 is the square root of 32 (ISO 517, from memory).
    expect(made.plan.metered?.fNumber).toBeCloseTo(Math.sqrt(32), 9);
    expect(made.plan.metered).toMatchObject({ x: -6, filters: [3, 6] });
    expect(plannedHold(draftOfPlan(made.plan, "", ""))).toEqual(made);
  });
  it("that contradicts itself is named, and nothing metered asks for nothing", () => {
    const wrong = plannedHold({ ...typed, metered: { ...metered, time: "soon", isoLeast: "1600", fWidest: "8", filters: "three" } });
    expect(wrong.ok ? [] : wrong.errors).toHaveLength(4);
    expect(plannedHold({ ...typed, metered: { ...metered, time: "", iso: "no" } })).toMatchObject({ ok: true, plan: { metered: null } });
  });
  it("is told beforehand: flicker, brightness, minutes, a shared switch, a share nobody has proven", () => {
    const told = (more: Partial<Parameters<typeof remindersOf>[0]>, shared = false): string => {
      const made = plannedHold({ ...typed, metered });
      return made.ok ? remindersOf({ ...made.plan, ...more }, shared).join(" ") : "";
    };
    expect(told({ light: "lamps, 50 Hz" })).toMatch(/pictures at 1\/250, 1\/125, 1\/60, 1\/30, 1\/15 s may differ in brightness/);
    expect(told({ light: "daylight" })).not.toMatch(/flicker/);
    expect(told({})).toMatch(/say what lights the scene/);
    expect(told({ spans: { off: { fastest: -12, slowest: -11 }, on: null } })).toMatch(
      /cannot be kept as bright at 1\/4000 s \(3 stops too dark\)/,
    );
    expect(told({ spans: { off: { fastest: 5, slowest: 7 }, on: null } })).toMatch(
      /65, 130 s: a minute and more each; the shutter alone is open for 19 minutes/,
    );
    expect(told({ subjectMoves: true })).toMatch(/What moves blurs by itself/);
    expect(told({}, true)).toMatch(/shares its switch with the body/);
    expect(told({ share: 0.9 })).toMatch(/Only 8 of 10 has been proven/);
  });
  it("of an adaptive test needs only where it begins", () => {
    const made = plannedHold({ ...typed, order: "adaptive", off: { fastest: "1/250", slowest: "" }, judged: "from pictures" });
    expect(made).toMatchObject({
      ok: true,
      plan: { order: "adaptive", judged: "at once", spans: { off: { fastest: -8, slowest: -8 }, on: null } },
    });
  });
});
