// What is told beside the dependable time: by hand, tiring, light, a lens not tested, and what an adaptive test asks for next.

import { describe, expect, it } from "vitest";
import { randomFrom } from "../statistics/index.ts";
import { adaptiveNext } from "./adaptive.ts";
import { isoOrSlower } from "./isoOrSlower.ts";
import type { HoldPlan } from "./plan.ts";
import { shuffled } from "./plan.ts";
import { schoolsOf } from "./schools.ts";
import type { HoldShot } from "./shots.ts";
import { visitsOf } from "./shots.ts";
import { tiringOf } from "./tiring.ts";
import { untestedLens } from "./untested.ts";

const shot = (setting: "off" | "on", x: number, kept: boolean, atMs = 0): HoldShot => ({
  id: `${atMs}`,
  atMs,
  setting,
  x,
  grade: kept ? "kept" : "lost",
});
const row = (x: number, ...kept: number[]): HoldShot[] => kept.map((k) => shot("off", x, k === 1));

describe("by hand", () => {
  it("the best shot, a confirmed one, the first tries and the typical shot differ", () => {
    const shots = [...row(-6, 1, 1, 1), ...row(-5, 1, 1, 0), ...row(-4, 0, 1, 1), ...row(-3, 0, 0, 1), ...row(-2, 0, 0, 0)];
    expect(schoolsOf(shots)).toEqual({ best: -3, confirmed: -4, firstTry: -5, typical: -4 });
    expect(schoolsOf(row(-6, 0, 0))).toEqual({ best: null, confirmed: null, firstTry: null, typical: null });
    expect(schoolsOf([])).toEqual({ best: null, confirmed: null, firstTry: null, typical: null });
  });
});

describe("tiring", () => {
  /** Hands whose limit moves by so many stops over the session. */
  const session = (seed: number, tired: number, order: "shuffled" | "up"): HoldShot[] => {
    const random = randomFrom(seed);
    const times = Array.from({ length: 8 }, (_, i) => -9 + i);
    const visits = [...times, ...times].map((x) => x);
    const taken = order === "shuffled" ? shuffled(visits, seed) : [...times];
    return taken.flatMap((x, v) => {
      const late = v / taken.length;
      return Array.from({ length: 3 }, () => shot("off", x, random.next() < 1 / (1 + Math.exp(1.4 * (x + 5 + tired * late)))));
    });
  };
  it("is seen where it is, and not more often than one in twenty where it is not", () => {
    const share = (tired: number): number => {
      const told = Array.from({ length: 240 }, (_, i) => tiringOf(session(900 + i, tired, "shuffled")));
      return told.filter((t) => t.ok && t.tires).length / told.length;
    };
    // 240 sets: five in a hundred has a standard error of 1.4; three of them above.
    expect(share(0)).toBeLessThan(0.05 + 3 * 0.014);
    expect(share(5)).toBeGreaterThan(0.5);
  });
  it("cannot be told where slower times came later, nor from nothing", () => {
    const up = Array.from({ length: 40 }, (_, i) => tiringOf(session(20 + i, 3, "up")));
    expect(up.every((t) => !t.ok)).toBe(true);
    expect(tiringOf([])).toEqual({ ok: false, reason: "no-curve" });
    expect(tiringOf(row(-6, 1, 1, 1))).toEqual({ ok: false, reason: "no-curve" });
  });
});

describe("too little light", () => {
  const ladder = visitsOf(
    [...row(-6, 1, 1, 1, 1, 1), ...row(-5, 1, 1, 1, 1, 1), ...row(-4, 1, 1, 1, 0, 0), ...row(-3, 0, 0, 1, 0, 0)],
    "off",
  );
  it("is held, or met by as much sensitivity as brings it to the dial's next faster time", () => {
    expect(isoOrSlower(-5, ladder, 0.8, { x: -6, iso: 100, isoTolerated: 3200 })).toEqual({ kind: "as-it-is" });
    expect(isoOrSlower(-5.1, ladder, 0.8, { x: -5.2, iso: 100, isoTolerated: 3200 })).toMatchObject({ kind: "raise", x: -16 / 3 });
    const raised = isoOrSlower(-5, ladder, 0.8, { x: -3, iso: 100, isoTolerated: 3200 });
    expect(raised).toEqual({ kind: "raise", iso: 400, stops: 2, x: -5 });
  });
  it("beyond the tolerated sensitivity is slower than dependable, and beyond what was shot unknown", () => {
    expect(isoOrSlower(-5, ladder, 0.8, { x: -3, iso: 100, isoTolerated: 200 })).toMatchObject({ kind: "both", x: -4, iso: 200 });
    expect(isoOrSlower(-5, ladder, 0.8, { x: 2, iso: 100, isoTolerated: 200 })).toEqual({ kind: "unknown", x: 1, iso: 200 });
    // Tolerating less than is set changes nothing.
    expect(isoOrSlower(-5, ladder, 0.8, { x: -4, iso: 400, isoTolerated: 100 })).toMatchObject({ kind: "both", x: -4, iso: 400 });
    expect(() => isoOrSlower(-5, ladder, 0.8, { x: -4, iso: 0, isoTolerated: 100 })).toThrow(
      "iso and isoTolerated must be above zero, got 0 and 100",
    );
  });
});

describe("a lens not tested", () => {
  it("moves by its equivalent focal length, and is wider than any that was", () => {
    const one = untestedLens(100, [{ equivalentMm: 50, low: -6, high: -4 }]);
    expect(one).toEqual({ low: -7.75, high: -4.25, from: 1 });
    const two = untestedLens(50, [
      { equivalentMm: 50, low: -6, high: -4 },
      { equivalentMm: 100, low: -6, high: -5 },
    ]);
    expect(two).toEqual({ low: -6.5, high: -3.25, from: 2 });
    expect(untestedLens(50, [])).toBeNull();
    expect(() => untestedLens(0, [])).toThrow("equivalentMm must be above zero, got 0");
  });
});

describe("an adaptive test", () => {
  const plan: Pick<HoldPlan, "spans" | "share"> = {
    spans: { off: { fastest: -8, slowest: -8 }, on: { fastest: -6, slowest: -6 } },
    share: 0.8,
  };
  it("goes up in whole stops, off and on in turn, two shots a go", () => {
    const shots: HoldShot[] = [];
    const asked: string[] = [];
    for (let i = 0; i < 12; i++) {
      const next = adaptiveNext(plan, shots);
      if (next.done) throw new Error("done");
      if (next.n === 1) asked.push(`${next.setting} ${next.x}`);
      shots.push(shot(next.setting, next.x, true, i));
    }
    expect(asked).toEqual(["off -8", "on -6", "off -7", "on -5", "off -6", "on -4"]);
  });
  it("ends by itself, and then has read each setting narrowly or has taken sixty; the limit it finds is the hands'", () => {
    const random = randomFrom(5);
    const shots: HoldShot[] = [];
    for (let i = 0; i < 400; i++) {
      const next = adaptiveNext(plan, shots);
      if (next.done) break;
      const limit = next.setting === "off" ? -5 : -2;
      shots.push(shot(next.setting, next.x, random.next() < 1 / (1 + Math.exp(2.5 * (next.x - limit) - Math.log(4))), i));
    }
    expect(adaptiveNext(plan, shots)).toEqual({ done: true });
    const visits = visitsOf(shots, "off", 2);
    expect(visits.every((v) => v.shots === 2)).toBe(true);
    expect(Math.abs(shots.filter((s) => s.setting === "off").length - shots.filter((s) => s.setting === "on").length)).toBeLessThan(45);
  });
  it("ends a go that was begun, and passes over a bad try", () => {
    const begun = [shot("off", -8, true), { ...shot("off", -8, true), grade: "bad" as const }];
    expect(adaptiveNext(plan, begun)).toMatchObject({ done: false, setting: "off", x: -8, n: 2 });
  });
  it("of one setting asks for no other", () => {
    expect(adaptiveNext({ ...plan, spans: { off: null, on: plan.spans.on } }, [])).toMatchObject({ setting: "on", x: -6 });
    expect(adaptiveNext({ ...plan, spans: { off: null, on: null } }, [])).toEqual({ done: true });
  });
});
