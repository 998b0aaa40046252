// Pasted or loaded text into rows of the notebook: tabs or commas, with headings of one's own or none.

import type { Column, NotebookRow } from "@keep-rolling/core/notebook";
import { COLUMNS, emptyRow, HEADINGS, looksLikeHeadings, matchHeadings } from "@keep-rolling/core/notebook";
import Papa from "papaparse";

export type Matching = Record<Column, number | null>;
export interface Loaded {
  heads: string[] | null;
  lines: string[][];
  matching: Matching;
}

/** More lines than these are not a notebook. */
export const MOST_ROWS = 500;

/** Null: nothing in it. The separator is found; without headings the columns are ours from `from` on. */
export function loadTable(text: string, from: Column = "date"): Loaded | null {
  const { data } = Papa.parse<string[]>(text.replace(/^\uFEFF/, ""), {
    skipEmptyLines: "greedy",
    ...(text.includes("\t") ? { delimiter: "\t" } : {}),
  });
  const [first] = data;
  if (first === undefined) return null;
  if (looksLikeHeadings(first)) return { heads: first, lines: data.slice(1, MOST_ROWS + 1), matching: matchHeadings(first) };
  const start = COLUMNS.indexOf(from);
  const matching = Object.fromEntries(COLUMNS.map((c, i) => [c, i >= start && i - start < first.length ? i - start : null])) as Matching;
  return { heads: null, lines: data.slice(0, MOST_ROWS), matching };
}

export const rowsOf = ({ lines }: Loaded, matching: Matching): NotebookRow[] =>
  lines.map((cells) => {
    const row = emptyRow();
    for (const column of COLUMNS) {
      const index = matching[column];
      if (index !== null) row[column] = (cells[index] ?? "").trim();
    }
    return row;
  });

/** Headings and two rows that show what may be written. */
export const template = (unit: string, mode: string, condition: string, day: string): string =>
  Papa.unparse([
    COLUMNS.map((c) => HEADINGS[c]),
    [`${day} 10:00`, unit, mode, condition, "21", "cold", "52", "1:07:30", "heat", "31 min for 40 s off", "", "", ""],
    ["", "", "", "", "", "45 min", "", "22 min", "heat", "", "came back", "", "yes"],
  ]);
