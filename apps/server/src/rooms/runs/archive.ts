// Runs in and out: their marks in delivery order and the strikes on them; for people also every mark in words and one line a run.

import type { ArchiveLine } from "@keep-rolling/contract/archive";
import { formatHms } from "@keep-rolling/core/format";
import type { Mark } from "@keep-rolling/core/runs";
import { describeMark, foldRun, observe, summarise } from "@keep-rolling/core/runs";
import type { Tx } from "../../db/connection.ts";
import type { AnyPart, ArchivePart, Cell, Shape } from "../data/index.ts";
import { isoOf, jsonOf, plainPart, readPlain, rowsOf, together } from "../data/index.ts";
import { mergeFacts } from "../../record/mergeFacts.ts";
import { readMarks, runAggregate } from "./markStore.ts";
import { readDeviceNames, readRunIds } from "./runStore.ts";

const mergeMarks: ArchivePart<"marks">["merge"] = async (tx, pages, { tally }) => {
  const incoming = (l: ArchiveLine<"marks">) => ({ seq: l.seq, receivedAtMs: l.receivedAtMs, fact: l.mark, line: l });
  for await (const run of together(pages, (l) => l.mark.runId))
    for (const { fresh } of await mergeFacts(tx, runAggregate, "marks", run.map(incoming), tally)) tally.run(fresh);
};

interface RunMarks {
  runId: string;
  lines: readonly ArchiveLine<"marks">[];
}
const RUNS_A_PAGE = 50;

/** Runs with their marks, first started first. */
async function* runPages(tx: Tx): AsyncGenerator<RunMarks[]> {
  const ids = await readRunIds(tx);
  for (let i = 0; i < ids.length; i += RUNS_A_PAGE) {
    const page = ids.slice(i, i + RUNS_A_PAGE);
    const stored = await readMarks(tx, page);
    yield page.map((runId) => ({ runId, lines: stored.get(runId) ?? [] }));
  }
}
async function* markPages(tx: Tx): AsyncGenerator<ArchiveLine<"marks">[]> {
  for await (const page of runPages(tx)) yield page.flatMap((r) => r.lines);
}

const MARK_HEAD = ["run", "n", "elapsed", "at", "pressed", "device", "kind", "what", "source", "names", "id", "all"];

/** Every mark as it was pressed, by the time of the press; corrections and undos are lines of their own. */
async function* markRows(tx: Tx, _nowMs: number, problems: string[]): AsyncGenerator<(readonly Cell[])[]> {
  const names = await readDeviceNames(tx);
  for await (const page of runPages(tx))
    yield page.flatMap(({ runId, lines }) => {
      const startMs = foldRun(lines.map((l) => l.mark)).startMs ?? 0;
      const sorted = [...lines].sort((a, b) => a.mark.madeAtMs - b.mark.madeAtMs || a.seq - b.seq);
      return rowsOf(
        sorted,
        ({ seq, mark }) => markRow(runId, seq, mark, startMs, names),
        ({ mark }) => `Mark ${mark.id}`,
        problems,
      );
    });
}

function markRow(runId: string, seq: number, mark: Mark, startMs: number, names: ReadonlyMap<string, string>): Cell[] {
  const device = names.get(mark.deviceId) ?? mark.deviceId;
  const elapsed = mark.atMs < startMs ? `before the start by ${formatHms(startMs - mark.atMs)}` : formatHms(mark.atMs - startMs);
  const what = describeMark(mark);
  return [
    runId,
    seq,
    elapsed,
    isoOf(mark.atMs),
    isoOf(mark.madeAtMs),
    device,
    mark.kind,
    what,
    mark.source,
    mark.target ?? "",
    mark.id,
    jsonOf(mark.body),
  ];
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
async function* runRows(tx: Tx, _nowMs: number, problems: string[]): AsyncGenerator<(readonly Cell[])[]> {
  for await (const page of runPages(tx))
    yield rowsOf(
      page,
      ({ runId, lines }) => runRow(runId, lines),
      ({ runId }) => `Run ${runId}`,
      problems,
    );
}

function runRow(runId: string, lines: RunMarks["lines"]): Cell[] {
  const fold = foldRun(lines.map((l) => l.mark));
  const { setup } = fold;
  // Every row as long as the head.
  if (setup === null) return RUN_HEAD.map((_, i) => (i === 0 ? runId : ""));
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
    setup.ambient.basis === "not recorded" ? "" : setup.ambient.valueC,
    setup.startState.state,
    isoOf(fold.startMs),
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

const markPart: ArchivePart<"marks"> = {
  table: "marks",
  pages: markPages,
  merge: mergeMarks,
  csv: [
    { name: "marks", head: MARK_HEAD, rows: markRows },
    { name: "runs", head: RUN_HEAD, rows: runRows },
  ],
};

const strikeShape: Shape<"strikes"> = {
  from: "strike",
  columns: { id: ["id"], runId: ["run_id"], reason: ["reason"], undoes: ["undoes"], atMs: ["at_ms"] },
  key: ["id"],
};
const strikePart = plainPart("strikes", strikeShape, [
  ["run", (l) => l.runId],
  ["at", (l) => isoOf(l.atMs)],
  ["reason", (l) => l.reason],
  ["takes back", (l) => l.undoes],
]);
export const readStrikeLines = (tx: Tx, runId: string): Promise<ArchiveLine<"strikes">[]> =>
  readPlain(tx, "strikes", strikeShape, (q) => void q.where({ run_id: runId }));

export const runArchive: readonly AnyPart[] = [strikePart, markPart];
