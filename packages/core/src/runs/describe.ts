// Marks and runs in plain words: the log line, and the sentence a screen reader gets for a strip.

import type { TemperatureUnit } from "../format/index.ts";
import { formatHms, formatSpan, formatTemperature } from "../format/index.ts";
import type { RunFold } from "./fold.ts";
import type { KnownMark, Mark, ReadingValues } from "./mark.ts";
import { isForeign } from "./mark.ts";
import { summarise } from "./summarise.ts";

const READING_WORDS: readonly (readonly [keyof ReadingValues, (v: number, unit: TemperatureUnit) => string])[] = [
  ["gauge", (v) => `gauge ${v}`],
  ["ambientC", (v, unit) => `ambient ${formatTemperature(v, unit)}`],
  ["humidityPct", (v) => `humidity ${v} %`],
  ["shellC", (v, unit) => `surface ${formatTemperature(v, unit)}`],
  ["batteryPct", (v) => `battery ${v} %`],
  ["countdownSec", (v) => `camera shows ${formatSpan(v * 1000)} left`],
  ["freeGb", (v) => `${v} GB free`],
];

const readingWords = (body: ReadingValues, unit: TemperatureUnit): string =>
  READING_WORDS.flatMap(([key, word]) => (body[key] === undefined ? [] : [word(body[key], unit)])).join(", ") ||
  "reading, values to follow";

/** One line for the log; corrections are already applied by the fold. */
export function describeMark(mark: Mark, unit: TemperatureUnit = "C"): string {
  return isForeign(mark) ? `${mark.kind}: not understood by this version` : describeKnown(mark, unit);
}

function describeKnown(mark: KnownMark, unit: TemperatureUnit): string {
  switch (mark.kind) {
    case "start":
      return `start, ${mark.body.startState.state === "unknown" ? "start state not known" : mark.body.startState.state}`;
    case "gap":
      return `gap: ${mark.body.cause === "unknown" ? "cause not said" : mark.body.cause}, ${mark.body.power === "on" ? "body on" : "powered off"}`;
    case "resume":
      return "recording again";
    case "split":
      return "new file, no gap";
    case "reading":
      return readingWords(mark.body, unit);
    case "touch":
      return mark.body.feel === "not said" ? "touch, not said how" : `touch: ${mark.body.feel}`;
    case "warning":
      return `warning ${mark.body.phase}${mark.body.minutesLeft === undefined ? "" : `, camera says ${mark.body.minutesLeft} min left`}`;
    case "condition":
      return [mark.body.change === "not said" ? "condition changed" : mark.body.change, mark.body.text].filter(Boolean).join(": ");
    case "end":
      return `end: ${mark.body.cause === "unknown" ? "cause not said" : mark.body.cause}${mark.body.foundOff ? ", found off" : ""}`;
    case "check":
      return `${mark.body.item}: ${mark.body.result}${mark.body.minutes === undefined ? "" : `, ${mark.body.minutes} min`}`;
    case "note":
      return mark.body.text || "note";
    case "photo":
      return mark.body.caption === undefined || mark.body.caption === "" ? "photo" : `photo: ${mark.body.caption}`;
    case "correction":
      return "correction";
    case "undo":
      return "undo";
  }
}

/** A strip as one sentence. `nowMs` matters only while the run is under way. */
export function describeRun(fold: RunFold, nowMs: number): string {
  if (fold.startMs === null) return "Not started.";
  const times = summarise(fold, nowMs);
  const parts = [`recorded ${formatHms(times.recordedMs.lo)}`];
  if (fold.gaps.length > 0)
    parts.push(`${fold.gaps.length === 1 ? "one gap" : `${fold.gaps.length} gaps`} of ${formatSpan(times.gapMs)} in all`);
  const warned = fold.warnings[0];
  if (warned !== undefined) parts.push(`first warning at ${formatHms(warned.shownMs - fold.startMs)}`);
  if (fold.state === "void") parts.push("void");
  else if (fold.end === null) parts.push(fold.state === "gap" ? "in a gap" : "still rolling");
  else if (fold.end.cause === "thermal shutdown") parts.push(`ended by thermal shutdown at ${formatHms(fold.end.loMs - fold.startMs)}`);
  else parts.push(`ended by ${fold.end.cause === "unknown" ? "a cause not said" : fold.end.cause}, so at least this long`);
  const text = parts.join(", ");
  return `${text.charAt(0).toUpperCase()}${text.slice(1)}.`;
}
