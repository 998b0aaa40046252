// The day as a calendar file (iCalendar, RFC 5545, by the ics package) and as CSV.

import type { Block, DayPlan, Span } from "@keep-rolling/core/planning";
import type { EventAttributes } from "ics";
import { createEvents } from "ics";
import Papa from "papaparse";
import { aheadWords, expectedWords, needsWords } from "./words.ts";

export interface ExportDay {
  dayId: string;
  name: string;
  schedule: DayPlan;
  breaks: readonly Span[];
  unitName: (unitId: string) => string;
  clockOf: (ms: number) => string;
  /** Simulated bodies are named on every export. */
  note: string;
}

type Instant = [number, number, number, number, number];
/** UTC parts down to the minute, as the calendar file writes them. */
function instant(ms: number): Instant {
  const d = new Date(ms);
  return [d.getUTCFullYear(), d.getUTCMonth() + 1, d.getUTCDate(), d.getUTCHours(), d.getUTCMinutes()];
}

const PREP_MS = 5 * 60_000;

/** One event a run, from its start to its latest expected end, and one a break; an alarm five minutes before each start. */
export function calendarFile(day: ExportDay): string {
  const utc = { startInputType: "utc", startOutputType: "utc", endInputType: "utc", endOutputType: "utc" } as const;
  const runs = day.schedule.blocks.map(
    (b): EventAttributes => ({
      ...utc,
      uid: `${day.dayId}-${b.slot ?? b.startMs}@keep-rolling`.replaceAll("#", "-"),
      productId: "keep-rolling",
      calName: day.name,
      start: instant(b.startMs),
      end: instant(Math.max(b.endHiMs, b.startMs + 60_000)),
      title: `${day.unitName(b.unitId)}: ${b.setup.mode.name}, ${b.setup.condition.name}`,
      description: runWords(day, b),
      categories: ["Keep Rolling"],
      alarms:
        b.state === "planned"
          ? [{ action: "display", description: "Prepare the next run", trigger: { before: true, minutes: PREP_MS / 60_000 } }]
          : [],
    }),
  );
  const breaks = day.breaks.map(
    (s): EventAttributes => ({
      ...utc,
      uid: `${day.dayId}-break-${s.fromMs}@keep-rolling`,
      productId: "keep-rolling",
      calName: day.name,
      start: instant(s.fromMs),
      end: instant(s.toMs),
      title: "Break: shade and water",
      categories: ["Keep Rolling"],
    }),
  );
  const made = createEvents([...runs, ...breaks]);
  if (made.error != null || made.value == null) throw new Error(made.error?.message ?? "the calendar file could not be written");
  return folded(made.value);
}

const LINE_OCTETS = 75;

/** Lines of at most 75 octets (RFC 5545, section 3.1): the package counts characters, and a letter may be two octets. */
function folded(file: string): string {
  const octets = (text: string): number => new TextEncoder().encode(text).length;
  const fold = (line: string): string => {
    const lines = [""];
    for (const letter of line) {
      if (octets(`${lines.at(-1) ?? ""}${letter}`) > LINE_OCTETS) lines.push(" ");
      lines.push(`${lines.pop() ?? ""}${letter}`);
    }
    return lines.join("\r\n");
  };
  return file
    .replaceAll(/\r\n[ \t]/g, "")
    .split("\r\n")
    .map(fold)
    .join("\r\n");
}

const runWords = (day: ExportDay, b: Block): string =>
  [
    day.note,
    `Expected ${expectedWords(b)}.`,
    aheadWords(b.ahead),
    b.needs.length === 0 ? "" : `With ${needsWords(b)}.`,
    `${b.setup.protocol.name}.`,
    ...b.flags.map((f) => f.text),
  ]
    .filter((s) => s !== "")
    .join("\n");

const HEAD = [
  "start",
  "unit",
  "mode",
  "condition",
  "protocol",
  "state",
  "expected from",
  "expected to",
  "ends by",
  "heat at start %",
  "GB",
  "Wh",
  "with",
  "flags",
];

/** One line a run, in order of time. A cell that a spreadsheet would take for a formula is quoted as text. */
export function dayCsv(day: ExportDay): string {
  const rows = day.schedule.blocks.map((b) => [
    new Date(b.startMs).toISOString(),
    day.unitName(b.unitId),
    b.setup.mode.name,
    b.setup.condition.name,
    b.setup.protocol.name,
    b.state,
    new Date(b.endLoMs).toISOString(),
    new Date(b.endHiMs).toISOString(),
    b.endKind,
    Math.ceil(b.heatAtStart * 100 - 1e-9),
    Math.ceil(b.gb),
    b.wh === null ? "" : Math.ceil(b.wh),
    needsWords(b),
    b.flags.map((f) => f.text).join(" "),
  ]);
  return Papa.unparse([HEAD, ...rows], { escapeFormulae: true, newline: "\r\n" });
}
