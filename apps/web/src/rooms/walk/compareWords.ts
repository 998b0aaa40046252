// What may be said of setups compared: who can be told apart, by how much at least, and what would tell. Rounded against us.

import { capital, listWords } from "@keep-rolling/core/format";
import type {
  Column,
  Comparison,
  ComparisonResult,
  MeasuredTake,
  MoveComparison,
  MoveCrossing,
  MoveKind,
  SetupPair,
  SetupRow,
  WalkPlan,
} from "@keep-rolling/core/walks";
import { fieldLeft, pairFrom, shutterWords } from "@keep-rolling/core/walks";
import { intervalWords, percentWords } from "../../shared/walks/words.ts";
import { sentenceOf } from "./words.ts";

const FOR: Partial<Record<MoveKind, string>> = { walk: "To walk with", run: "To run with", "walk and talk": "To walk and talk with" };
/** A control is called that; its own name says only what is off. */
export const nameIn = (rows: readonly SetupRow[], id: string): string => {
  const row = rows.find((r) => r.setup.id === id);
  return row?.isControl === true ? "the control" : (row?.setup.name ?? "");
};

/** How much steadier a is, told apart from b: its family interval, each end rounded outward. */
export function steadierWords({ family }: Pick<SetupPair, "family">): string {
  const [least, most] = [100 * (1 - Math.exp(family.high)), 100 * (1 - Math.exp(family.low))];
  return `${Math.floor(least)} to ${Math.ceil(most)} %`;
}

/** A sentence in three parts, the name in the middle underlined; empty where no setup is named as steadiest. */
export interface Lead {
  before: string;
  name: string;
  after: string;
  setupId: string | null;
}
const plainly = (before: string): Lead => ({ before, name: "", after: "", setupId: null });

/** What the page says at once. */
export function leadOf(plan: WalkPlan, kind: MoveKind, rows: readonly SetupRow[], compared: ComparisonResult): Lead {
  if (!compared.ok) return plainly([sentenceOf(rows), REFUSED[compared.reason]].filter((w) => w !== "").join(" "));
  const name = (id: string): string => nameIn(rows, id);
  const order = [...compared.setups].sort((a, b) => a.point - b.point);
  const [best] = order;
  if (best === undefined) return plainly("Nothing is measured for this move yet.");
  const shake = `shake ${percentWords(best.point)} % of the picture's width`;
  if (order.length === 1) return plainly(`${capital(name(best.id))}: ${shake}. There is nothing to compare it with yet.`);
  const mates = order.slice(1).filter((s) => pairFrom(compared, best.id, s.id)?.toldApart !== true);
  const control = order.find((s) => s.id === plan.controlId);
  const others = mates.filter((s) => s !== control);
  if (control !== undefined && control === best)
    return plainly(
      others.length === 0
        ? `The control shakes least, ${percentWords(best.point)} % of the picture's width, and is told apart from all others: here nothing on is best.`
        : `The control shakes least, and cannot be told apart from ${listWords(others.map((s) => name(s.id)))}: nothing here is shown to help.`,
    );
  if (control !== undefined && mates.includes(control))
    return plainly(
      `${capital(name(best.id))} shakes least, ${percentWords(best.point)} %, but cannot be told apart from the control: nothing here is shown to help.`,
    );
  const against = control === undefined ? null : pairFrom(compared, best.id, control.id);
  const than = against === null ? "" : `, ${steadierWords(against)} less than the control`;
  const group =
    others.length === 0
      ? ""
      : ` ${capital(listWords(others.map((o) => name(o.id))))} cannot be told apart from it${costWords(rows, [best.id, ...others.map((o) => o.id)])}.`;
  return { before: `${FOR[kind] ?? "Steadiest"}: `, name: name(best.id), after: `, ${shake}${than}.${group}`, setupId: best.id };
}

const REFUSED: Readonly<Record<"no-takes" | "no-repeats" | "too-many-setups", string>> = {
  "no-takes": "",
  "no-repeats": "With one take each nobody can say whether a difference is chance.",
  "too-many-setups": "More than ten setups cannot be compared at once.",
};

/** What each of those that cannot be told apart costs, where that was measured and differs. */
function costWords(rows: readonly SetupRow[], ids: readonly string[]): string {
  const costs = ids.flatMap((id) => {
    const row = rows.find((r) => r.setup.id === id);
    if (row === undefined) return [];
    const taken = row.cropFactor === null ? 0 : Math.round(100 * (1 - fieldLeft(row.cropFactor)));
    return taken >= 2 ? [`${ids.length === 1 ? "it" : row.setup.name} takes ${taken} % of the field`] : [];
  });
  return costs.length === 0 ? "" : `; ${listWords(costs)}`;
}

/** On which walk that was, and what the day did. */
export function walkWords(plan: WalkPlan, day: string, { day: allowed, columns, shuffled }: MoveComparison): string {
  const who = plan.walker === "" ? "whoever walked" : plan.walker;
  const trend = columns.shake.ok ? columns.shake.trend : null;
  const drift =
    trend === null || !trend.clear
      ? ""
      : `shake ${trend.log > 0 ? "grew" : "fell"} by about ${Math.round(100 * Math.abs(Math.exp(trend.log) - 1))} % over the day, allowed for`;
  const order = shuffled ? "" : "not walked in mixed order: day and setup cannot be separated; the width assumes at most about 10 % a day";
  return [`on this walk (${who}, ${day}), 90 % sure of all pairs together`, DAY[allowed], drift, order].filter((w) => w !== "").join(" · ");
}
const DAY: Readonly<Record<MoveComparison["day"], string>> = {
  "allowed for": "",
  "too few takes": "a change over the day could not be allowed for: too few takes",
  "control not at both ends": "a change over the day could not be allowed for: the control was not walked first and last",
  "order not known": "a change over the day could not be allowed for: some takes were walked without the card",
};

const COLUMN_WORDS: Readonly<Record<Column, string>> = {
  shake: "shake",
  roll: "roll",
  drift: "drift and swing",
  softness: "softness of edges",
};
export const columnWords = (c: Column): string => COLUMN_WORDS[c];

/** What can be said of a pair, from the one with the smaller point. */
export function pairWords(given: SetupPair, name: (id: string) => string, c: Comparison): string {
  const p = given.log <= 0 ? given : (pairFrom(c, given.b, given.a) ?? given);
  const [a, b] = [capital(name(p.a)), name(p.b)];
  if (p.toldApart) return `${a} shakes ${steadierWords(p)} less than ${b}${p.sameWithin10 ? ", and by less than 10 %" : ""}.`;
  if (p.sameWithin10) return `${a} and ${b}: the same within 10 %.`;
  const more =
    p.moreTakes === "many"
      ? "more than a dozen takes more of each would be needed"
      : `${p.moreTakes ?? 1} more ${p.moreTakes === 1 ? "take" : "takes"} of each would tell, if the difference is what it looks like`;
  return `${a} and ${b} cannot be told apart yet: ${more}.`;
}

/** What needs saying of a setup's takes. */
export function takesWords(c: Comparison, id: string, takeNumbers: readonly number[]): string[] {
  const s = c.setups.find((x) => x.id === id);
  if (s === undefined) return [];
  return [
    ...s.badTakes.map((j) => `take ${takeNumbers[j] ?? j + 1} stands apart: look at it; it widens the interval and counts little`),
    ...(s.oneOfTwo ? ["its two takes disagree: one of them is likely a bad one"] : []),
    ...(s.scatterBorrowed ? ["one take: its interval borrows the scatter of the others"] : []),
  ];
}

const wholeWords = (n: number): string => (n < 0 ? `−${-n}` : String(n + 0));
const CROSSED: Readonly<Record<NonNullable<MoveCrossing["footfalls"]>["says"], string>> = {
  "slow shutter": "the slow shutter softens, sharpening is not seen to",
  "sharpening recovering": "sharpening softens while it recovers, the shutter is not seen to",
  "both, each by itself": "both soften, each by itself",
  "both, only together": "slow shutter and sharpening soften only together",
  "not separated": "which of the two softens cannot be told from these takes",
};
/** Which of two softens after footfalls, and by how much. */
export function crossingWords({ footfalls, softness, slowSec, fastSec }: MoveCrossing): string[] {
  const where = `${shutterWords(slowSec)} against ${shutterWords(fastSec)}, sharpening off against on`;
  const of = (e: { low: number; high: number }): string =>
    `${wholeWords(Math.floor(100 * e.low))} to ${wholeWords(Math.ceil(100 * e.high))}`;
  const more = (f: NonNullable<typeof footfalls>): string =>
    `soft footfalls more in 100: shutter ${of(f.shutter)}, sharpening ${of(f.sharpening)}, both beyond each ${of(f.interaction)}`;
  return [
    ...(footfalls === null ? [] : [`Soft footfalls, ${where}: ${CROSSED[footfalls.says]} (${more(footfalls)}).`]),
    ...(softness === null ? [] : [`Softness of edges, ${where}: ${CROSSED[softness.says]}.`]),
  ];
}

/** What a take that stands apart does to its setup, so that the tester can decide about it. */
export function withoutWords(w: MoveComparison["without"][number], rows: readonly SetupRow[]): string {
  const row = rows.find((r) => r.setup.id === w.id);
  const numbers = (row?.takes ?? []).filter((t) => w.takeIds.includes(t.take.id)).map((t) => String(t.take.n));
  const takes = `${numbers.length === 1 ? "take" : "takes"} ${listWords(numbers)}`;
  return `Without ${takes} of ${nameIn(rows, w.id)}: ${percentWords(w.point)} % (${intervalWords(w.low90, w.high90)} %). It counts until you leave it out on its page.`;
}

/** Why a take does not count, and whether its numbers could be known when that was said. @param whole all numbers could be read */
export function leftOutWords({ take, measures }: MeasuredTake, whole: boolean): string {
  const why = take.bad === null || take.bad === "" ? "no reason said" : take.bad;
  if (measures === null) return whole ? `${why}; not measured.` : `${why}.`;
  return take.badLate
    ? `${why}; said once its clip was there, so it may have been chosen by what was measured.`
    : `${why}; said before its clip was there.`;
}

/** A setup's level with all of its takes. */
export function ifCountedWords({ setup: { id }, leftOut }: SetupRow, rows: readonly SetupRow[], counted: ComparisonResult): string | null {
  const level = counted.ok ? counted.setups.find((s) => s.id === id) : undefined;
  const some = leftOut.filter((t) => t.measures !== null).length;
  if (level === undefined || some === 0) return null;
  const head = some === 1 ? "With it counted" : `With these ${some} counted`;
  return `${head}, ${nameIn(rows, id)}: ${percentWords(level.point)} % (${intervalWords(level.low90, level.high90)} %).`;
}

/** The sentence on top as it would be with every take counted; null where it would be the same. */
export function otherLead(
  plan: WalkPlan,
  kind: MoveKind,
  rows: readonly SetupRow[],
  { columns, ifCounted }: Pick<MoveComparison, "columns" | "ifCounted">,
): string | null {
  if (ifCounted === null) return null;
  const [now, then] = [columns.shake, ifCounted].map((shake) => leadOf(plan, kind, rows, shake));
  const said = (lead: Lead | undefined): string => (lead === undefined ? "" : lead.before + lead.name + lead.after);
  return said(now) === said(then) ? null : said(then);
}

/** Each addition's gain, and where it fights. */
export function additionWords(a: MoveComparison["additions"][number], name: (id: string) => string, controlId: string | null): string {
  const [low, high] = [1 - Math.exp(-a.gain.low), 1 - Math.exp(-a.gain.high)];
  const gain =
    a.gain.low > 0
      ? `takes off ${Math.floor(100 * low)} to ${Math.ceil(100 * high)} %`
      : a.gain.high < 0
        ? `adds ${Math.floor(100 * (Math.exp(-a.gain.high) - 1))} to ${Math.ceil(100 * (Math.exp(-a.gain.low) - 1))} %`
        : "cannot be told from nothing";
  const worse = `${listWords(a.worse.map(columnWords))} ${a.worse.length === 1 ? "gets" : "get"} worse`;
  // A first help has nothing to fight with: then it is its price.
  const price = a.worse.length === 0 ? "" : a.before === controlId ? `; ${worse}` : `; they fight: ${worse}`;
  return `${capital(name(a.before))} → ${name(a.after)}: ${gain}${price}.`;
}

/** "3 of 10 soft in these takes; 12 to 55 in 100 expected"; of one take counts alone. */
export function footfallWords(f: MoveComparison["footfalls"]["levels"][number], name: string): string {
  const counts = `${capital(name)}: ${f.soft} of ${f.of} steps soft in ${f.takes === 1 ? "one take" : "these takes"}`;
  if (f.low90 === null || f.high90 === null) return `${counts}.`;
  return `${counts}; ${Math.floor(100 * f.low90)} to ${Math.ceil(100 * f.high90)} in 100 expected.`;
}
