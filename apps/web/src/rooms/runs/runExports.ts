// A run taken out: its marks as CSV, chapters for the video of the test as WebVTT (W3C) and as a list to paste. Pure text from the fold.

import type { Mark, RunFold } from "@keep-rolling/core/runs";
import { describeMark, isForeign, recordedAt } from "@keep-rolling/core/runs";
import type { TemperatureUnit } from "@keep-rolling/core/format";
import { capital, formatHms } from "@keep-rolling/core/format";
import Papa from "papaparse";

const HEAD = [
  "elapsed_s",
  "recorded_s",
  "time_utc",
  "kind",
  "what",
  "source",
  "corrected",
  "gauge",
  "ambient_C",
  "surface_C",
  "humidity_pct",
  "battery_pct",
  "countdown_s",
  "free_GB",
];

/** One line a live mark, in order of time; values of readings in columns of their own. Cells a spreadsheet would compute are quoted as text. */
export function runCsv(fold: RunFold, note: string): string {
  const startMs = fold.startMs ?? 0;
  const sec = (ms: number): number => Math.round(ms) / 1000;
  const rows = fold.effective.map((m) => [
    sec(m.atMs - startMs),
    sec(recordedAt(fold, m.atMs)),
    new Date(m.atMs).toISOString(),
    m.kind,
    describeMark(m),
    m.source,
    (fold.corrections.get(m.id) ?? 0) > 0 ? "yes" : "",
    ...readingCells(m),
  ]);
  const last = note === "" ? [] : [["", "", "", "note", note]];
  // Every line has every column: readers of CSV take a short line for a broken file.
  const whole = [...rows, ...last].map((row) => HEAD.map((_, i) => row[i] ?? ""));
  return Papa.unparse([HEAD, ...whole], { escapeFormulae: true, newline: "\r\n" });
}

function readingCells(m: Mark): (number | undefined)[] {
  if (isForeign(m) || m.kind !== "reading") return [];
  const { gauge, ambientC, shellC, humidityPct, batteryPct, countdownSec, freeGb } = m.body;
  return [gauge, ambientC, shellC, humidityPct, batteryPct, countdownSec, freeGb];
}

export interface Chapter {
  atMs: number;
  title: string;
}
export interface ChapterOptions {
  /** "elapsed": a video of the room, running through the gaps; "recorded": the run's own clips, joined. */
  scale: "elapsed" | "recorded";
  /** The video begins so long before the start mark, ms; negative: after it. */
  leadMs: number;
}

const SHOWN_KINDS: readonly string[] = ["start", "gap", "resume", "warning", "condition", "touch", "note", "end"];
/** Two marks closer than this are one chapter. */
const SHORTEST_MS = 1000;

/** Chapters in order; what lies before the video's first frame is left out, marks at one moment are joined. */
export function chaptersOf(fold: RunFold, options: ChapterOptions, unit: TemperatureUnit): Chapter[] {
  const { startMs } = fold;
  if (startMs === null) return [];
  const untilMs = fold.end?.hiMs ?? Number.POSITIVE_INFINITY;
  const shown = fold.effective.filter((m) => SHOWN_KINDS.includes(m.kind) && m.atMs >= startMs && m.atMs <= untilMs);
  const at = (m: Mark): number => options.leadMs + (options.scale === "elapsed" ? m.atMs - startMs : recordedAt(fold, m.atMs));
  return shown
    .map((m): Chapter => ({ atMs: at(m), title: titleOf(m, unit) }))
    .filter((c) => c.atMs >= 0)
    .reduce<Chapter[]>((list, c) => {
      const last = list.at(-1);
      if (last === undefined || c.atMs - last.atMs >= SHORTEST_MS) return [...list, c];
      return [...list.slice(0, -1), { ...last, title: `${last.title}; ${c.title}` }];
    }, []);
}

const titleOf = (m: Mark, unit: TemperatureUnit): string => capital(describeMark(m, unit).replaceAll(/\s+/g, " ").trim());

/** The last chapter lasts until the end of the run, at least ten seconds. */
const LAST_MS = 10_000;

/** WebVTT with one cue a chapter; players take it as a chapters track. */
export function chaptersVtt(chapters: readonly Chapter[], note: string): string {
  const cues = chapters.map((c, i) => {
    const toMs = chapters[i + 1]?.atMs ?? c.atMs + LAST_MS;
    return `${i + 1}\n${vttTime(c.atMs)} --> ${vttTime(toMs)}\n${vttText(c.title)}`;
  });
  const head = note === "" ? "WEBVTT" : `WEBVTT\n\nNOTE ${note.replaceAll("-->", "to")}`;
  return `${[head, ...cues].join("\n\n")}\n`;
}

function vttTime(ms: number): string {
  const whole = Math.max(0, Math.round(ms));
  const two = (n: number): string => String(n).padStart(2, "0");
  const sec = Math.floor(whole / 1000);
  return `${two(Math.floor(sec / 3600))}:${two(Math.floor(sec / 60) % 60)}:${two(sec % 60)}.${String(whole % 1000).padStart(3, "0")}`;
}

const vttText = (text: string): string => text.replaceAll("&", "&amp;").replaceAll("<", "&lt;").replaceAll(">", "&gt;");

/** One line a chapter, to paste under a video. The first line is at zero: places that read such lists ask for it. */
export function chapterList(chapters: readonly Chapter[]): string {
  const lines = chapters.map((c) => `${formatHms(Math.floor(c.atMs / 1000) * 1000)} ${c.title}`);
  const [first] = chapters;
  return `${[...(first !== undefined && first.atMs >= 1000 ? ["0:00:00 Before the start"] : []), ...lines].join("\n")}\n`;
}
