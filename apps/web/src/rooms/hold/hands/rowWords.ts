// Rows of the table of hands in words.

import type { HandsRow } from "@keep-rolling/core/holds";
import type { Gain } from "@keep-rolling/core/statistics";
import { claimWords, shareWords, slowerWords } from "../words.ts";

export const rowName = ({ lensName, focalMm, stance, by }: HandsRow): string =>
  `${lensName} at ${focalMm} mm, ${stance}, ${by === "" ? "hands not said" : by}`;

/** What a row stands for where it is not 8 of 10, said at once on the card; empty where it is. */
export const askedWords = ({ share, use }: Pick<HandsRow, "share" | "use">): string =>
  [...(use === null ? [] : [`pictures, ${use}`]), ...(share === 0.8 ? [] : [`${shareWords(share)} kept`])].join("; ");

/** Only what was judged alike is put together, of one body and one pair of hands; those that nobody named stand alone. */
export const groupKey = ({ by, unitId, stance, sessionIds, ...asked }: HandsRow): string =>
  JSON.stringify([by.trim().toUpperCase(), unitId, stance, askedWords(asked), by.trim() === "" || unitId === null ? sessionIds : ""]);
export const groupWords = (r: HandsRow, body: string): string =>
  [
    r.by === "" ? "hands not said" : r.by,
    r.stance,
    body,
    askedWords(r),
    ...(r.by.trim() === "" || r.unitId === null ? [`${r.lensName} at ${r.focalMm} mm`] : []),
  ]
    .filter((w) => w !== "")
    .join(", ");

/** One line of the pocket card. @param body empty where all its rows are of one */
export const pocketName = ({ lensName, focalMm, stance, by }: HandsRow, body: string): string =>
  [`${lensName} at ${focalMm}`, stance, by, body].filter((w) => w !== "").join(", ");

/** What is to be known of the shots behind a row. */
export function rowNotes({ unsaid, inView }: Pick<HandsRow, "unsaid" | "inView">): string[] {
  return [
    ...(unsaid === 0 ? [] : [`${unsaid} ${unsaid === 1 ? "picture says" : "pictures say"} neither off nor on: left out`]),
    ...(inView === 0 ? [] : [`${inView} ${inView === 1 ? "grade" : "grades"} not blind`]),
  ];
}

/** Outward to a tenth of a stop. */
const out = (low: number, high: number): string => `${(Math.floor(10 * low) / 10).toFixed(1)} to ${(Math.ceil(10 * high) / 10).toFixed(1)}`;

/** How much slower the first may be than the second. */
export function apartWords(one: string, other: string, gain: Gain): string {
  if (!gain.ok)
    return gain.reason === "too-few-sessions"
      ? "One test each, or three and more each, can be compared; two lie between."
      : "Nothing can be told: one of them has no limit that can be read.";
  const { low, high } = gain;
  const days = "They were not shot together: what two days differ by is allowed for.";
  if (low !== null && low > 0 && high !== null) return `${one} may be slower than ${other} by ${out(low, high)} stops. ${days}`;
  if (high !== null && high < 0 && low !== null) return `${other} may be slower than ${one} by ${out(-high, -low)} stops. ${days}`;
  if (low !== null && low > 0)
    return `${one} may be slower than ${other}, by at least ${(Math.floor(10 * low) / 10).toFixed(1)} stops. ${days}`;
  if (high !== null && high < 0)
    return `${other} may be slower than ${one}, by at least ${(Math.floor(-10 * high) / 10).toFixed(1)} stops. ${days}`;
  const range = low !== null && high !== null ? `: by ${out(low, high)} stops` : "";
  return `Which of the two may be slower cannot be told yet${range}. ${days}`;
}

export const untestedWords = ({ low, high, from }: { low: number; high: number; from: number }): string =>
  `An estimate from ${from} tested ${from === 1 ? "lens" : "lenses"}, not a measurement: the limit lies somewhere between ${claimWords(low)} and ${slowerWords(high)}. Begin a test there; work no slower than ${claimWords(low)} until then.`;
