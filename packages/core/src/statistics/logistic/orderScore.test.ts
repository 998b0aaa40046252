// The score test against the likelihood itself: its score is the slope of the log-likelihood in the added coefficient, its variance what the information
// leaves of that coefficient (Cox and Hinkley 1974, 9.3), both taken by differences here.

import { describe, expect, it } from "vitest";
import { randomFrom } from "../random.ts";
import { fitLogit } from "./binomial.ts";
import type { OrderedVisit } from "./orderScore.ts";
import { laterIsWorse, orderScore } from "./orderScore.ts";

const session = (seed: number, shots: number): OrderedVisit[] => {
  const random = randomFrom(seed);
  return Array.from({ length: 24 }, (_, place) => {
    const x = random.int(-8, -2);
    const kept = Array.from({ length: shots }, () => random.next() < 1 / (1 + Math.exp(x + 5))).filter(Boolean).length;
    return { x, kept, shots, place };
  });
};
const likelihood = (data: readonly OrderedVisit[], [a, b, c]: readonly [number, number, number]): number =>
  data.reduce((sum, v) => {
    const eta = a + b * v.x + c * v.place;
    return sum + v.kept * eta - v.shots * Math.log(1 + Math.exp(eta));
  }, 0);

/** Second derivatives by central differences. */
function information(data: readonly OrderedVisit[], at: readonly [number, number, number]): number[][] {
  const h = 1e-4;
  const shifted = (i: number, s: number, j: number, t: number): number => {
    const p: [number, number, number] = [...at];
    p[i] = (p[i] ?? 0) + s * h;
    p[j] = (p[j] ?? 0) + t * h;
    return likelihood(data, p);
  };
  return [0, 1, 2].map((i) =>
    [0, 1, 2].map((j) => -(shifted(i, 1, j, 1) - shifted(i, 1, j, -1) - shifted(i, -1, j, 1) + shifted(i, -1, j, -1)) / (4 * h * h)),
  );
}

describe("the score of the order", () => {
  it("and its variance are the likelihood's own", () => {
    for (const seed of [3, 4, 5, 6]) {
      const data = session(seed, 1);
      const fit = fitLogit(data);
      const found = orderScore(data);
      if (fit === null || found === null) throw new Error("no fit");
      const at = [fit.intercept, fit.slope, 0] as const;
      const slope = (likelihood(data, [at[0], at[1], 1e-5]) - likelihood(data, [at[0], at[1], -1e-5])) / 2e-5;
      expect(found.score).toBeCloseTo(slope, 3);
      const [[aa, ab, ac], [, bb, bc], [, , cc]] = information(data, at) as [number[], number[], number[]] as unknown as [
        [number, number, number],
        [number, number, number],
        [number, number, number],
      ];
      const det = aa * bb - ab * ab;
      const left = cc - (bb * ac * ac - 2 * ab * ac * bc + aa * bc * bc) / det;
      expect(found.variance / left).toBeCloseTo(1, 2);
    }
  });
  it("is the same whatever the places are counted from, and turns its sign with the order", () => {
    const data = session(9, 3);
    const found = orderScore(data);
    const moved = orderScore(data.map((v) => ({ ...v, place: v.place + 1000 })));
    const back = orderScore(data.map((v) => ({ ...v, place: -v.place })));
    expect(moved?.score).toBeCloseTo(found?.score ?? 0, 6);
    expect(moved?.variance).toBeCloseTo(found?.variance ?? 0, 6);
    expect(back?.score).toBeCloseTo(-(found?.score ?? 0), 9);
    const p = laterIsWorse(found === null ? [] : [found]) ?? 0;
    expect(laterIsWorse(back === null ? [] : [back])).toBeCloseTo(1 - p, 9);
  });
  it("leaves nothing free where the order is the exposure, and is none without a curve", () => {
    const tied = Array.from({ length: 8 }, (_, i) => ({ x: i - 8, kept: i < 4 ? 2 : 1, shots: 2, place: i }));
    tied[1] = { ...(tied[1] as OrderedVisit), kept: 1 };
    expect(orderScore(tied)?.free).toBeCloseTo(0, 9);
    expect(orderScore([])).toBeNull();
    expect(orderScore([{ x: -5, kept: 1, shots: 2, place: 0 }])).toBeNull();
    expect(laterIsWorse([])).toBeNull();
  });
});
