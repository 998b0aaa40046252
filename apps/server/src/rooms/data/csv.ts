// CSV twins of the archive's tables: the same lines in columns for people and spreadsheets. The JSON lines are the truth; a twin is
// never read back.

import Papa from "papaparse";
import type { Tx } from "../../db/connection.ts";

export type Cell = string | number | boolean | null;

export interface CsvFile {
  /** Without ending. */
  name: string;
  head: readonly string[];
  rows(tx: Tx, nowMs: number): AsyncIterable<readonly (readonly Cell[])[]>;
}

/** A cell that a spreadsheet would take for a formula is quoted as text. RFC 4180 line ends. */
export const csv = (rows: readonly (readonly Cell[])[]): string =>
  Papa.unparse(rows as Cell[][], { escapeFormulae: true, newline: "\r\n" });

export const isoOf = (ms: number | null): string => (ms === null ? "" : new Date(ms).toISOString());
export const jsonOf = (value: unknown): string => JSON.stringify(value);
export const textOf = (value: unknown): string => (typeof value === "string" ? value : "");
