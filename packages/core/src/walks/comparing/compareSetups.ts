// All setups of one move, one column: levels, the trend of the day, every pair, brackets and the control. On the log scale, for anything
// above zero: shake, roll, drift, edge width.

import type { Density } from "../../statistics/index.ts";
import { quantileOf } from "../../statistics/index.ts";
import { bracketsOf } from "./brackets.ts";
import type { DayTrend } from "./dayTrend.ts";
import { dayTrend } from "./dayTrend.ts";
import { MOST_SETUPS } from "./family.ts";
import { levelPosteriors } from "./levels.ts";
import type { Interval, PairVerdict, SessionLevel } from "./pairs.ts";
import { moreTakes, pairVerdict, widened } from "./pairs.ts";

export interface SetupValues {
  id: string;
  takes: readonly {
    /** Place in the order walked; only the order counts. */
    order: number;
    /** Above zero. */
    value: number;
  }[];
}

export interface SetupLevel {
  id: string;
  takes: number;
  /** In the unit of the values. */
  point: number;
  low90: number;
  high90: number;
  /** Standard deviation of the log from take to take. */
  scatter: number;
  /** By take, the probability that it is a bad one. */
  bad: readonly number[];
  /** Takes of which that is likelier than not. */
  badTakes: readonly number[];
  /** Two takes of which one is likely bad, and nobody can say which. */
  oneOfTwo: boolean;
  /** One take only: its scatter is that of the others. */
  scatterBorrowed: boolean;
  level: SessionLevel;
}
export interface SetupPair extends PairVerdict {
  a: string;
  b: string;
  moreTakes: number | "many" | null;
}

export interface Comparison {
  ok: true;
  /** Null: not allowed for. */
  trend: DayTrend | null;
  /** In the order given. */
  setups: readonly SetupLevel[];
  pairs: readonly SetupPair[];
  /** Ids, the steadiest first. */
  brackets: readonly (readonly string[])[];
  control: ControlVerdict;
}
/** `alarm`: setups that shook more than the control beyond chance. `above`: setups whose point is above the control's. */
export interface ControlVerdict {
  known: boolean;
  above: readonly string[];
  alarm: readonly string[];
}
export type ComparisonResult = Comparison | { ok: false; reason: "no-takes" | "no-repeats" | "too-many-setups" };

/** Values must be above zero; setups without a take are left out by the caller. */
export function compareSetups(
  given: readonly SetupValues[],
  { control, allowForDay }: { control: string | null; allowForDay: boolean },
): ComparisonResult {
  for (const { id, takes } of given)
    for (const t of takes) if (!(t.value > 0)) throw new RangeError(`values must be above zero, got ${t.value} of ${id}`);
  const setups = given.filter((s) => s.takes.length > 0);
  if (setups.length === 0) return { ok: false, reason: "no-takes" };
  if (setups.length > MOST_SETUPS) return { ok: false, reason: "too-many-setups" };
  if (setups.every((s) => s.takes.length < 2)) return { ok: false, reason: "no-repeats" };
  const rows = setups.map((s) => s.takes.map((t) => ({ order: t.order, log: Math.log(t.value) })));
  const trend = allowForDay ? dayTrend(rows) : null;
  const logs = trend?.logs ?? rows.map((row) => row.map((t) => t.log));
  const levels = levelPosteriors(logs).map((p, i) =>
    levelOf(setups[i] as SetupValues, p, { density: p.density, position: trend?.position[i] ?? 0, trendSd: trend?.sd ?? 0 }),
  );
  const pairs = levels.flatMap((a, i) => levels.slice(i + 1).map((b) => pairOf(a, b, levels.length)));
  return {
    ok: true,
    trend,
    setups: levels,
    pairs,
    brackets: namedBrackets(levels, pairs),
    control: controlVerdict(levels, pairs, control),
  };
}

function levelOf(s: SetupValues, p: { density: Density; scatter: number; bad: readonly number[] }, level: SessionLevel): SetupLevel {
  const { low, high }: Interval = widened(p.density, 0.05, level.position * level.trendSd);
  const badTakes = p.bad.flatMap((b, j) => (b > 0.5 ? [j] : []));
  return {
    id: s.id,
    takes: s.takes.length,
    point: Math.exp(quantileOf(p.density, 0.5)),
    low90: Math.exp(low),
    high90: Math.exp(high),
    scatter: p.scatter,
    bad: p.bad,
    badTakes: s.takes.length === 1 ? [] : badTakes,
    oneOfTwo: s.takes.length === 2 && badTakes.length === 0 && (p.bad[0] ?? 0) + (p.bad[1] ?? 0) > 0.5,
    scatterBorrowed: s.takes.length === 1,
    level,
  };
}

function pairOf(a: SetupLevel, b: SetupLevel, setups: number): SetupPair {
  const verdict = pairVerdict(a.level, b.level, setups);
  return { a: a.id, b: b.id, ...verdict, moreTakes: moreTakes(verdict, (a.takes + b.takes) / 2) };
}

function namedBrackets(levels: readonly SetupLevel[], pairs: readonly SetupPair[]): string[][] {
  const order = [...levels].sort((a, b) => a.point - b.point).map((l) => l.id);
  const apart = new Set(pairs.filter((p) => p.toldApart).flatMap((p) => [`${p.a}\n${p.b}`, `${p.b}\n${p.a}`]));
  return bracketsOf(order.length, (i, j) => apart.has(`${order[i] ?? ""}\n${order[j] ?? ""}`)).map((group) =>
    group.map((i) => order[i] ?? ""),
  );
}

/** False alarm when every setup truly equals the control: at most one in ten, by the number of setups beside it. */
function controlVerdict(levels: readonly SetupLevel[], pairs: readonly SetupPair[], control: string | null): ControlVerdict {
  const own = levels.find((l) => l.id === control);
  const others = levels.filter((l) => l !== own);
  if (own === undefined || others.length === 0) return { known: false, above: [], alarm: [] };
  const steadier = (s: SetupLevel): number => {
    const p = pairs.find((x) => (x.a === own.id && x.b === s.id) || (x.b === own.id && x.a === s.id)) as SetupPair;
    return p.a === own.id ? p.probASteadier : 1 - p.probASteadier;
  };
  const alarm = others.filter((s) => steadier(s) > 1 - 0.1 / others.length).map((s) => s.id);
  return { known: true, above: others.filter((s) => s.point > own.point).map((s) => s.id), alarm };
}
