// CSV twins of the archive's tables: the same lines in columns for people and spreadsheets. The JSON lines are the truth; a twin is
// never read back.

import Papa from "papaparse";
import type { Tx } from "../../db/connection.ts";

export type Cell = string | number | boolean | null;

export interface CsvFile {
  /** Without ending. */
  name: string;
  head: readonly string[];
  rows(tx: Tx, nowMs: number, problems: string[]): AsyncIterable<readonly (readonly Cell[])[]>;
}

/** A row a line; one that cannot be written is named and leaves its own name behind, and the others go on: the truth is in the tables. */
export const rowsOf = <L>(
  lines: readonly L[],
  row: (line: L) => readonly Cell[],
  name: (line: L) => string,
  problems: string[],
): (readonly Cell[])[] =>
  lines.map((line) => {
    try {
      return row(line);
    } catch (error) {
      problems.push(`${name(line)} cannot be written as CSV: ${error instanceof Error ? error.message : String(error)}`.slice(0, 300));
      return [name(line)];
    }
  });

/** A cell that a spreadsheet would take for a formula is quoted as text. RFC 4180 line ends. */
export const csv = (rows: readonly (readonly Cell[])[]): string =>
  Papa.unparse(rows as Cell[][], { escapeFormulae: true, newline: "\r\n" });

export const isoOf = (ms: number | null): string => (ms === null ? "" : new Date(ms).toISOString());
export const jsonOf = (value: unknown): string => JSON.stringify(value);
export const textOf = (value: unknown): string => (typeof value === "string" ? value : "");
