// One move of one walk, compared: which takes count for which column, whether the day is allowed for, what each addition brings, and how soft
// the footfalls are. What is said of it names its walk: one walker, one day, this route.

import type { Comparison, ComparisonResult, SetupLevel, SetupPair } from "./comparing/compareSetups.ts";
import { compareSetups } from "./comparing/compareSetups.ts";
import type { Addition } from "./comparing/additions.ts";
import { additionsOf, beatsEach, fights, gainOf } from "./comparing/additions.ts";
import type { Footfalls, ShareDifference, ShareLevel } from "./comparing/footfalls.ts";
import { shareDifference, softFootfalls } from "./comparing/footfalls.ts";
import type { Interval } from "./comparing/pairs.ts";
import type { WalkPlan } from "./plan.ts";
import type { MeasuredTake, SetupRow } from "./summary.ts";
import { softStepsIn } from "./summary.ts";
import type { Density } from "../statistics/index.ts";
import type { Crossing, CrossingEffects, CrossingOf } from "./comparing/crossing.ts";
import { crossingEffects, crossingsOf } from "./comparing/crossing.ts";

/** What is compared on the log scale; less is better in each. */
export const COLUMNS = ["shake", "roll", "drift", "softness"] as const;
export type Column = (typeof COLUMNS)[number];

const VALUES: Readonly<Record<Column, (t: MeasuredTake) => number | null>> = {
  shake: (t) => t.measures?.jitterRmsFrac ?? null,
  roll: (t) => t.measures?.rollRmsDeg ?? null,
  drift: (t) => t.measures?.driftRmsFrac ?? null,
  softness: (t) => t.measures?.edgeSigmaPx640 ?? null,
};

export interface AdditionGain extends Addition {
  /** Of the log of shake; all additions hold together with 90 %. */
  gain: Interval & { log: number };
  /** Columns that it makes worse. */
  worse: readonly Column[];
}
export interface MoveCrossing extends CrossingOf {
  /** Of the share of soft footfalls, and of the log of the softness of edges; null where that was not measured in all four. */
  footfalls: CrossingEffects | null;
  softness: CrossingEffects | null;
}
export interface WithoutTakes {
  id: string;
  /** Facts that began the takes left out. */
  takeIds: readonly string[];
  point: number;
  low90: number;
  high90: number;
}
export interface FootfallLevel extends ShareLevel {
  id: string;
  soft: number;
  of: number;
  takes: number;
}
export interface MoveComparison {
  columns: Readonly<Record<Column, ComparisonResult>>;
  /** How the day was dealt with. */
  day: "allowed for" | "too few takes" | "control not at both ends" | "order not known";
  /** Some setups were walked early and others late: day and setup cannot be separated. */
  shuffled: boolean;
  /** Of setups with a take that stands apart: their level of shake if it were left out. */
  without: readonly WithoutTakes[];
  /** Shake, if every measured take that somebody left out counted; null where there is none. */
  ifCounted: ComparisonResult | null;
  additions: readonly AdditionGain[];
  /** Setups of two helps or more that beat each of their parts alone. */
  beatsParts: readonly string[];
  /** Shutter and sharpening both varied, all else alike: which softens. Empty: no such four setups with a repeat each. */
  crossings: readonly MoveCrossing[];
  footfalls: { levels: readonly FootfallLevel[]; pairs: readonly ({ a: string; b: string } & ShareDifference)[] };
}

export function compareMove(plan: WalkPlan, rows: readonly SetupRow[]): MoveComparison {
  const order = orderOf(rows);
  const day = dayOf(plan, rows, order);
  const columns = Object.fromEntries(COLUMNS.map((c) => [c, columnOf(plan, rows, order, c, day === "allowed for")])) as Record<
    Column,
    ComparisonResult
  >;
  const { additions, beatsParts } = additionsIn(plan, columns);
  const without = withoutOdd(plan, rows, order, columns.shake, day === "allowed for");
  return {
    columns,
    day,
    shuffled: isShuffled(columns.shake),
    without,
    ifCounted: ifCounted(plan, rows),
    additions,
    beatsParts,
    crossings: crossingsIn(plan, rows, columns.softness),
    footfalls: footfallsOf(rows),
  };
}

/** By take: its place in the order walked; empty when some take was walked without the card. A corrected copy stands where its take was. */
function orderOf(rows: readonly SetupRow[]): Map<string, number> {
  const takes = rows.flatMap((r) => r.takes.map((t) => t.take));
  const walked = takes.filter((t) => t.of === null);
  if (walked.some((t) => !t.timed)) return new Map();
  const place = new Map([...walked].sort((a, b) => a.startMs - b.startMs).map((t, i) => [t.id, i]));
  return new Map(takes.flatMap((t): [string, number][] => [[t.id, place.get(t.of ?? t.id) ?? -1]]).filter(([, at]) => at >= 0));
}

/** Takes beyond one a setup that a trend asks for. */
const SPARE = 4;
function dayOf(plan: WalkPlan, rows: readonly SetupRow[], order: ReadonlyMap<string, number>): MoveComparison["day"] {
  const counted = rows.map((r) => r.takes.filter((t) => usable(VALUES.shake(t)))).filter((t) => t.length > 0);
  const all = counted.flat();
  if (order.size === 0 || all.some((t) => !order.has(t.take.id))) return "order not known";
  if (all.length < counted.length + SPARE) return "too few takes";
  const control = all.filter((t) => t.take.setupId === plan.controlId).map((t) => order.get(t.take.id) ?? 0);
  const places = all.map((t) => order.get(t.take.id) ?? 0);
  const atEnds = Math.min(...control) === Math.min(...places) && Math.max(...control) === Math.max(...places);
  return control.length >= 2 && atEnds ? "allowed for" : "control not at both ends";
}

const usable = (v: number | null): v is number => v !== null && v > 0 && Number.isFinite(v);

function columnOf(
  plan: WalkPlan,
  rows: readonly SetupRow[],
  order: ReadonlyMap<string, number>,
  column: Column,
  allowForDay: boolean,
): ComparisonResult {
  const setups = rows.map((r) => ({
    id: r.setup.id,
    takes: r.takes.flatMap((t) => {
      const value = VALUES[column](t);
      return usable(value) ? [{ order: order.get(t.take.id) ?? 0, value }] : [];
    }),
  }));
  const [takes, known] = [setups.flatMap((s) => s.takes).length, setups.filter((s) => s.takes.length > 0).length];
  // A column measured in fewer takes may be too thin for the trend that the others carry.
  return compareSetups(setups, { control: plan.controlId, allowForDay: allowForDay && takes >= known + SPARE });
}

function withoutOdd(
  plan: WalkPlan,
  rows: readonly SetupRow[],
  order: ReadonlyMap<string, number>,
  shake: ComparisonResult,
  allowForDay: boolean,
): WithoutTakes[] {
  if (!shake.ok) return [];
  const odd = new Map(
    shake.setups
      .filter((s) => s.badTakes.length > 0)
      .map((s) => {
        const counted = (rows.find((r) => r.setup.id === s.id)?.takes ?? []).filter((t) => usable(VALUES.shake(t)));
        return [s.id, s.badTakes.flatMap((j) => counted[j]?.take.id ?? [])] as const;
      }),
  );
  const left = [...odd.values()].flat();
  if (left.length === 0) return [];
  const kept = rows.map((r) => ({ ...r, takes: r.takes.filter((t) => !left.includes(t.take.id)) }));
  const again = columnOf(plan, kept, order, "shake", allowForDay);
  if (!again.ok) return [];
  return again.setups.flatMap(({ id, point, low90, high90 }) => {
    const takeIds = odd.get(id);
    return takeIds === undefined ? [] : [{ id, takeIds, point, low90, high90 }];
  });
}

function ifCounted(plan: WalkPlan, rows: readonly SetupRow[]): ComparisonResult | null {
  const whole = rows.map((r) => ({ ...r, takes: [...r.takes, ...r.leftOut.filter((t) => usable(VALUES.shake(t)))] }));
  if (whole.every((r, i) => r.takes.length === rows[i]?.takes.length)) return null;
  const order = orderOf(whole);
  return columnOf(plan, whole, order, "shake", dayOf(plan, whole, order) === "allowed for");
}

/** Mean places of two setups further apart than this: walked in blocks. */
const BLOCKS = 0.4;
function isShuffled(shake: ComparisonResult): boolean {
  if (!shake.ok || shake.trend === null) return true;
  const { position } = shake.trend;
  return Math.max(...position) - Math.min(...position) <= BLOCKS;
}

function additionsIn(
  plan: WalkPlan,
  columns: Readonly<Record<Column, ComparisonResult>>,
): Pick<MoveComparison, "additions" | "beatsParts"> {
  const { shake } = columns;
  if (!shake.ok) return { additions: [], beatsParts: [] };
  const levels = levelsById(shake);
  const known = additionsOf(plan.setups).filter((a) => levels.has(a.before) && levels.has(a.after));
  const compared = COLUMNS.filter((c) => columns[c].ok);
  const additions = known.map((a): AdditionGain => {
    const [before, after] = [levels.get(a.before) as SetupLevel, levels.get(a.after) as SetupLevel];
    const worse = compared.filter((c) => {
      const own = levelsById(columns[c] as Comparison);
      const [was, is] = [own.get(a.before), own.get(a.after)];
      return was !== undefined && is !== undefined && fights(was.level, is.level, known.length, compared.length);
    });
    return { ...a, gain: gainOf(before.level, after.level, known.length), worse };
  });
  const beatsParts = [...levels.values()]
    .filter((both) => {
      const parts = known.filter((a) => a.after === both.id).flatMap((a) => (a.before === plan.controlId ? [] : [levels.get(a.before)]));
      return (
        parts.length >= 2 &&
        beatsEach(
          both.level,
          parts.flatMap((p) => (p === undefined ? [] : [p.level])),
        )
      );
    })
    .map((l) => l.id);
  return { additions, beatsParts };
}

const levelsById = (c: Comparison): Map<string, SetupLevel> => new Map(c.setups.map((s) => [s.id, s]));

function footfallsOf(rows: readonly SetupRow[]): MoveComparison["footfalls"] {
  const counted = rows.flatMap((r) => {
    const takes = footfallsIn(r);
    return takes.length === 0 ? [] : [{ id: r.setup.id, takes }];
  });
  if (counted.length === 0 || counted.length > 10) return { levels: [], pairs: [] };
  const session = softFootfalls(counted.map((c) => c.takes));
  const levels = counted.map((c, i): FootfallLevel => {
    const level = session.levels[i] ?? { share: null, low90: null, high90: null };
    return { id: c.id, soft: sumOf(c.takes.map((t) => t.soft)), of: sumOf(c.takes.map((t) => t.of)), takes: c.takes.length, ...level };
  });
  const pairs = counted.flatMap((a, i) =>
    counted.slice(i + 1).flatMap((b, j) => {
      const d = shareDifference(session, i, i + 1 + j);
      return d === null ? [] : [{ a: a.id, b: b.id, ...d }];
    }),
  );
  return { levels, pairs };
}
function crossingsIn(plan: WalkPlan, rows: readonly SetupRow[], softness: ComparisonResult): MoveCrossing[] {
  return crossingsOf(plan.setups).flatMap((c) => {
    const ids = [c.slowOff, c.slowOn, c.fastOff, c.fastOn];
    const falls = ids.map((id) => footfallsIn(rows.find((r) => r.setup.id === id)));
    const levels = softness.ok ? ids.map((id) => softness.setups.find((s) => s.id === id && !s.scatterBorrowed)?.level.density) : [];
    const crossing = {
      ...c,
      footfalls: falls.every((f) => f.length >= 2) ? footfallCrossing(falls) : null,
      softness: levels.length === 4 && levels.every((l) => l !== undefined) ? crossingEffects([{ weight: 1, of: fourOf(levels) }]) : null,
    };
    return crossing.footfalls === null && crossing.softness === null ? [] : [crossing];
  });
}
function footfallCrossing(falls: readonly (readonly Footfalls[])[]): CrossingEffects {
  return crossingEffects(softFootfalls(falls).byRho.map(({ weight, shares }) => ({ weight, of: fourOf(shares) })));
}
function fourOf(four: readonly Density[]): Crossing {
  const [slowOff, slowOn, fastOff, fastOn] = four as [Density, Density, Density, Density];
  return { slowOff, slowOn, fastOff, fastOn };
}
const footfallsIn = (row: SetupRow | undefined): Footfalls[] =>
  (row?.takes ?? [])
    .flatMap(({ measures: m }) => (m === null || m.stepHz === null ? [] : [softStepsIn(m, m.stepHz)]))
    .filter((f) => f.of > 0);

const sumOf = (v: readonly number[]): number => v.reduce((a, b) => a + b, 0);

/** The pair as seen from `a`: a's log less b's. */
export function pairFrom(c: Comparison, a: string, b: string): SetupPair | null {
  const found = c.pairs.find((p) => (p.a === a && p.b === b) || (p.a === b && p.b === a));
  if (found === undefined || found.a === a) return found ?? null;
  const turned = ({ low, high }: Interval): Interval => ({ low: -high, high: -low });
  return {
    ...found,
    a,
    b,
    log: -found.log,
    family: turned(found.family),
    alone: turned(found.alone),
    same: turned(found.same),
    probASteadier: 1 - found.probASteadier,
  };
}
