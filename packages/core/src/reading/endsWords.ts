// The chance to hold a time, and what ends it first, in plain words. Few ends give words with their ground, not per cent; nothing is ever certain, and what
// is unknown is named first. Order and figures: docs/methods/ends-first.md.

import type { Chance, EndCauseName, Ends, Known } from "./ends.ts";
import { CAUSES, chanceOf, completion, endsFirst, isThin, isUnknown } from "./ends.ts";
import { capital, formatHms, formatTick, listWords } from "../format/index.ts";

const NAMES: Readonly<Record<EndCauseName, string>> = { heat: "heat", battery: "the battery", card: "the card" };

export interface EndsWords {
  /** One sentence: how likely the time is held. */
  lead: string;
  /** What ends it first; null: nothing known ends it by then. */
  first: string | null;
  /** Causes of which nothing is known at this length; null: none. */
  unknown: string | null;
  /** The chance by what is known alone, where something is not; null: nothing else is known. */
  aside: string | null;
  /** What each known cause is read from. */
  ground: string;
}

/** `sec` > 0. */
export function endsWords(ends: Ends, sec: number): EndsWords {
  const time = sec % 60 === 0 ? formatTick(sec * 1000) : formatHms(sec * 1000);
  const chance = completion(ends, sec);
  const unknown = CAUSES.filter((c) => isUnknown(ends[c], sec));
  const share = endsFirst(ends, sec);
  const lead = leadOf(time, chance, ends, sec, unknown);
  const aside = unknown.length === 0 ? null : asideOf(time, ends, sec, unknown);
  return {
    lead,
    first: firstOf(share, 1 - chance.hi, ends, sec),
    unknown:
      unknown.length === 0
        ? null
        : `${capital(listWords(unknown.map((c) => NAMES[c])))} could end it before: nothing is known of ${unknown.length === 1 ? "it" : "them"} at this length.`,
    aside: aside === lead ? null : aside,
    ground: CAUSES.flatMap((c) => groundOf(ends[c], c)).join("; "),
  };
}

function asideOf(time: string, ends: Ends, sec: number, unknown: readonly EndCauseName[]): string | null {
  const rest = { ...ends };
  for (const cause of unknown) rest[cause] = { by: "cannot end it" };
  if (CAUSES.every((c) => rest[c].by === "cannot end it")) return null;
  return leadOf(time, completion(rest, sec), rest, sec, []);
}

/** True where every cause that weighs on this side of the answer stands on enough ends for numbers. */
const numbersFor = (side: "lo" | "hi", ends: Ends, sec: number): boolean =>
  CAUSES.every((c) => !isThin(ends[c], sec) || chanceOf(ends[c], sec)[side] >= SURELY);
const SURELY = 0.999;

function leadOf(time: string, { lo, hi }: Chance, ends: Ends, sec: number, unknown: readonly EndCauseName[]): string {
  const atMostNumbers = numbersFor("hi", ends, sec);
  if (hi < 0.1) return `${time} will hardly be held${atMostNumbers ? `: the chance is ${atMost(hi)}` : ""}.`;
  if (unknown.length > 0 || lo === 0) {
    if (hi > 0.9) return `No chance can be given for ${time}.`;
    return atMostNumbers
      ? `The chance to hold ${time} is at most ${up(hi)} %, perhaps far less.`
      : `${time} is at best ${verdict(hi)}, perhaps far less.`;
  }
  const numbers = numbersFor("lo", ends, sec);
  const alike = hi - lo <= 0.02 || (!numbers && verdict(lo) === verdict(hi));
  if (alike) return numbers ? `The chance to hold ${time} is ${about(lo)}.` : `${time} is ${verdict(lo)}.`;
  if (numbers) return `The chance to hold ${time} is at least ${down(lo)} %${hi >= 0.9 ? "" : mostOf(hi, atMostNumbers)}.`;
  return hi >= 0.9 ? `${time} is ${verdict(lo)}, or better.` : `${time} is ${verdict(lo)} at worst, ${verdict(hi)} at best.`;
}

const mostOf = (hi: number, numbers: boolean): string => (numbers ? ` and at most ${up(hi)} %` : `, and at best it is ${verdict(hi)}`);
const down = (p: number): number => Math.min(98, Math.floor(100 * p + 1e-9));
const up = (p: number): number => Math.max(2, Math.ceil(100 * p - 1e-9));
const atMost = (p: number): string => (p < 0.02 ? "less than 2 %" : `at most ${up(p)} %`);
const about = (p: number): string => (p > 0.98 ? "more than 98 %" : p < 0.02 ? "less than 2 %" : `about ${Math.round(100 * p)} %`);
function verdict(p: number): string {
  if (p < 0.1) return "hardly held";
  if (p < 0.3) return "unlikely to be held";
  return p <= 0.7 ? "open" : "likely held, if it scatters as cameras usually do";
}

function firstOf(share: Record<EndCauseName, number>, ending: number, ends: Ends, sec: number): string | null {
  const ranked = [...CAUSES].sort((a, b) => share[b] - share[a]);
  const whole = CAUSES.reduce((sum, c) => sum + share[c], 0);
  const [top] = ranked;
  if (top === undefined || whole < LEAST_TO_NAME) return null;
  if (share[top] >= 0.9 * whole)
    return ending > 0.5 ? `${capital(NAMES[top])} ends it first.` : `If something ends it before, it is ${NAMES[top]}.`;
  const counted = ranked.filter((c) => share[c] >= LEAST_TO_NAME);
  if (counted.some((c) => isThin(ends[c], sec)))
    return `If something ends it before, it is ${listWords(counted.map((c) => NAMES[c])).replace(" and ", " or ")}.`;
  return `Of 100 recordings ${counted.map((c) => `${NAMES[c]} ends ${Math.round(100 * share[c])}`).join(", ")}.`;
}
const LEAST_TO_NAME = 0.005;

function groundOf(known: Known, cause: EndCauseName): string[] {
  const name = NAMES[cause];
  const scatterOf = cause === "battery" ? "batteries" : "cameras";
  switch (known.by) {
    case "limit":
    case "presumed": {
      const ends = known.ends === 1 ? "one such end" : `${known.ends} such ends`;
      const also = known.outlasted === 0 ? "" : ` and ${known.outlasted} outlasted`;
      return [`${name}: ${ends}${also}${known.by === "presumed" ? `, and how much ${scatterOf} usually scatter` : ""}`];
    }
    case "outlasted":
      return [`${name}: only outlasted (${known.reachedSec.length === 1 ? "1 run" : `${known.reachedSec.length} runs`})`];
    case "size":
      return [`${name}: size`];
    case "cannot end it":
      return [`${name}: cannot end it here`];
    case "nothing":
      return [];
  }
}
