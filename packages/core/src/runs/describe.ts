// Marks and runs in plain words: the log line, and the sentence a screen reader gets for a strip.

import { endWords } from "./vocabulary.ts";
import type { TemperatureUnit } from "../format/index.ts";
import { formatHms, formatSpan } from "../format/index.ts";
import type { Corrigible } from "../facts/index.ts";
import type { RunFold } from "./fold.ts";
import { KINDS } from "./kinds/kinds.ts";
import type { MarkKind } from "./kinds/markKind.ts";
import type { Mark } from "./mark.ts";
import { isForeign } from "./mark.ts";
import { summarise } from "./summarise.ts";

/** One line for the log; corrections are already applied by the fold. */
export function describeMark(mark: Mark, unit: TemperatureUnit = "C"): string {
  const kind = isForeign(mark) ? undefined : (KINDS[mark.kind] as MarkKind | undefined);
  return kind === undefined ? `${mark.kind}: not understood by this version` : kind.words(mark.body, unit);
}

/** What a correction says, in words; "correction" for one that says nothing known. */
export function describeCorrection(mark: Mark, unit: TemperatureUnit = "C"): string {
  if (mark.kind !== "correction" || isForeign(mark)) return describeMark(mark, unit);
  const said = Object.entries(mark.body).filter(([, value]) => value !== undefined);
  const words = said.map(([field, value]) => (field === "atMs" ? "another time" : (fieldOf(field)?.words(value, unit) ?? "")));
  return words.filter(Boolean).join(", ") || "correction";
}

/** The field of the first kind that has it: a field of one name says one thing. */
function fieldOf(field: string): Corrigible<object, unknown> | undefined {
  const fields = Object.values(KINDS).map((kind) => (kind?.corrects as Record<string, Corrigible<object, unknown>> | undefined)?.[field]);
  return fields.find((f) => f !== undefined);
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
  else if (fold.end.cause === "thermal shutdown") parts.push(`ended by heat shutdown at ${formatHms(fold.end.loMs - fold.startMs)}`);
  else parts.push(`ended by ${fold.end.cause === "unknown" ? "a cause not said" : endWords(fold.end.cause)}, so at least this long`);
  const text = parts.join(", ");
  return `${text.charAt(0).toUpperCase()}${text.slice(1)}.`;
}
