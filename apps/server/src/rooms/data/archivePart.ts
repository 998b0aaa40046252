// A part of the archive: one table, out as lines and in by id. Rooms describe their own; the data room only walks through them.

import { isDeepStrictEqual } from "node:util";
import type { ArchiveLine, ArchiveTable } from "@keep-rolling/contract/archive";
import { archiveLines } from "@keep-rolling/contract/archive";
import type { Query, Tx } from "../../db/connection.ts";
import type { Cell, CsvFile } from "./csv.ts";
import { rowsOf } from "./csv.ts";
import type { Archive } from "./openArchive.ts";
import type { Tally } from "./tally.ts";

/** What merging a part may look at and has to keep. */
export interface Merge {
  /** Server wall clock, UTC milliseconds. */
  nowMs: number;
  archive: Archive;
  tally: Tally;
}

export interface ArchivePart<T extends ArchiveTable> {
  table: T;
  /** All lines, of one moment, a page at a time, in an order that does not depend on this database. A row that is no line is told to `problems`, whole. */
  pages(tx: Tx, nowMs: number, problems: string[]): AsyncIterable<readonly ArchiveLine<T>[]>;
  /** Adds what is not here; what is stays as it is, and what contradicts it is told to the tally. */
  merge(tx: Tx, pages: AsyncIterable<readonly ArchiveLine<T>[]>, merge: Merge): Promise<void>;
  /** For people and spreadsheets. */
  csv: readonly CsvFile[];
}
/** A part whose table is not known here: what it gives out it takes in. */
export interface AnyPart {
  table: ArchiveTable;
  pages(tx: Tx, nowMs: number, problems: string[]): AsyncIterable<readonly object[]>;
  merge(tx: Tx, pages: AsyncIterable<readonly never[]>, merge: Merge): Promise<void>;
  csv: readonly CsvFile[];
}

type Column<T extends ArchiveTable> = readonly [string, (line: ArchiveLine<T>) => Cell];

/** The CSV twin of a table with one row a line. */
export function twinOf<T extends ArchiveTable>(table: T, pages: ArchivePart<T>["pages"], columns: readonly Column<T>[]): CsvFile {
  return {
    name: table,
    head: columns.map(([head]) => head),
    rows: async function* (tx, nowMs, problems) {
      const name = (line: ArchiveLine<T>): string => `A line of ${table} (${JSON.stringify(line).slice(0, 60)})`;
      for await (const page of pages(tx, nowMs, [])) yield rowsOf(page, (line) => columns.map(([, cell]) => cell(line)), name, problems);
    },
  };
}

type Kind = "plain" | "json" | "date";
/** How a table whose rows leave and come in one by one is kept. */
export interface Shape<T extends ArchiveTable> {
  from: string;
  /** Field of the line: column, and how it is kept. */
  columns: { readonly [F in keyof ArchiveLine<T>]: readonly [string, Kind?] };
  /** Fields that identify a line; the same identity with other content is a conflict. */
  key: readonly (keyof ArchiveLine<T>)[];
  /** Fields this workspace may have changed since: they never make a conflict. */
  ours?: readonly (keyof ArchiveLine<T>)[];
  /** Column that says when a row came in, where there is one. */
  receivedMs?: string;
}

type Row = Record<string, unknown>;

/** A part read and merged row by row; nothing here knows what a row means. */
export function plainPart<T extends ArchiveTable>(table: T, shape: Shape<T>, twin: readonly Column<T>[]): ArchivePart<T> {
  const pages: ArchivePart<T>["pages"] = (tx, _nowMs, problems) => plainPages(tx, table, shape, problems);
  return {
    table,
    pages,
    csv: [twinOf(table, pages, twin)],
    merge: async (tx, incoming, { tally, nowMs }) => {
      const keyOf = (line: Row): string => JSON.stringify(shape.key.map((field) => line[field as string]));
      // As they stand, whether a line of today or not: a row of a former version still takes its id.
      const ours = new Map<string, Row>((await orderedRows(tx, shape)).map((row) => [keyOf(fieldsOf(shape, row)), fieldsOf(shape, row)]));
      for await (const lines of incoming) {
        const fresh: Row[] = [];
        for (const line of lines as readonly Row[]) {
          const key = keyOf(line);
          const known = ours.get(key);
          if (known === undefined) {
            fresh.push(line);
            ours.set(key, line);
            tally.add(table);
          } else if (isDeepStrictEqual(factsOf(shape, known), factsOf(shape, line))) tally.same(table);
          else tally.conflict(table, key, "other content under the same id is on record here", line);
        }
        await insertPlain(tx, shape, fresh, nowMs);
      }
    },
  };
}

/** The line without what this workspace may change by itself. */
function factsOf<T extends ArchiveTable>(shape: Shape<T>, line: Row): Row {
  const ours = (shape.ours ?? []) as readonly string[];
  return Object.fromEntries(Object.entries(line).filter(([field]) => !ours.includes(field)));
}

const columnsOf = <T extends ArchiveTable>(shape: Shape<T>): [string, readonly [string, Kind?]][] =>
  Object.entries(shape.columns as Record<string, readonly [string, Kind?]>);

type Filter = (query: Query<Row>) => void;

/** Lines in order of their key; `where` keeps those whose columns have these values. */
export async function readPlain<T extends ArchiveTable>(tx: Tx, table: T, shape: Shape<T>, where?: Filter): Promise<ArchiveLine<T>[]> {
  const rows = await orderedRows(tx, shape, where);
  return rows.flatMap((row) => lineOf(table, shape, row, []));
}

const PAGE = 1000;

/** The same, read row by row from the database, so that a table's size is no matter of memory. */
async function* plainPages<T extends ArchiveTable>(
  tx: Tx,
  table: T,
  shape: Shape<T>,
  problems: string[],
): AsyncGenerator<ArchiveLine<T>[]> {
  let page: ArchiveLine<T>[] = [];
  for await (const row of orderedRows(tx, shape).stream({ highWaterMark: PAGE }) as AsyncIterable<Row>) {
    page.push(...lineOf(table, shape, row, problems));
    if (page.length < PAGE) continue;
    yield page;
    page = [];
  }
  if (page.length > 0) yield page;
}

function orderedRows<T extends ArchiveTable>(tx: Tx, shape: Shape<T>, where: Filter = () => undefined): Query<Row> {
  const columns = shape.columns as Record<string, readonly [string]>;
  const query: Query<Row> = tx<Row, Row[]>(shape.from).orderBy(
    shape.key.map((field) => columns[field as string]?.[0] ?? (field as string)),
  );
  where(query);
  return query;
}

/** None for a row that a former version let in and that no archive could bring back: it is kept in the list of problems, and the others go on. */
function lineOf<T extends ArchiveTable>(table: T, shape: Shape<T>, row: Row, problems: string[]): ArchiveLine<T>[] {
  const line = fieldsOf(shape, row);
  const parsed = archiveLines[table].safeParse(line);
  if (parsed.success) return [parsed.data as ArchiveLine<T>];
  problems.push(`A row of ${table} is no line of an archive and is only here: ${JSON.stringify(line)}`);
  return [];
}

const fieldsOf = <T extends ArchiveTable>(shape: Shape<T>, row: Row): Row =>
  Object.fromEntries(columnsOf(shape).map(([field, [column, kind]]) => [field, out(row[column], kind)]));

const out = (value: unknown, kind: Kind | undefined): unknown =>
  kind === "date" ? (value instanceof Date ? value.getTime() : null) : (value ?? null);

const INSERT_AT_ONCE = 200;

async function insertPlain<T extends ArchiveTable>(tx: Tx, shape: Shape<T>, lines: readonly Row[], receivedMs: number): Promise<void> {
  const more = shape.receivedMs === undefined ? {} : { [shape.receivedMs]: receivedMs };
  for (let i = 0; i < lines.length; i += INSERT_AT_ONCE) {
    const rows = lines.slice(i, i + INSERT_AT_ONCE).map((line) => ({
      ...Object.fromEntries(columnsOf(shape).map(([field, [column, kind]]) => [column, into(line[field], kind)])),
      ...more,
    }));
    await tx(shape.from).insert(rows);
  }
}

function into(value: unknown, kind: Kind | undefined): unknown {
  if (kind === "json") return JSON.stringify(value);
  return kind === "date" && typeof value === "number" ? new Date(value) : value;
}
