// Blind judging: what a few answers may claim, degenerate tables, judges who lean, and which pairs are shown. Numbers: tools/conformance.

import { describe, expect, it } from "vitest";
import { cohenKappa, fleissKappa, randomFrom, signTest, strengthsOf } from "../../statistics/index.ts";
import { sets as setsOf } from "../../statistics/testing/sets.ts";
import type { Comparison } from "../comparing/compareSetups.ts";
import { compareSetups } from "../comparing/compareSetups.ts";
import type { WalkJudgement } from "../session.ts";
import { takeOf } from "../testing/takes.ts";
import { alikeByChance, consistencyOf, judgesAgreement, sideBias } from "./agreement.ts";
import type { Answer } from "./answers.ts";
import type { Judged } from "./fit.ts";
import { fitJudging } from "./fit.ts";
import { judgementsNeeded } from "./needed.ts";
import { pairsToJudge } from "./pairs.ts";
import { eyeAndRuler, readQuestion } from "./readJudging.ts";

const random = randomFrom(41);
/** One answer in the procedure's own world: strengths, a lean to the left, one in so many undecided. */
function answer(z: number, tie: number): Answer {
  const [l, r] = [Math.exp(z / 2), Math.exp(-z / 2)];
  const u = random.next() * (l + r + tie);
  return u < l ? "left" : u < l + r ? "right" : "none";
}

describe("the fit of judgements", () => {
  it("holds for a whole family of pairs in at least .88, judges leaning and differing", () => {
    const sets = setsOf(150);
    for (const { strengths, judges, each } of [
      { strengths: [0, 1, 2.5], judges: 1, each: 5 },
      { strengths: [0, 0.6, 1.2, 1.8], judges: 3, each: 2 },
    ]) {
      let held = 0;
      for (let i = 0; i < sets; i++) {
        const own = Array.from({ length: judges }, () => strengths.map((s) => s + (judges > 1 ? 0.5 * random.normal() : 0)));
        const judged: Judged[] = [];
        for (let judge = 0; judge < judges; judge++)
          for (let n = 0; n < each; n++)
            for (let a = 0; a < strengths.length; a++)
              for (let b = a + 1; b < strengths.length; b++) {
                const [left, right] = random.next() < 0.5 ? [a, b] : [b, a];
                judged.push({ judge, left, right, answer: answer((own[judge]?.[left] ?? 0) - (own[judge]?.[right] ?? 0) + 0.4, 0.7) });
              }
        const fit = fitJudging(strengths.length, judged);
        if (!fit.ok) throw new Error(fit.reason);
        const truth = (p: { a: number; b: number }): number => (strengths[p.a] ?? 0) - (strengths[p.b] ?? 0);
        if (fit.pairs.every((p) => (p.family.low ?? -1e9) <= truth(p) && truth(p) <= (p.family.high ?? 1e9))) held++;
      }
      expect(held / sets).toBeGreaterThan(0.88);
    }
  });
  const of = (left: number, right: number, a: Answer, judge = 0): Judged => ({ judge, left, right, answer: a });
  it("tells nothing apart where all are undecided", () => {
    const fit = fitJudging(
      3,
      Array.from({ length: 12 }, (_, i) => of(i % 3, (i + 1) % 3, "none")),
    );
    if (!fit.ok) throw new Error(fit.reason);
    expect(fit.pairs.some((p) => p.toldApart)).toBe(false);
    expect(fit.brackets).toEqual([[0, 1, 2]]);
    for (const s of fit.strengths) expect(s).toBeCloseTo(0, 9);
  });
  it("lays it to the side when a judge always says left", () => {
    const fit = fitJudging(
      2,
      Array.from({ length: 20 }, (_, i) => of(i % 2, 1 - (i % 2), "left")),
    );
    if (!fit.ok) throw new Error(fit.reason);
    expect(fit.side).toBeGreaterThan(0.5);
    expect(fit.pairs[0]?.difference).toBeCloseTo(0, 9);
    expect(sideBias(Array.from({ length: 20 }, () => "left"))).toMatchObject({ left: 20, decided: 20, biased: true });
  });
  it("leaves a setup that was never beaten without an upper end", () => {
    const fit = fitJudging(
      2,
      Array.from({ length: 10 }, (_, i) => (i % 2 === 0 ? of(0, 1, "left") : of(1, 0, "right"))),
    );
    if (!fit.ok) throw new Error(fit.reason);
    expect(fit.pairs[0]).toMatchObject({ toldApart: true, unlinked: false });
    expect(fit.pairs[0]?.family.high).toBeNull();
    expect(fit.pairs[0]?.family.low).toBeGreaterThan(0);
  });
  it("says of setups never compared that they were not, whatever their figures", () => {
    const fit = fitJudging(4, [of(0, 1, "left"), of(1, 0, "left"), of(2, 3, "left"), of(3, 2, "left")]);
    if (!fit.ok) throw new Error(fit.reason);
    expect(fit.pairs.filter((p) => p.unlinked).map((p) => [p.a, p.b])).toEqual([
      [0, 2],
      [0, 3],
      [1, 2],
      [1, 3],
    ]);
    expect(fit.pairs.filter((p) => p.unlinked).every((p) => p.family.low === null && p.family.high === null && !p.toldApart)).toBe(true);
  });
  it("is refused without judgements, with one setup, and beyond ten", () => {
    expect(fitJudging(2, [])).toEqual({ ok: false, reason: "no-judgements" });
    expect(fitJudging(1, [])).toEqual({ ok: false, reason: "one-setup" });
    expect(fitJudging(11, [of(0, 1, "left")])).toEqual({ ok: false, reason: "too-many-setups" });
    expect(() => fitJudging(2, [of(0, 0, "left")])).toThrow("a judgement must be of two of 2 setups, got 0 against 0 by 0");
  });
  it("does not change when sides are mirrored, but for the lean", () => {
    const judged = Array.from({ length: 30 }, (_, i) => of(i % 3, (i + 1) % 3, answer(1, 0.5)));
    const mirrored = judged.map(
      ({ judge, left, right, answer: a }): Judged => ({
        judge,
        left: right,
        right: left,
        answer: a === "left" ? "right" : a === "right" ? "left" : a,
      }),
    );
    const [x, y] = [fitJudging(3, judged), fitJudging(3, mirrored)];
    if (!x.ok || !y.ok) throw new Error("not fitted");
    x.strengths.forEach((s, i) => expect(y.strengths[i]).toBeCloseTo(s, 7));
    expect(y.side).toBeCloseTo(-x.side, 7);
  });
});

describe("whether judges can be believed", () => {
  it("compares each with themself against chance", () => {
    const alike = consistencyOf(Array.from({ length: 10 }, () => ["a", "a"] as const));
    expect(alike).toMatchObject({ pairs: 10, alike: 10, noBetter: false });
    const half = consistencyOf(Array.from({ length: 10 }, (_, i) => ["a", i % 2 === 0 ? "a" : "b"] as const));
    expect(half?.noBetter).toBe(true);
    expect(consistencyOf([])).toBeNull();
    expect(alikeByChance(0)).toBe(0.5);
    expect(alikeByChance(1)).toBe(1);
  });
  it("finds agreement only in pairs that both saw, and claims nothing below a dozen", () => {
    const judge = (n: number, winner: (i: number) => string | null) => new Map(Array.from({ length: n }, (_, i) => [`p${i}`, winner(i)]));
    expect(judgesAgreement([judge(5, () => "a")])).toEqual({ ok: false, reason: "one-judge" });
    expect(judgesAgreement([judge(5, () => "a"), new Map([["q", "a"]])])).toEqual({ ok: false, reason: "no-common-pairs" });
    expect(judgesAgreement([judge(5, () => null), judge(5, () => null)])).toEqual({ ok: false, reason: "all-undecided" });
    const few = judgesAgreement([judge(11, () => "a"), judge(11, () => "a")]);
    expect(few).toMatchObject({ ok: true, alike: 1, kappa: 1, low90: null });
    const many = judgesAgreement([judge(20, () => "a"), judge(20, (i) => (i < 15 ? "a" : "b"))]);
    if (!many.ok) throw new Error(many.reason);
    expect(many.kappa).toBeCloseTo(0.5, 9);
    expect((many.low90 ?? 9) < many.kappa && many.kappa < (many.high90 ?? 0)).toBe(true);
  });
  it("asks for as many judgements as the procedure's table, within a few per cent", () => {
    // Table of walk-comparison.md, section 7: decided share .7 and .9, two to six setups.
    for (const [setups, seven, nine] of [
      [2, 52, 13],
      [3, 140, 36],
      [4, 246, 63],
      [6, 493, 125],
    ] as const) {
      expect(Math.abs(judgementsNeeded(setups, 0.7).inAll / seven - 1)).toBeLessThan(0.03);
      expect(Math.abs(judgementsNeeded(setups, 0.9).inAll - nine)).toBeLessThanOrEqual(1);
    }
    expect(() => judgementsNeeded(2, 0.5)).toThrow("decidedShare must lie between 0.5 and 1, got 0.5");
  });
});

describe("pairs to judge", () => {
  const setups = ["a", "b", "c", "d"].map((setupId) => ({ setupId, takeIds: [1, 2, 3].map((n) => `${setupId}${n}`) }));
  const list = pairsToJudge(setups, "kd", 7, 60);
  it("are the judge's own, the same after a reload, and another judge's are others", () => {
    expect(pairsToJudge(setups, " KD ", 7, 60)).toEqual(list);
    expect(pairsToJudge(setups, "kd", 7, 20)).toEqual(list.slice(0, 20));
    expect(pairsToJudge(setups, "rb", 7, 60)).not.toEqual(list);
  });
  it("show every pair about as often, each setup about as often on either side, and never a setup against itself", () => {
    const setupOf = (take: string): string => take.charAt(0);
    const counts = new Map<string, number>();
    for (const { left, right } of list) {
      expect(setupOf(left)).not.toBe(setupOf(right));
      const key = [setupOf(left), setupOf(right)].sort().join("");
      counts.set(key, (counts.get(key) ?? 0) + 1);
    }
    expect(counts.size).toBe(6);
    expect(Math.max(...counts.values()) - Math.min(...counts.values())).toBeLessThanOrEqual(4);
    for (const { setupId } of setups) {
      const left = list.filter((p) => setupOf(p.left) === setupId).length;
      const all = list.filter((p) => [p.left, p.right].some((t) => setupOf(t) === setupId)).length;
      expect(Math.abs(left / all - 0.5)).toBeLessThan(0.15);
    }
  });
  it("show one in five again, later and turned round", () => {
    const again = list.flatMap((p, i) => {
      const first = list.findIndex((q) => q.left === p.right && q.right === p.left);
      return first >= 0 && first < i ? [i - first] : [];
    });
    expect(again.length).toBeGreaterThanOrEqual(10);
    expect(Math.min(...again)).toBeGreaterThanOrEqual(3);
  });
  it("are none without two setups to show", () => {
    expect(pairsToJudge(setups.slice(0, 1), "kd", 7, 9)).toEqual([]);
    expect(
      pairsToJudge(
        [
          { setupId: "a", takeIds: ["a1"] },
          { setupId: "b", takeIds: [] },
        ],
        "kd",
        7,
        9,
      ),
    ).toEqual([]);
  });
});

describe("what judges said of a move", () => {
  const takes = ["off", "sensor", "strong"].flatMap((setupId) => [1, 2].map((n) => takeOf(`${setupId}${n}`, { setupId, n })));
  const said = (left: string, right: string, a: Answer, judge = "KD"): WalkJudgement => ({
    id: "",
    atMs: 0,
    moveId: "m",
    judge,
    left,
    right,
    answers: { steadier: a, "better picture": "none", "would use": a },
  });
  it("leaves out takes that are gone or bad, and counts initials as one person", () => {
    const bad = takes.map((t) => (t.id === "off2" ? { ...t, bad: "fell" } : t));
    const judgements = [
      said("off1", "sensor1", "right"),
      said("off2", "sensor1", "left"),
      said("gone", "sensor1", "left"),
      said("sensor1", "off1", "left", " kd"),
    ];
    const read = readQuestion("steadier", judgements, bad);
    expect([read.setupIds, read.dropped]).toEqual([["off", "sensor"], 2]);
    expect(read.fit).toMatchObject({ ok: true, judgements: 2, judges: 1 });
    expect(read.consistency).toMatchObject([{ judge: "KD", told: { pairs: 1, alike: 1 } }]);
    expect(readQuestion("steadier", [], takes).fit).toEqual({ ok: false, reason: "one-setup" });
  });
  it("lays the eye beside the ruler, and never takes undecided for alike", () => {
    const many = Array.from({ length: 14 }, (_, i) => (i % 2 === 0 ? said("off1", "sensor1", "left") : said("sensor1", "off1", "right")));
    const read = readQuestion("steadier", many, takes);
    const at = (off: number, sensor: number): Comparison =>
      compareSetups(
        [
          { id: "off", takes: [0.95, 1, 1.05].map((v, order) => ({ order, value: v * off })) },
          { id: "sensor", takes: [0.95, 1, 1.05].map((v, order) => ({ order: 3 + order, value: v * sensor })) },
        ],
        { control: "off", allowForDay: false },
      ) as Comparison;
    expect(eyeAndRuler(read, at(2, 1))).toEqual([{ a: "sensor", b: "off", says: "against" }]);
    expect(eyeAndRuler(read, at(1, 2))).toEqual([{ a: "off", b: "sensor", says: "alike" }]);
    expect(eyeAndRuler(read, at(1, 1))).toEqual([{ a: "off", b: "sensor", says: "ruler does not decide" }]);
    const undecided = readQuestion("better picture", many, takes);
    expect(eyeAndRuler(undecided, at(2, 1))).toEqual([{ a: "sensor", b: "off", says: "eye does not decide" }]);
    expect(eyeAndRuler(undecided, at(1, 1))).toEqual([]);
  });
});

describe("the classical fits", () => {
  it("refuse closed reasons", () => {
    expect(
      strengthsOf({
        wins: [
          [0, 5],
          [0, 0],
        ],
      }),
    ).toMatchObject({ ok: false, reason: "never-beaten" });
    expect(
      strengthsOf({
        wins: [
          [0, 1, 0],
          [1, 0, 0],
          [0, 0, 0],
        ],
      }),
    ).toMatchObject({ ok: false, reason: "unlinked" });
    expect(() =>
      strengthsOf({
        wins: [
          [0, 1.5],
          [0, 0],
        ],
      }),
    ).toThrow("wins must be a square of counts");
    expect(
      cohenKappa([
        [0, 0],
        [0, 0],
      ]),
    ).toEqual({ ok: false, reason: "no-pairs", agreed: null });
    expect(
      fleissKappa([
        [2, 1],
        [3, 1],
      ]),
    ).toMatchObject({ ok: false, reason: "unequal-judges" });
    expect(signTest(0, 0)).toBeNull();
  });
  it("give an answer or a reason for any table, and never throw", () => {
    const draw = randomFrom(77);
    const seen = new Set<string>();
    for (let round = 0; round < 300; round++) {
      const n = draw.int(2, 5);
      const count = (): number => (draw.next() < 0.6 ? 0 : draw.int(0, 3));
      const wins = Array.from({ length: n }, (_, i) => Array.from({ length: n }, (_c, j) => (i === j ? 0 : count())));
      const ties = wins.map((row) => row.map(() => 0));
      for (let i = 0; i < n; i++)
        for (let j = i + 1; j < n; j++) {
          const t = count();
          (ties[i] as number[])[j] = t;
          (ties[j] as number[])[i] = t;
        }
      const fit = strengthsOf({ wins, ties });
      seen.add(fit.ok ? "ok" : fit.reason);
      if (fit.ok) expect(fit.lambda.every(Number.isFinite) && fit.covariance.every((row, i) => (row[i] ?? -1) > 0)).toBe(true);
    }
    expect([...seen].sort()).toEqual(["never-beaten", "never-contradicted", "ok", "unlinked"]);
  });
  it("agree with each other: ties that never happen leave the plain fit", () => {
    const wins = [
      [0, 4, 3],
      [2, 0, 5],
      [1, 2, 0],
    ];
    const [plain, tied] = [
      strengthsOf({ wins }),
      strengthsOf({
        wins,
        ties: [
          [0, 0, 0],
          [0, 0, 0],
          [0, 0, 0],
        ],
      }),
    ];
    if (!plain.ok || !tied.ok) throw new Error("not fitted");
    expect(tied.lambda).toEqual(plain.lambda);
    expect(tied.logNu).toBeNull();
  });
});
