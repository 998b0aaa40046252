// Pasted or loaded text into rows of the notebook: tabs or commas, with headings of one's own or none.

import type { Column, NotebookRow } from "@keep-rolling/core/notebook";
import { COLUMNS, emptyRow, HEADINGS, looksLikeHeadings, matchHeadings } from "@keep-rolling/core/notebook";
import Papa from "papaparse";

export type Matching = Record<Column, number | null>;
export interface Loaded {
  heads: string[] | null;
  lines: string[][];
  matching: Matching;
  /** Lines beyond the most a sheet takes. */
  dropped: number;
}

/** More lines than these are not a notebook. */
export const MOST_ROWS = 500;

/**
 * Null: nothing in it. What is pasted has tabs or is one column ("1,5 h" is no two); of a file the separator is found. Without headings the
 * columns are ours from `from` on.
 */
export function loadTable(text: string, from: Column = "date", pasted = false): Loaded | null {
  const { data } = Papa.parse<string[]>(text.replace(/^\uFEFF/, ""), {
    skipEmptyLines: "greedy",
    ...(pasted || text.includes("\t") ? { delimiter: "\t" } : {}),
  });
  const [first] = data;
  if (first === undefined) return null;
  if (looksLikeHeadings(first))
    return {
      heads: first,
      lines: data.slice(1, MOST_ROWS + 1),
      matching: matchHeadings(first),
      dropped: Math.max(0, data.length - 1 - MOST_ROWS),
    };
  const start = COLUMNS.indexOf(from);
  const matching = Object.fromEntries(COLUMNS.map((c, i) => [c, i >= start && i - start < first.length ? i - start : null])) as Matching;
  return { heads: null, lines: data.slice(0, MOST_ROWS), matching, dropped: Math.max(0, data.length - MOST_ROWS) };
}

/** Rows with the matched columns filled in; what else stands in `before` stays. */
export const filledRows = ({ lines }: Loaded, matching: Matching, before: readonly NotebookRow[]): NotebookRow[] =>
  lines.map((cells, i) => {
    const row = { ...emptyRow(), ...before[i] };
    for (const column of COLUMNS) {
      const index = matching[column];
      if (index !== null) row[column] = (cells[index] ?? "").trim();
    }
    return row;
  });

/** Our own headings need no asking. */
export const isOurs = (heads: readonly string[]): boolean =>
  heads.length === COLUMNS.length && COLUMNS.every((c, i) => heads[i]?.trim() === HEADINGS[c]);

const MOST_BYTES = 5_000_000;

/** A file's text by its mark, else UTF-8, else the old western code; null: too large to be a notebook. */
export async function textOf(file: File): Promise<string | null> {
  if (file.size > MOST_BYTES) return null;
  const bytes = new Uint8Array(await file.arrayBuffer());
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return new TextDecoder("utf-16le").decode(bytes);
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return new TextDecoder("utf-16be").decode(bytes);
  try {
    return new TextDecoder("utf-8", { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder("windows-1252").decode(bytes);
  }
}

/** Headings and two rows that show what may be written. */
export const template = (unit: string, firmware: string, mode: string, condition: string, day: string): string =>
  Papa.unparse([
    COLUMNS.map((c) => HEADINGS[c]),
    [`${day} 10:00`, unit, mode, condition, "21", "cold", "52", "1:07:30", "heat", "31 min for 40 s off", "", firmware, ""],
    ["", "", "", "", "", "45 min", "", "22 min", "heat", "", "came back", "", "yes"],
  ]);
