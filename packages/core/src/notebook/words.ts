// Single cells of a notebook read: start state or rest, end cause, gaps, yes or no. What cannot be read is null, never a guess.

import type { EndCause, GapPower } from "../runs/index.ts";
import { END_CAUSES, endWords } from "../runs/index.ts";
import { parseDuration } from "../format/index.ts";

export type StartRead = { state: "cold" | "warm" | "unknown"; restMs: number | null };

/** "cold", "warm", "?", or the rest before it: "45", "45 min", "1.5 h". Empty: not known. */
export function readStart(text: string): StartRead | null {
  const word = text.trim().toLowerCase();
  if (word === "" || word === "?" || word === "unknown" || word === "not known") return { state: "unknown", restMs: null };
  if (["cold", "c", "cooled", "fully cooled"].includes(word)) return { state: "cold", restMs: null };
  if (["warm", "w", "hot"].includes(word)) return { state: "warm", restMs: null };
  const rest = parseDuration(word.replace(/^rest(ed)?( of)?\s*/, "").replace(/\s*rest(ed)?$/, ""));
  return rest.ok ? { state: "unknown", restMs: rest.ms } : null;
}

const ENDS: readonly (readonly [EndCause, RegExp])[] = [
  ["thermal shutdown", /heat|hot|thermal|temp|shut ?down|^x$/],
  ["battery empty", /batt|power ran|empty/],
  ["card full", /card|media|memory/],
  ["recorder full", /recorder full/],
  ["cable or recorder fault", /cable|signal|fault|recorder/],
  ["clip limit", /limit|clip|29:59|30 min/],
  ["tester stopped", /stop|tester|manual|by hand|me$/],
  ["unknown", /^\?$|unknown|not (said|known)/],
  ["other", /^other$/],
];

/** Empty: not said. */
export function readEnd(text: string): EndCause | null {
  const word = text.trim().toLowerCase();
  if (word === "") return "unknown";
  return END_CAUSES.find((c) => c === word || endWords(c) === word) ?? ENDS.find(([, words]) => words.test(word))?.[0] ?? null;
}

export interface NotedGap {
  /** Recorded time when it stopped, ms. */
  afterMs: number;
  longMs: number;
  power: GapPower;
}

/** "31 min for 40 s off; 45:00 for 1 min on". Without a word: powered off, the stricter reading. Null: cannot be read. */
export function readGaps(text: string): NotedGap[] | null {
  const parts = text
    .split(/[;\n]/)
    .map((p) => p.trim())
    .filter((p) => p !== "" && p !== "-" && p.toLowerCase() !== "none");
  const read = parts.map((part): NotedGap | null => {
    const match = /^(?:at |after )?(.+?) (?:for|x|×) (.+?)(?:,? (on|off|powered off|body on))?$/i.exec(part);
    if (match === null) return null;
    const [after, long] = [parseDuration(match[1] ?? "", "m:ss"), parseDuration(match[2] ?? "", "m:ss")];
    if (!after.ok || !long.ok || long.ms <= 0) return null;
    return { afterMs: after.ms, longMs: long.ms, power: /on$/i.test(match[3] ?? "off") ? "on" : "off" };
  });
  return read.every((g) => g !== null) ? read.sort((a, b) => a.afterMs - b.afterMs) : null;
}

/** Null: neither yes nor no. */
export function readYes(text: string): boolean | null {
  const word = text.trim().toLowerCase();
  if (["", "no", "n", "-", "0"].includes(word)) return false;
  return ["yes", "y", "x", "1", "true", "recovery", "above"].includes(word) ? true : null;
}

/** A temperature in the unit the tester chose; "-" is not recorded, empty is said by the row above. */
export function readDegrees(text: string): number | "not recorded" | "as above" | null {
  const word = text.trim().toLowerCase().replace("−", "-");
  if (word === "") return "as above";
  if (word === "-" || word === "?") return "not recorded";
  const match = /^(-?\d+(?:[.,]\d+)?)\s*(?:°|°?c|°?f)?$/.exec(word);
  return match === null ? null : Number((match[1] ?? "").replace(",", "."));
}
