// A notebook of runs, row by row: what each says, or why it cannot be taken. Nothing is stored here and nothing guessed: a name nobody
// knows, a time that cannot be, a run that overlaps another of its body are named at their column.

import type { TemperatureUnit } from "../format/index.ts";
import { echoDuration, parseDuration } from "../format/index.ts";
import type { EndCause } from "../runs/index.ts";
import { endWords } from "../runs/index.ts";
import type { Column, NotebookRow } from "./columns.ts";
import { COLUMNS } from "./columns.ts";
import { calendarOf, msOf, parseMoment, writeMoment } from "./moment.ts";
import type { NotedGap, StartRead } from "./words.ts";
import { readDegrees, readEnd, readGaps, readStart, readWarning, readYes } from "./words.ts";

export interface Known {
  units: readonly { id: string; name: string; modelId: string; firmware: string }[];
  modes: readonly { id: string; name: string; modelId: string }[];
  conditions: readonly { id: string; name: string }[];
  /** Runs on record, powered spans by unit. */
  others: readonly { unitId: string; fromMs: number; toMs: number }[];
  nowMs: number;
  /** The clock reads UTC. */
  utc: boolean;
  unit: TemperatureUnit;
}

export interface NotedRun {
  unitId: string;
  firmware: string;
  modeId: string;
  conditionId: string;
  /** °C; null: not recorded. `carried`: by the row above. */
  ambientC: number | null;
  carried: boolean;
  start: StartRead;
  startMs: number;
  /** The time of day was written; else the run is placed after the one above. */
  timeSaid: boolean;
  /** Recorded ms; null: nothing is known of a warning. */
  warningMs: number | null;
  /** The notes say that there was none. */
  noWarning: boolean;
  recordedMs: number;
  elapsedMs: number;
  gaps: NotedGap[];
  end: EndCause;
  note: string;
  /** Index of the row it recovers from. */
  follows: number | null;
}
export interface RowTrouble {
  column: Column;
  message: string;
}
export type ReadRow =
  | { what: "empty" }
  | { what: "run"; run: NotedRun; echo: string }
  | { what: "trouble"; troubles: RowTrouble[]; unknown: { mode?: string; condition?: string } };

/** Said by the row above where left empty. */
const CARRIED: readonly Column[] = ["unit", "mode", "condition", "firmware"];
export const carries = (column: Column): boolean => CARRIED.includes(column) || column === "date" || column === "ambient";

const WRITE = "Give the time, e.g. 40 min.";
/** As many characters as a note and a firmware may have on record. */
const LONGEST_NOTE = 3900;
const LONGEST_FIRMWARE = 40;
/** Rest and times written side by side may differ by their rounding. */
const SLACK_MS = 5 * 60_000;
export const FIRMWARE_NOT_KNOWN = "not known";

export function readSheet(rows: readonly NotebookRow[], known: Known): ReadRow[] {
  const read: ReadRow[] = [];
  let above = null as { filled: NotebookRow; run: NotedRun | null; index: number } | null;
  const spans = [...known.others];
  for (const [index, row] of rows.entries()) {
    if (COLUMNS.every((c) => row[c].trim() === "")) {
      read.push({ what: "empty" });
      continue;
    }
    const filled = Object.fromEntries(
      COLUMNS.map((c) => [c, row[c].trim() === "" && CARRIED.includes(c) ? (above?.filled[c] ?? "") : row[c].trim()]),
    ) as Record<Column, string>;
    // Another body's firmware is no word about this one's.
    if (row.firmware.trim() === "" && filled.unit.toLowerCase() !== above?.filled.unit.toLowerCase()) filled.firmware = "";
    const result = readRow(filled, above?.run ?? null, above?.index ?? null, { ...known, others: spans });
    read.push(result);
    const run = result.what === "run" ? result.run : null;
    if (run !== null) spans.push({ unitId: run.unitId, fromMs: run.startMs, toMs: run.startMs + run.elapsedMs });
    above = { filled, run: run ?? above?.run ?? null, index: run === null ? (above?.index ?? index) : index };
  }
  return read;
}

function readRow(row: NotebookRow, above: NotedRun | null, aboveIndex: number | null, known: Known): ReadRow {
  const troubles: RowTrouble[] = [];
  const unknown: { mode?: string; condition?: string } = {};
  const trouble = (column: Column, message: string): null => {
    troubles.push({ column, message });
    return null;
  };
  const same = (a: string, b: string): boolean => a.trim().toLowerCase() === b.trim().toLowerCase();
  const unit =
    known.units.find((u) => same(u.name, row.unit)) ?? trouble("unit", row.unit === "" ? "Which body?" : `No body is called ${row.unit}.`);
  const mode = known.modes.find((m) => same(m.name, row.mode) && (unit === null || m.modelId === unit.modelId));
  if (mode === undefined) {
    if (row.mode !== "" && unit !== null) unknown.mode = row.mode;
    trouble("mode", row.mode === "" ? "Which recording mode?" : `This body has no mode called ${row.mode}.`);
  }
  const condition = known.conditions.find((c) => same(c.name, row.condition));
  if (condition === undefined) {
    if (row.condition !== "") unknown.condition = row.condition;
    trouble("condition", row.condition === "" ? "In which condition?" : `No condition is called ${row.condition}.`);
  }
  const degrees =
    readDegrees(row.ambient, known.unit) ?? trouble("ambient", "A temperature, - for not recorded, or empty for the one above.");
  const start = readStart(row.start) ?? trouble("start", "cold, warm, ? or the rest before it, e.g. 45 min.");
  const end = readEnd(row.end) ?? trouble("end", "heat, battery, card, limit, stopped, or empty.");
  const gaps = readGaps(row.gaps) ?? trouble("gaps", "e.g. 31 min for 40 s off; 45 min for 1 min on.");
  const follows = readYes(row.recovery) ?? trouble("recovery", "yes, or empty.");
  const recorded = parseDuration(row.recorded);
  const recordedMs = recorded.ok && recorded.ms > 0 ? recorded.ms : trouble("recorded", recorded.ok ? "Longer than nothing." : WRITE);
  const warned = readWarning(row.warning) ?? trouble("warning", `${WRITE} Or none, if you watched and none came.`);
  const warningMs = warned?.ms ?? null;
  if (row.firmware === "")
    trouble("firmware", `Which firmware ran then? A dash if nobody knows${unit === null ? "" : `; it runs ${unit.firmware} now`}.`);
  if (row.firmware.length > LONGEST_FIRMWARE) trouble("firmware", `At most ${LONGEST_FIRMWARE} characters.`);
  if (row.note.length > LONGEST_NOTE) trouble("note", `At most ${LONGEST_NOTE} characters.`);
  if (recordedMs !== null && warningMs !== null && warningMs > recordedMs) trouble("warning", "The warning came after it had ended.");
  if (recordedMs !== null && gaps?.some((g) => g.afterMs <= 0 || g.afterMs >= recordedMs))
    trouble("gaps", "A gap lies within the recorded time.");
  if (follows === true && above === null) trouble("recovery", "There is no run above it.");
  if (follows === true && above !== null && unit !== null && above.unitId !== unit.id)
    trouble("recovery", "The run above is another body's.");
  const elapsedMs = (recordedMs ?? 0) + (gaps ?? []).reduce((sum, g) => sum + g.longMs, 0);
  const placed = placeOf(row.date, above, unit?.id ?? "", start?.restMs ?? null, known);
  if (placed === "which time")
    trouble("date", "Give the time of day, or the rest before it: the run above is the same body's, on the same day.");
  if (placed === null)
    trouble("date", row.date === "" ? "On which day?" : "Write the day as 4 Jun 2026 or 2026-06-04, with the time of day if you know it.");
  const startMs = placed === null || placed === "which time" ? 0 : placed.startMs;
  if (placed !== null && placed !== "which time" && recordedMs !== null && unit !== null) {
    const endMs = startMs + elapsedMs;
    if (endMs > known.nowMs) trouble("date", "It would end in the future.");
    else if (known.others.some((o) => o.unitId === unit.id && o.fromMs < endMs && startMs < o.toMs))
      trouble("date", "Another run of this body overlaps it.");
  }
  const restMs = above === null || above.unitId !== unit?.id ? null : startMs - above.startMs - above.elapsedMs;
  if (follows === true && start?.restMs != null && restMs !== null && placed !== null && Math.abs(restMs - start.restMs) > SLACK_MS)
    trouble("start", `By the times it rested ${restMs < 0 ? "not at all" : echoDuration(restMs)}.`);
  const ambientC = ambientOf(degrees, above);
  if (ambientC.valueC !== null && (ambientC.valueC < -40 || ambientC.valueC > 70)) trouble("ambient", "−40 to 70 °C.");
  if (
    troubles.length > 0 ||
    unit === null ||
    mode === undefined ||
    condition === undefined ||
    start === null ||
    end === null ||
    gaps === null ||
    recordedMs === null ||
    placed === null ||
    placed === "which time"
  )
    return { what: "trouble", troubles, unknown };
  const run: NotedRun = {
    unitId: unit.id,
    firmware: ["-", "?"].includes(row.firmware) ? FIRMWARE_NOT_KNOWN : row.firmware,
    modeId: mode.id,
    conditionId: condition.id,
    ambientC: ambientC.valueC,
    carried: ambientC.carried,
    start: follows === true && start.state === "unknown" && start.restMs === null && restMs !== null ? { state: "unknown", restMs } : start,
    startMs,
    timeSaid: placed.timeSaid,
    warningMs,
    noWarning: warned?.none ?? false,
    recordedMs,
    elapsedMs,
    gaps,
    end,
    note: row.note,
    follows: follows === true ? aboveIndex : null,
  };
  return { what: "run", run, echo: echoOf(run, known.utc) };
}

function ambientOf(degrees: ReturnType<typeof readDegrees>, above: NotedRun | null): { valueC: number | null; carried: boolean } {
  if (degrees === "as above") return { valueC: above?.ambientC ?? null, carried: true };
  if (degrees === "not recorded" || degrees === null) return { valueC: null, carried: false };
  return { valueC: degrees, carried: false };
}

/** A day without a time of day: at noon; on the day of the run above, of the same body, after its rest, and nowhere without one. */
function placeOf(
  text: string,
  above: NotedRun | null,
  unitId: string,
  restMs: number | null,
  known: Known,
): { startMs: number; timeSaid: boolean } | "which time" | null {
  const yearNow = calendarOf(known.nowMs, known.utc).year;
  const moment = text === "" ? ({ ok: true, date: null, time: null } as const) : parseMoment(text, yearNow);
  if (!moment.ok) return null;
  const date = moment.date ?? (above === null ? null : calendarOf(above.startMs, known.utc));
  if (date === null) return null;
  if (moment.time !== null) return { startMs: msOf(date, moment.time, known.utc), timeSaid: true };
  const noonMs = msOf(date, { hour: 12, minute: 0, second: 0 }, known.utc);
  const sameDay = above !== null && JSON.stringify(calendarOf(above.startMs, known.utc)) === JSON.stringify(date);
  if (!sameDay || above.unitId !== unitId) return { startMs: noonMs, timeSaid: false };
  return restMs === null ? "which time" : { startMs: above.startMs + above.elapsedMs + restMs, timeSaid: false };
}

function echoOf(run: NotedRun, utc: boolean): string {
  const parts = [
    writeMoment(run.startMs, utc, run.timeSaid),
    `${echoDuration(run.recordedMs)} recorded`,
    run.noWarning ? "no warning noted" : run.warningMs === null ? null : `warning after ${echoDuration(run.warningMs)}`,
    ...run.gaps.map(
      (g) => `gap at ${echoDuration(g.afterMs)} for ${echoDuration(g.longMs)}, ${g.power === "on" ? "body on" : "powered off"}`,
    ),
    run.start.restMs === null ? null : `after ${echoDuration(run.start.restMs)} of rest`,
    run.end === "unknown" ? "end not said" : endWords(run.end),
    run.follows === null ? null : "recovers from the run above",
    run.timeSaid ? null : "time of day not said",
    run.firmware === FIRMWARE_NOT_KNOWN ? "firmware not known" : null,
  ];
  return parts.filter((p) => p !== null).join(" · ");
}
