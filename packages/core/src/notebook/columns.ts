// The columns of a notebook of runs, and how the headings of somebody's own table are matched to them.

export const COLUMNS = [
  "date",
  "unit",
  "mode",
  "condition",
  "ambient",
  "start",
  "warning",
  "recorded",
  "end",
  "gaps",
  "note",
  "firmware",
  "recovery",
] as const;
export type Column = (typeof COLUMNS)[number];
/** One row as written, by column. */
export type NotebookRow = Readonly<Record<Column, string>>;

export const HEADINGS: Readonly<Record<Column, string>> = {
  date: "Date and time",
  unit: "Unit",
  mode: "Mode",
  condition: "Condition",
  ambient: "Ambient",
  start: "Start or rest",
  warning: "Time to warning",
  recorded: "Recorded time",
  end: "Ended by",
  gaps: "Gaps",
  note: "Note",
  firmware: "Firmware",
  recovery: "Recovery of the row above",
};

/** What people write above such columns; the longer match counts. */
const ALSO: Readonly<Record<Column, readonly string[]>> = {
  date: ["date", "day", "when", "started", "start time", "begin"],
  unit: ["unit", "body", "camera", "cam"],
  mode: ["mode", "recording mode", "format", "resolution"],
  condition: ["condition", "place", "where", "location", "surroundings"],
  ambient: ["ambient", "temp", "temperature", "air"],
  start: ["start", "start state", "rest", "cold", "state"],
  warning: ["warning", "first warning", "warn", "time to warning"],
  recorded: ["recorded", "recorded time", "runtime", "run time", "duration", "time", "lasted", "length"],
  end: ["end", "ended by", "end cause", "cause", "stopped by", "result"],
  gaps: ["gaps", "gap", "pauses", "breaks"],
  note: ["note", "notes", "remark", "remarks", "comment", "comments"],
  firmware: ["firmware", "fw", "version"],
  recovery: ["recovery", "recovery of", "follows", "recovery of the row above"],
};

const plain = (text: string): string =>
  text
    .toLowerCase()
    .replace(/\(.*?\)/g, "")
    .replace(/[^a-z ]/g, " ")
    .replace(/ +/g, " ")
    .trim();

/** Index of the heading for each column; null where none fits. No heading serves two columns. */
export function matchHeadings(heads: readonly string[]): Record<Column, number | null> {
  const scored = COLUMNS.flatMap((column) =>
    heads.map((head, index) => ({ column, index, score: scoreOf(plain(head), [plain(HEADINGS[column]), ...ALSO[column]]) })),
  )
    .filter((s) => s.score > 0)
    .sort((a, b) => b.score - a.score);
  const taken = Object.fromEntries(COLUMNS.map((c) => [c, null])) as Record<Column, number | null>;
  for (const { column, index } of scored) {
    if (taken[column] === null && !Object.values(taken).includes(index)) taken[column] = index;
  }
  return taken;
}

/** The whole heading before a part of it, a longer word before a shorter. */
function scoreOf(head: string, names: readonly string[]): number {
  const whole = names.filter((n) => n === head).map((n) => 1000 + n.length);
  const part = names.filter((n) => ` ${head} `.includes(` ${n} `)).map((n) => n.length);
  return Math.max(0, ...whole, ...part);
}

/** Whether a first line is headings: two of its cells name columns as a whole, and none of them is a figure. */
export const looksLikeHeadings = (cells: readonly string[]): boolean =>
  !cells.some((c) => /^\s*\d/.test(c)) && Object.values(matchHeadings(cells)).filter((i) => i !== null).length >= 2;

export const emptyRow = (): Record<Column, string> => Object.fromEntries(COLUMNS.map((c) => [c, ""])) as Record<Column, string>;
