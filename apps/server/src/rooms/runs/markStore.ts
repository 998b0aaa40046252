// Marks and runs in the database: what of the road is a run's own.

import { createHash } from "node:crypto";
import type { StoredMark } from "@keep-rolling/contract/marks";
import { markSchema } from "@keep-rolling/contract/marks";
import type { Fact } from "@keep-rolling/core/facts";
import type { Mark, MarkOf } from "@keep-rolling/core/runs";
import { actsOn, FOLD_VERSION, foldRun, isForeign } from "@keep-rolling/core/runs";
import type { Db, Tx } from "../../db/connection.ts";
import type { Aggregate, Stored } from "../../record/aggregate.ts";
import { insertFacts, readFacts, renewCache } from "../../record/factStore.ts";
import { pace } from "../clocks/index.ts";
import { cacheColumns, cachedRow } from "./runCache.ts";

const marksOf = (facts: readonly Fact[]): readonly Mark[] => facts as readonly Mark[];
const toMark = ({ seq, receivedAtMs, fact }: Stored): StoredMark => ({ seq, receivedAtMs, mark: fact as Mark });

/** What the cached columns of a run are made from. */
const CACHED = ["time", "surroundings", "warnings"] as const;

export const runAggregate: Aggregate = {
  name: "run",
  field: "runId",
  table: "run",
  factTable: "mark",
  column: "run_id",
  schema: markSchema,
  foldVersion: FOLD_VERSION,
  open: async (tx, fact) => {
    const mark = fact as Mark;
    if (mark.kind === "start" && !isForeign(mark)) await createRun(tx, mark);
  },
  lock: async (tx, id) => {
    const row = await tx<{ id: string; last_seq: number; clock_id: string; unit_id: string }>("run").where({ id }).forUpdate().first();
    return row === undefined ? null : { lastSeq: row.last_seq, clockId: row.clock_id, unitId: row.unit_id };
  },
  cache: (id, facts) => cacheColumns(id, foldRun(marksOf(facts))),
  changesCache: (kind) => actsOn(kind, CACHED),
  message: (runId, stored, facts) => ({
    type: "marks",
    runId,
    marks: stored.map(toMark),
    row: facts === null ? null : cachedRow(foldRun(marksOf(facts))),
  }),
  /** A simulated clock runs at the tester's rate while something rolls. */
  committed: async (deps, { clockId, stored, facts }) => {
    if (stored.some((s) => actsOn(s.fact.kind, ["time"]))) await pace(deps, clockId, foldRun(marksOf(facts)).state !== "rolling");
  },
};

export async function readMarks(db: Db | Tx, runIds: readonly string[], afterSeq = 0): Promise<Map<string, StoredMark[]>> {
  const facts = await readFacts(db, runAggregate, runIds, afterSeq);
  return new Map([...facts].map(([id, stored]) => [id, stored.map(toMark)]));
}

/** `stored`: consecutive, after the run's cursor. */
export const insertMarks = (tx: Tx, runId: string, stored: readonly StoredMark[]): Promise<void> =>
  insertFacts(
    tx,
    runAggregate,
    runId,
    stored.map(({ seq, receivedAtMs, mark }) => ({ seq, receivedAtMs, fact: mark })),
  );

/** The cached fold of a run; can be dropped and made again from the marks at any time. */
export const cacheFold = (tx: Tx, runId: string, marks: readonly Mark[]): Promise<void> => renewCache(tx, runAggregate, runId, marks);

/** Makes the run's row when it is new, then locks it for the rest of the transaction. */
export async function createRun(tx: Tx, mark: MarkOf<"start">): Promise<void> {
  const { unit, mode, condition, protocol } = mark.body;
  const shas = await Promise.all([
    snapshot(tx, "unit", unit),
    snapshot(tx, "mode", mode),
    snapshot(tx, "condition", condition),
    snapshot(tx, "protocol", protocol),
  ]);
  await tx("run")
    .insert({
      id: mark.runId,
      clock_id: mark.body.clockId,
      kind: mark.body.runKind,
      unit_id: unit.id,
      mode_id: mode.id,
      unit_sha: shas[0],
      mode_sha: shas[1],
      condition_sha: shas[2],
      protocol_sha: shas[3],
      parent_run_id: mark.body.parentRunId ?? null,
      provenance: unit.simulated ? "simulated" : "live",
      last_seq: 0,
      status: "none",
      started_ms: mark.atMs,
      fold_v: FOLD_VERSION,
    })
    .onConflict("id")
    .ignore();
}

async function snapshot(tx: Tx, kind: string, doc: object): Promise<string> {
  const json = JSON.stringify(doc);
  const sha256 = createHash("sha256").update(json).digest("hex");
  await tx("snapshot").insert({ sha256, kind, doc: json }).onConflict("sha256").ignore();
  return sha256;
}
