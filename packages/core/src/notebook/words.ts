// Single cells of a notebook read: start state or rest, end cause, gaps, yes or no. What cannot be read is null, never a guess.

import type { EndCause, GapPower } from "../runs/index.ts";
import { END_CAUSES, endWords } from "../runs/index.ts";
import type { TemperatureUnit } from "../format/index.ts";
import { celsiusFromFahrenheit, parseDuration } from "../format/index.ts";

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

/** Whole phrases only: "stopped, battery low" is neither an empty battery nor a plain stop, and is asked again. */
const ENDS: readonly (readonly [EndCause, RegExp])[] = [
  [
    "thermal shutdown",
    /^(x|heat|hot|too hot|(over)?heat(ed|ing)|thermal|temperature|temp)( shut ?down| stop| off)?$|^shut ?down( by heat)?$/,
  ],
  ["battery empty", /^(empty |flat )?batt(ery)?( empty| flat| dead| died)?$/],
  ["card full", /^(full |memory )?card( full)?$/],
  ["recorder full", /^recorder full$/],
  ["cable or recorder fault", /^(cable|signal|recorder|signal lost|fault|(cable|recorder) fault)$/],
  ["clip limit", /^(clip |time )?limit( reached)?$|^29:59$|^30 min$/],
  ["tester stopped", /^(stopped|stop|tester|manual|manually|by hand|me)( (stop|stopped|by me|by hand|by tester))?$/],
  ["unknown", /^(\?|unknown|not (said|known))$/],
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

/** °C, whatever unit is written behind it, else the tester's own; "-" is not recorded, empty is said by the row above. */
export function readDegrees(text: string, unit: TemperatureUnit): number | "not recorded" | "as above" | null {
  const word = text.trim().toLowerCase().replace("−", "-");
  if (word === "") return "as above";
  if (word === "-" || word === "?") return "not recorded";
  const match = /^(-?\d+(?:[.,]\d+)?)\s*°?\s*(c|f)?$/.exec(word);
  if (match === null) return null;
  const value = Number((match[1] ?? "").replace(",", "."));
  const isF = (match[2] ?? unit.toLowerCase()) === "f";
  return Math.round(10 * (isF ? celsiusFromFahrenheit(value) : value)) / 10;
}

/** Time to the warning; "none": that there was none is what the notes say, and is kept as a note. Null: cannot be read. */
export function readWarning(text: string): { ms: number | null; none: boolean } | null {
  const word = text.trim().toLowerCase();
  if (word === "" || word === "-" || word === "?") return { ms: null, none: false };
  if (["none", "no", "no warning", "never"].includes(word)) return { ms: null, none: true };
  const reading = parseDuration(word);
  return reading.ok ? { ms: reading.ms, none: false } : null;
}
