// The statement in plain words. Every sentence says how many runs stand behind it and how sure one may be.

import type { Endpoint } from "../runs/index.ts";
import { formatHms, formatShareDown } from "../format/index.ts";
import type { CellStatement, Statement } from "./statement.ts";

const WHAT_ENDS: Readonly<Record<Endpoint, { event: string; nothing: string; unknown: string; after: string }>> = {
  shutdown: {
    event: "ended by heat",
    nothing: "nothing ended by heat",
    unknown: "no end by heat is known",
    after: "ended by heat after a gap",
  },
  firstWarning: {
    event: "reached a warning",
    nothing: "no warning was shown",
    unknown: "no warning is known",
    after: "reached a warning after a gap",
  },
  batteryEmpty: {
    event: "ended by an empty battery",
    nothing: "no battery ran empty",
    unknown: "no empty battery is known",
    after: "ran empty after a gap",
  },
};
/** What came of the endpoint where no unbroken run reached it: after a gap it is not nothing, and what nobody said may have been it. */
function without({ endpoint, afterGap, maybe }: CellStatement): string {
  const words = WHAT_ENDS[endpoint];
  if (afterGap > 0) return `${afterGap} ${words.after}`;
  return maybe > 0 ? words.unknown : words.nothing;
}

const runWord = (n: number): string => (n === 1 ? "1 run" : `${n} runs`);
const percent = (share: number): string => formatShareDown(share);

/** "5 runs, the shortest 0:41:10: at least 63 % of runs last longer, 90 % sure". */
export function statementSentence(s: CellStatement): string {
  const shortest = s.n === 1 ? "1 run" : `${s.n} runs, the shortest`;
  return `${shortest} ${formatHms(s.valueMs)}: at least ${percent(s.share)} of runs last longer, ${percent(s.levels.confidence)} sure`;
}

/** The answer in large type. From censored runs alone: "at least 1:52:00; nothing ended by heat". */
export function answerSentence(s: Statement): string {
  if (!s.ok) return "No run counts here yet.";
  if (s.events === 0) return `at least ${formatHms(s.valueMs)}; ${without(s)}`;
  return `at least ${formatHms(s.valueMs)} in ${runsOfTen(s.share)}`;
}

/** A share as a count a person can picture, rounded down: 0.63 is "6 of 10 runs"; below a tenth the per cent is said. */
export function runsOfTen(share: number): string {
  const tenths = Math.floor(share * 10 + 1e-9);
  return tenths === 0 ? `${percent(share)} of runs` : `${tenths} of 10 runs`;
}

/** What the counted runs are: "5 cold runs, 4 ended by heat, 1 only at least". */
export function evidenceWords(s: CellStatement): string {
  const words = WHAT_ENDS[s.endpoint];
  const parts = [`${s.n === 1 ? "1 cold run" : `${s.n} cold runs`}`];
  if (s.events > 0) parts.push(`${s.events} ${words.event}`);
  else parts.push(without(s));
  if (s.censored > 0 && s.events > 0) parts.push(`${s.censored} only "at least"`);
  return parts.join(", ");
}

/** What it takes to claim the asked share with the asked confidence. */
export function neededWords(s: Statement): string {
  if (!s.ok) return `Claiming 9 of 10 runs, 90 % sure, would need ${s.needed} runs.`;
  const claim = `${percent(s.levels.share)} of runs, ${percent(s.levels.confidence)} sure`;
  if (s.missing === 0) return `The ${runWord(s.n)} support ${claim}.`;
  const sure = `now it is ${percent(s.confidenceAtShare)} sure`;
  return `To claim ${claim}, ${s.needed} runs are needed without assuming a shape: ${s.missing} more, none shorter. For that share ${sure}.`;
}
