// CSV twins of the archive's tables: the same lines in columns for people and spreadsheets. The JSON lines are the truth; a twin is
// never read back.

import type { ArchiveLine, ArchiveTable } from "@keep-rolling/contract/archive";
import { describeMark, foldRun, observe, summarise } from "@keep-rolling/core/runs";
import type { Mark } from "@keep-rolling/core/runs";
import { formatHms } from "@keep-rolling/core/format";
import Papa from "papaparse";

type Cell = string | number | boolean | null;

/** A cell that a spreadsheet would take for a formula is quoted as text. RFC 4180 line ends. */
export const csv = (rows: readonly (readonly Cell[])[]): string =>
  Papa.unparse(rows as Cell[][], { escapeFormulae: true, newline: "\r\n" });

const iso = (ms: number | null): string => (ms === null ? "" : new Date(ms).toISOString());
const json = (value: unknown): string => JSON.stringify(value);

type Columns<T extends ArchiveTable> = readonly (readonly [string, (line: ArchiveLine<T>) => Cell])[];
type Twinned = Exclude<ArchiveTable, "marks" | "readings">;

const COLUMNS: { readonly [T in Twinned]: Columns<T> } = {
  kit: [
    ["kind", (l) => l.entity],
    ["id", (l) => l.id],
    ["version", (l) => l.rev],
    ["saved", (l) => iso(l.savedAtMs)],
    ["name", (l) => (typeof l.doc.name === "string" ? l.doc.name : "")],
    ["all", (l) => json(l.doc)],
  ],
  unitEvents: [
    ["unit", (l) => l.unitId],
    ["at", (l) => iso(l.atMs)],
    ["what", (l) => l.kind],
    ["details", (l) => json(l.body)],
  ],
  clocks: [
    ["clock", (l) => l.id],
    ["kind", (l) => l.kind],
    ["read", (l) => iso(l.nowMs)],
    ["pieces", (l) => l.segments.length],
  ],
  devices: [
    ["id", (l) => l.id],
    ["kind", (l) => l.kind],
    ["name", (l) => l.name],
    ["unit", (l) => l.unitId],
    ["revoked", (l) => iso(l.revokedAtMs)],
  ],
  strikes: [
    ["run", (l) => l.runId],
    ["at", (l) => iso(l.atMs)],
    ["reason", (l) => l.reason],
    ["takes back", (l) => l.undoes],
  ],
  limits: [
    ["id", (l) => l.id],
    ["recorded", (l) => iso(l.recordedAtMs)],
    ["unit", (l) => text(l.doc.unitName)],
    ["mode", (l) => text(l.doc.modeName)],
    ["condition", (l) => text(l.doc.conditionName)],
    ["firmware", (l) => text(l.doc.firmware)],
    ["endpoint", (l) => text(l.doc.endpoint)],
    ["limit", (l) => (typeof l.doc.valueMs === "number" ? formatHms(l.doc.valueMs) : "")],
    ["share", (l) => (typeof l.doc.share === "number" ? l.doc.share : "")],
    ["confidence", (l) => (typeof l.doc.confidence === "number" ? l.doc.confidence : "")],
    ["runs", (l) => (typeof l.doc.n === "number" ? l.doc.n : "")],
  ],
  deviceEvents: [
    ["device", (l) => l.deviceId],
    ["unit", (l) => l.unitId],
    ["at", (l) => iso(l.atMs)],
    ["what", (l) => l.kind],
    ["details", (l) => json(l.body)],
  ],
  channels: [
    ["n", (l) => l.n],
    ["device", (l) => l.deviceId],
    ["channel", (l) => l.channel],
    ["quantity", (l) => l.quantity],
    ["unit", (l) => l.unit],
    ["watches", (l) => l.uses.map((u) => u.unitId).join(" ")],
  ],
  intakeBatches: [
    ["device", (l) => l.deviceId],
    ["key", (l) => l.key],
    ["received", (l) => iso(l.receivedMs)],
    ["answer", (l) => json(l.reply)],
  ],
  setAside: [
    ["device", (l) => l.deviceId],
    ["received", (l) => iso(l.receivedMs)],
    ["why", (l) => l.code],
    ["what", (l) => l.raw],
  ],
  blobs: [
    ["sha256", (l) => l.sha256],
    ["bytes", (l) => l.bytes],
    ["type", (l) => l.mime],
  ],
};

const text = (value: unknown): string => (typeof value === "string" ? value : "");

export function twinOf<T extends Twinned>(table: T, lines: readonly ArchiveLine<T>[]): string {
  const columns = COLUMNS[table] as Columns<T>;
  return csv([columns.map(([head]) => head), ...lines.map((line) => columns.map(([, cell]) => cell(line)))]);
}

export const READING_HEAD = ["channel", "at", "value"] as const;
export const readingRows = (lines: readonly ArchiveLine<"readings">[]): Cell[][] => lines.map((l) => [l.c, iso(l.t), l.v]);

const MARK_HEAD = ["run", "n", "elapsed", "at", "pressed", "device", "kind", "what", "source", "names", "id", "all"];

/** Every mark as it was pressed, in order of the fold's times; corrections and undos are lines of their own. */
export function marksTwin(runs: readonly RunMarks[], deviceNames: ReadonlyMap<string, string>): string {
  const rows = runs.flatMap(({ runId, lines }) => {
    const startMs = foldRun(lines.map((l) => l.mark)).startMs ?? 0;
    return [...lines]
      .sort((a, b) => a.mark.madeAtMs - b.mark.madeAtMs || a.seq - b.seq)
      .map(({ seq, mark }) => markRow(runId, seq, mark, startMs, deviceNames));
  });
  return csv([MARK_HEAD, ...rows]);
}

function markRow(runId: string, seq: number, mark: Mark, startMs: number, names: ReadonlyMap<string, string>): Cell[] {
  const device = names.get(mark.deviceId) ?? mark.deviceId;
  const elapsed = mark.atMs < startMs ? `before the start by ${formatHms(startMs - mark.atMs)}` : formatHms(mark.atMs - startMs);
  const what = describeMark(mark);
  return [
    runId,
    seq,
    elapsed,
    iso(mark.atMs),
    iso(mark.madeAtMs),
    device,
    mark.kind,
    what,
    mark.source,
    mark.target ?? "",
    mark.id,
    json(mark.body),
  ];
}

export interface RunMarks {
  runId: string;
  lines: readonly ArchiveLine<"marks">[];
}
const RUN_HEAD = [
  "run",
  "unit",
  "firmware",
  "mode",
  "condition",
  "protocol",
  "clock",
  "ambient °C",
  "start state",
  "started",
  "state",
  "recorded s, at least",
  "recorded s, at most",
  "elapsed s",
  "gaps s",
  "ended by",
  "heat limit: time s",
  "heat limit: reached (1) or beyond (0)",
  "because",
  "findings",
];

/** One line a run, by the same fold as every screen. Seconds, for spreadsheets and statistics programs. */
export function runsTwin(runs: readonly RunMarks[]): string {
  return csv([RUN_HEAD, ...runs.map(({ runId, lines }) => runRow(runId, lines))]);
}

function runRow(runId: string, lines: RunMarks["lines"]): Cell[] {
  const fold = foldRun(lines.map((l) => l.mark));
  const { setup } = fold;
  if (setup === null) return [runId];
  const lastMs = Math.max(...lines.map((l) => l.mark.atMs));
  const times = summarise(fold, lastMs);
  const seen = observe(fold, setup.protocol.continuity, "shutdown");
  return [
    runId,
    setup.unit.name,
    setup.unit.firmware,
    setup.mode.name,
    setup.condition.name,
    setup.protocol.name,
    setup.clockId,
    setup.ambient.valueC,
    setup.startState.state,
    iso(fold.startMs),
    fold.state,
    times.recordedMs.lo / 1000,
    times.recordedMs.hi / 1000,
    times.elapsedMs / 1000,
    times.gapMs / 1000,
    fold.end?.cause ?? "",
    seen.ok ? seen.timeMs.lo / 1000 : "",
    seen.ok ? seen.event : "",
    seen.ok ? seen.because : seen.reason,
    fold.findings.map((f) => f.code).join(" "),
  ];
}
