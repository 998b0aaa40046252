// Strengths from paired comparisons: Bradley and Terry (1952), with ties by Davidson (1970). Of i against j: win e^li, loss e^lj, tie
// nu e^((li + lj)/2), each over their sum. The maximum exists iff every item is linked to every other by wins or ties both ways (Ford 1957).
// The classical fit, shown behind the claim; checked against R (glm).

import { invertPositive } from "../linear.ts";
import { maximiseConcave } from "../newton.ts";
import type { Slope } from "../newton.ts";
import { groupsOf, reaches, unlinked } from "./links.ts";

export interface Table {
  /** wins[i][j]: times i beat j. */
  wins: readonly (readonly number[])[];
  /** ties[i][j] = ties[j][i]; left out: ties cannot happen. */
  ties?: readonly (readonly number[])[];
}
export interface Strengths {
  /** Log strengths, the first item 0. */
  lambda: number[];
  /** Of the log strengths without the first, then of log nu where there are ties. */
  covariance: number[][];
  /** Null: ties cannot happen, or none did. */
  logNu: number | null;
  /** Sum over comparisons of the log probability of what happened. */
  logLikelihood: number;
}
export type StrengthsResult =
  | ({ ok: true } & Strengths)
  /** Within each group that is linked both ways strengths exist, the first of a group 0. */
  | {
      ok: false;
      /** `never-contradicted`: ties are so many and wins so consistent that strengths and ties would grow together without end. */
      reason: "never-beaten" | "unlinked" | "never-contradicted";
      groups: readonly { items: readonly number[]; strengths: Strengths }[];
    };

export function strengthsOf(table: Table): StrengthsResult {
  requireTable(table);
  const tied = (i: number, j: number): number => table.ties?.[i]?.[j] ?? 0;
  const good = table.wins.map((row, i) => row.map((w, j) => w + tied(i, j) > 0));
  const groups = groupsOf(reaches(good));
  if (groups.length === 1) {
    const strengths = fit(table);
    return strengths === null ? { ok: false, reason: "never-contradicted", groups: [] } : { ok: true, ...strengths };
  }
  const parts = groups.flatMap((items) => {
    const strengths = items.length > 1 ? fit(part(table, items)) : null;
    return strengths === null ? [] : [{ items, strengths }];
  });
  return { ok: false, reason: unlinked(good) ? "unlinked" : "never-beaten", groups: parts };
}

const part = ({ wins, ties }: Table, items: readonly number[]): Table => {
  const of = (m: readonly (readonly number[])[]): number[][] => items.map((i) => items.map((j) => m[i]?.[j] ?? 0));
  return ties === undefined ? { wins: of(wins) } : { wins: of(wins), ties: of(ties) };
};

/** Of items linked both ways; null where ties leave no maximum. */
function fit(table: Table): Strengths | null {
  const n = table.wins.length;
  const withTies = table.ties?.some((row) => row.some((t) => t > 0)) === true;
  if (withTies && !contradicted(table)) return null;
  const size = n - 1 + (withTies ? 1 : 0);
  const best = maximiseConcave((x) => slope(table, x, withTies), new Array<number>(size).fill(0), 1e-10);
  const covariance = best === null ? null : invertPositive(best.information);
  // Linked both ways, so a maximum exists.
  if (best === null || covariance === null) throw new RangeError("wins must link every item both ways");
  return {
    lambda: [0, ...best.at.slice(0, n - 1)],
    covariance,
    logNu: withTies ? (best.at[n - 1] as number) : null,
    logLikelihood: best.value,
  };
}

/**
 * Some chain of wins and ties leads back to where it began with more wins than ties: only then can strengths and ties not grow together without
 * end. (Along win i over j a strength must fall by 1 or more, along a tie it changes by 1 at most; such a system has no solution iff a cycle is
 * negative.)
 */
function contradicted({ wins, ties }: Table): boolean {
  const steps = wins.map((row, i) =>
    row.map((w, j) => (i === j ? 0 : w > 0 ? -1 : (ties?.[i]?.[j] ?? 0) > 0 ? 1 : Number.POSITIVE_INFINITY)),
  );
  for (const [via, onward] of steps.entries())
    for (const row of steps)
      row.forEach((d, j) => {
        row[j] = Math.min(d, (row[via] as number) + (onward[j] as number));
      });
  return steps.some((row, i) => (row[i] as number) < 0);
}

/** Parameters: log strengths without the first, then log nu. */
function slope({ wins, ties }: Table, x: readonly number[], withTies: boolean): Slope {
  const n = wins.length;
  const result: Slope = { value: 0, gradient: x.map(() => 0), information: x.map(() => x.map(() => 0)) };
  const logNu = withTies ? (x[n - 1] as number) : Number.NEGATIVE_INFINITY;
  for (let i = 0; i < n; i++)
    for (let j = i + 1; j < n; j++) {
      const [win, loss, tie] = [wins[i]?.[j] ?? 0, wins[j]?.[i] ?? 0, ties?.[i]?.[j] ?? 0];
      const all = win + loss + tie;
      if (all === 0) continue;
      const z = (i === 0 ? 0 : (x[i - 1] as number)) - (x[j - 1] as number);
      const { dz, dLog, zz, zn, nn, log } = threeWay(z, logNu, win, loss, tie);
      result.value += log;
      const signs: [number, number][] = [[j - 1, -1]];
      if (i > 0) signs.push([i - 1, 1]);
      for (const [a, sa] of signs) {
        result.gradient[a] = (result.gradient[a] as number) + sa * dz;
        for (const [b, sb] of signs) add(result.information, a, b, sa * sb * zz);
        if (withTies) {
          add(result.information, a, n - 1, sa * zn);
          add(result.information, n - 1, a, sa * zn);
        }
      }
      if (withTies) {
        result.gradient[n - 1] = (result.gradient[n - 1] as number) + dLog;
        add(result.information, n - 1, n - 1, nn);
      }
    }
  return result;
}

const add = (m: number[][], i: number, j: number, v: number): void => {
  (m[i] as number[])[j] = ((m[i] as number[])[j] as number) + v;
};

/**
 * Log probability of `win`, `loss` and `tie` outcomes at difference `z` and log nu, with its derivatives by both (second ones negated).
 * Shared with the judging fit, which has the same three-way curve.
 */
export function threeWay(z: number, logNu: number, win: number, loss: number, tie: number) {
  const top = Math.max(z / 2, -z / 2, logNu);
  const [eWin, eLoss, eTie] = [Math.exp(z / 2 - top), Math.exp(-z / 2 - top), Math.exp(logNu - top)];
  const whole = eWin + eLoss + eTie;
  const p = { win: eWin / whole, loss: eLoss / whole, tie: eTie / whole };
  const all = win + loss + tie;
  const logWhole = top + Math.log(whole);
  const lean = p.win - p.loss;
  return {
    p,
    log: (win * z) / 2 - (loss * z) / 2 + (tie > 0 ? tie * logNu : 0) - all * logWhole,
    dz: (win - loss - all * lean) / 2,
    dLog: tie - all * p.tie,
    zz: (all * (p.win + p.loss - lean * lean)) / 4,
    zn: (-all * lean * p.tie) / 2,
    nn: all * p.tie * (1 - p.tie),
  };
}

function requireTable({ wins, ties }: Table): void {
  if (wins.length < 2) throw new RangeError(`wins must be of two items or more, got ${wins.length}`);
  const square = (m: readonly (readonly number[])[]): boolean =>
    m.length === wins.length &&
    m.every((row, i) => row.length === wins.length && row.every((v, j) => (i === j ? true : Number.isInteger(v) && v >= 0)));
  if (!square(wins)) throw new RangeError("wins must be a square of counts");
  if (ties === undefined) return;
  if (!square(ties) || ties.some((row, i) => row.some((v, j) => v !== ties[j]?.[i])))
    throw new RangeError("ties must be a symmetric square of counts");
}
