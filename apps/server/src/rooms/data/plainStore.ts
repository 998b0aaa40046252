// Tables that leave and enter the archive row by row. Each is described by its columns; nothing here knows what a row means.

import type { ArchiveLine, ArchiveTable } from "@keep-rolling/contract/archive";
import { archiveLines } from "@keep-rolling/contract/archive";
import type { Tx } from "../../db/connection.ts";

export const PLAIN_TABLES = [
  "unitEvents",
  "devices",
  "strikes",
  "limits",
  "deviceEvents",
  "intakeBatches",
  "setAside",
  "blobs",
] as const satisfies readonly ArchiveTable[];
export type PlainTable = (typeof PLAIN_TABLES)[number];

type Kind = "plain" | "json" | "date";
interface Shape<T extends PlainTable> {
  from: string;
  /** Field of the line: column, and how it is kept. */
  columns: { readonly [F in keyof ArchiveLine<T>]: readonly [string, Kind?] };
  /** Fields that identify a line; the same identity with other content is a conflict. */
  key: readonly (keyof ArchiveLine<T>)[];
  /** Fields this workspace may have changed since: they never make a conflict. */
  ours?: readonly (keyof ArchiveLine<T>)[];
}

const SHAPES: { readonly [T in PlainTable]: Shape<T> } = {
  unitEvents: {
    from: "unit_event",
    columns: { id: ["id"], unitId: ["unit_id"], atMs: ["at_ms"], kind: ["kind"], body: ["body", "json"] },
    key: ["id"],
  },
  devices: {
    from: "device",
    columns: { id: ["id"], kind: ["kind"], name: ["name"], unitId: ["unit_id"], revokedAtMs: ["revoked_at", "date"] },
    key: ["id"],
    ours: ["kind", "name", "unitId", "revokedAtMs"],
  },
  strikes: {
    from: "strike",
    columns: { id: ["id"], runId: ["run_id"], reason: ["reason"], undoes: ["undoes"], atMs: ["at_ms"] },
    key: ["id"],
  },
  limits: {
    from: "statement",
    columns: {
      id: ["id"],
      unitId: ["unit_id"],
      anyFirmwareSha: ["any_firmware_sha"],
      recordedAtMs: ["recorded_at_ms"],
      doc: ["doc", "json"],
      evidenceSha: ["evidence_sha"],
      supersedes: ["supersedes"],
    },
    key: ["id"],
  },
  deviceEvents: {
    from: "device_event",
    columns: { id: ["id"], deviceId: ["device_id"], unitId: ["unit_id"], atMs: ["at_ms"], kind: ["kind"], body: ["body", "json"] },
    key: ["id"],
  },
  intakeBatches: {
    from: "intake_batch",
    columns: { deviceId: ["device_id"], key: ["idem_key"], sha256: ["sha256"], reply: ["reply", "json"], receivedMs: ["received_ms"] },
    key: ["deviceId", "key"],
    ours: ["reply", "receivedMs"],
  },
  setAside: {
    from: "intake_issue",
    columns: { deviceId: ["device_id"], lineNo: ["line_no"], raw: ["raw"], code: ["code"], receivedMs: ["received_ms"] },
    key: ["deviceId", "lineNo", "raw", "code", "receivedMs"],
  },
  blobs: {
    from: "blob",
    columns: { sha256: ["sha256"], bytes: ["bytes"], mime: ["mime"] },
    key: ["sha256"],
    ours: ["mime"],
  },
};

type Row = Record<string, unknown>;
interface AnyShape {
  from: string;
  columns: Readonly<Record<string, readonly [string, Kind?]>>;
  key: readonly string[];
  ours?: readonly string[];
}
const shapeOf = (table: PlainTable): AnyShape => SHAPES[table];

export function keyOf(table: PlainTable, line: Row): string {
  return JSON.stringify(shapeOf(table).key.map((field) => line[field]));
}

/** The line without what this workspace may change by itself. */
export function factsOf(table: PlainTable, line: Row): Row {
  const ours = shapeOf(table).ours ?? [];
  return Object.fromEntries(Object.entries(line).filter(([field]) => !ours.includes(field)));
}

export async function readPlain<T extends PlainTable>(tx: Tx, table: T): Promise<ArchiveLine<T>[]> {
  const { from, columns, key } = shapeOf(table);
  const rows = await tx<Row>(from).orderBy(key.map((field) => columns[field]?.[0] ?? field));
  return rows.map((row) => {
    const line = Object.fromEntries(Object.entries(columns).map(([field, [column, kind]]) => [field, out(row[column], kind)]));
    return archiveLines[table].parse(line) as ArchiveLine<T>;
  });
}

const out = (value: unknown, kind: Kind | undefined): unknown =>
  kind === "date" ? (value instanceof Date ? value.getTime() : null) : (value ?? null);

const INSERT_AT_ONCE = 200;

export async function insertPlain(tx: Tx, table: PlainTable, lines: readonly Row[], receivedMs: number): Promise<void> {
  const { from, columns } = shapeOf(table);
  const more = table === "blobs" ? { received_ms: receivedMs } : {};
  for (let i = 0; i < lines.length; i += INSERT_AT_ONCE) {
    const rows = lines.slice(i, i + INSERT_AT_ONCE).map((line) => ({
      ...Object.fromEntries(Object.entries(columns).map(([field, [column, kind]]) => [column, into(line[field], kind)])),
      ...more,
    }));
    await tx(from).insert(rows);
  }
}

function into(value: unknown, kind: Kind | undefined): unknown {
  if (kind === "json") return JSON.stringify(value);
  return kind === "date" && typeof value === "number" ? new Date(value) : value;
}
