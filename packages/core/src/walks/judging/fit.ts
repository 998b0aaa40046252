// Strengths of setups from blind judgements of pairs: a three-way curve with a lean to one side of the screen, judges who may differ, and a
// mild pull to equality that keeps every figure finite. Where nobody ever did better, the figure has no upper end and says so.
// The procedure and its simulated coverage: docs/methods/blind-judging.md.

import { invertPositive, maximiseConcave, normalQuantile, reaches, threeWay } from "../../statistics/index.ts";
import type { Slope } from "../../statistics/index.ts";
import { bracketsOf } from "../comparing/brackets.ts";
import { familyLevel, MOST_SETUPS } from "../comparing/family.ts";
import type { Answer } from "./answers.ts";

/** Of one pair, to one question. Setups and judges by index. */
export interface Judged {
  judge: number;
  left: number;
  right: number;
  answer: Answer;
}

/** Ends of an interval; null: open, "at least". */
export interface OpenInterval {
  low: number | null;
  high: number | null;
}
export interface JudgedPair {
  a: number;
  b: number;
  /** Log odds that a is preferred, among decided judgements. */
  difference: number;
  se: number;
  family: OpenInterval;
  alone: OpenInterval;
  /** Of decided judgements, the share that would prefer a. */
  decidedShareA: number;
  toldApart: boolean;
  /** Not compared, not even through others. */
  unlinked: boolean;
  /** Decided judgements of this very pair. */
  decided: number;
}
export interface JudgingFit {
  ok: true;
  strengths: readonly number[];
  /** Log odds of the left side, all else equal. */
  side: number;
  logTie: number;
  pairs: readonly JudgedPair[];
  /** Indices, the strongest first. */
  brackets: readonly (readonly number[])[];
  judges: number;
  judgements: number;
}
export type JudgingResult = JudgingFit | { ok: false; reason: "no-judgements" | "one-setup" | "too-many-setups" };

const STRENGTH_SD = 1.7;
const JUDGE_SD = 0.65;
const SIDE_SD = 0.4;
const TIE = Math.log(0.7);

export function fitJudging(setups: number, judged: readonly Judged[]): JudgingResult {
  for (const j of judged)
    if (!(inRange(j.left, setups) && inRange(j.right, setups) && j.left !== j.right && j.judge >= 0))
      throw new RangeError(`a judgement must be of two of ${setups} setups, got ${j.left} against ${j.right} by ${j.judge}`);
  if (setups < 2) return { ok: false, reason: "one-setup" };
  if (setups > MOST_SETUPS) return { ok: false, reason: "too-many-setups" };
  if (judged.length === 0) return { ok: false, reason: "no-judgements" };
  const judges = [...new Set(judged.map((j) => j.judge))];
  const layout = layoutOf(setups, judges.length);
  const numbered = judged.map((j) => ({ ...j, judge: judges.indexOf(j.judge) }));
  const best = maximiseConcave((x) => slopeOf(layout, numbered, x), layout.start);
  const covariance = best === null ? null : invertPositive(best.information);
  // Penalised on every side, so the curve is strictly concave and has its maximum.
  if (best === null || covariance === null) throw new RangeError("the fit of judgements did not settle");
  const strengths = best.at.slice(0, setups);
  const reach = reaches(goodOf(setups, judged));
  const pairs = strengths.flatMap((_, a) =>
    strengths.flatMap((_s, b) => (b > a ? [pairOf(a, b, strengths, covariance, reach, judged)] : [])),
  );
  const order = strengths.map((_, i) => i).sort((a, b) => (strengths[b] as number) - (strengths[a] as number));
  const apart = (i: number, j: number): boolean =>
    pairs.some((p) => p.toldApart && [p.a, p.b].includes(order[i] as number) && [p.a, p.b].includes(order[j] as number));
  return {
    ok: true,
    strengths,
    side: best.at[layout.side] as number,
    logTie: best.at[layout.tie] as number,
    pairs,
    brackets: bracketsOf(setups, apart).map((group) => group.map((i) => order[i] as number)),
    judges: judges.length,
    judgements: judged.length,
  };
}

const inRange = (i: number, n: number): boolean => Number.isInteger(i) && i >= 0 && i < n;

/** Where each parameter stands: strengths, side, tie, then every judge's own leanings where there are two judges or more. */
interface Layout {
  setups: number;
  side: number;
  tie: number;
  judge: ((judge: number, setup: number) => number) | null;
  start: number[];
  /** Middle and precision of the pull on each. */
  pull: readonly { middle: number; precision: number }[];
}
function layoutOf(setups: number, judges: number): Layout {
  const own = judges >= 2 ? judges * setups : 0;
  const pull = [
    ...Array.from({ length: setups }, () => ({ middle: 0, precision: STRENGTH_SD ** -2 })),
    { middle: 0, precision: SIDE_SD ** -2 },
    { middle: TIE, precision: 1 },
    ...Array.from({ length: own }, () => ({ middle: 0, precision: JUDGE_SD ** -2 })),
  ];
  const judge = own === 0 ? null : (j: number, s: number): number => setups + 2 + j * setups + s;
  return { setups, side: setups, tie: setups + 1, judge, start: pull.map((p) => p.middle), pull };
}

function slopeOf({ side, tie, judge, pull }: Layout, judged: readonly Judged[], x: readonly number[]): Slope {
  const result: Slope = {
    value: pull.reduce((sum, p, i) => sum - (p.precision * ((x[i] as number) - p.middle) ** 2) / 2, 0),
    gradient: pull.map((p, i) => -p.precision * ((x[i] as number) - p.middle)),
    information: pull.map((p, i) => pull.map((_, j) => (i === j ? p.precision : 0))),
  };
  const { gradient, information } = result;
  const add = (i: number, j: number, v: number): void => {
    (information[i] as number[])[j] = ((information[i] as number[])[j] as number) + v;
  };
  for (const j of judged) {
    const plus = judge === null ? [j.left, side] : [j.left, side, judge(j.judge, j.left)];
    const minus = judge === null ? [j.right] : [j.right, judge(j.judge, j.right)];
    const terms: [number, number][] = [...plus.map((i): [number, number] => [i, 1]), ...minus.map((i): [number, number] => [i, -1])];
    const z = terms.reduce((sum, [i, sign]) => sum + sign * (x[i] as number), 0);
    const t = threeWay(z, x[tie] as number, Number(j.answer === "left"), Number(j.answer === "right"), Number(j.answer === "none"));
    result.value += t.log;
    gradient[tie] = (gradient[tie] as number) + t.dLog;
    add(tie, tie, t.nn);
    for (const [a, sa] of terms) {
      gradient[a] = (gradient[a] as number) + sa * t.dz;
      add(a, tie, sa * t.zn);
      add(tie, a, sa * t.zn);
      for (const [b, sb] of terms) add(a, b, sa * sb * t.zz);
    }
  }
  return result;
}

/** good[a][b]: a beat b or was judged equal. */
function goodOf(setups: number, judged: readonly Judged[]): boolean[][] {
  const good = Array.from({ length: setups }, () => new Array<boolean>(setups).fill(false));
  for (const { left, right, answer } of judged) {
    if (answer !== "right") (good[left] as boolean[])[right] = true;
    if (answer !== "left") (good[right] as boolean[])[left] = true;
  }
  return good;
}

function pairOf(
  a: number,
  b: number,
  strengths: readonly number[],
  c: readonly (readonly number[])[],
  reach: readonly (readonly boolean[])[],
  judged: readonly Judged[],
): JudgedPair {
  const at = (i: number, j: number): number => c[i]?.[j] as number;
  const difference = (strengths[a] as number) - (strengths[b] as number);
  const se = Math.sqrt((at(a, a) + at(b, b) - 2 * at(a, b)) * (1 + 2 / judged.length));
  // Who never did as well as the other, not even through others, may be worse without end.
  const openHigh = reach[b]?.[a] !== true;
  const openLow = reach[a]?.[b] !== true;
  const ends = (z: number): OpenInterval => ({ low: openLow ? null : difference - z * se, high: openHigh ? null : difference + z * se });
  const family = ends(normalQuantile(1 - familyLevel(strengths.length) / 2));
  const own = judged.filter((j) => (j.left === a && j.right === b) || (j.left === b && j.right === a));
  return {
    a,
    b,
    difference,
    se,
    family,
    alone: ends(normalQuantile(0.95)),
    decidedShareA: 1 / (1 + Math.exp(-difference)),
    toldApart: (family.low !== null && family.low > 0) || (family.high !== null && family.high < 0),
    unlinked: openHigh && openLow,
    decided: own.filter((j) => j.answer !== "none").length,
  };
}
