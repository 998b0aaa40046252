// One run's marks into the record, inside a transaction of the caller: judged, inserted after the run's cursor, the cache renewed.

import { isDeepStrictEqual } from "node:util";
import type { MarkOutcome } from "@keep-rolling/contract/facts";
import type { StoredMark } from "@keep-rolling/contract/marks";
import type { Mark, RunFold } from "@keep-rolling/core/runs";
import { foldRun, isForeign } from "@keep-rolling/core/runs";
import type { Tx } from "../../db/connection.ts";
import { cacheFold, createRun, findMarks, insertMarks, lockRun, readMarks, sequencesTaken } from "./markStore.ts";
import type { RecentRun } from "./recentRuns.ts";

export interface TakenRun {
  outcomes: MarkOutcome[];
  stored: StoredMark[];
  /** Null when nothing was stored. */
  fold: RunFold | null;
  known: RecentRun | null;
  /** The run was not here before. */
  fresh: boolean;
}

/** `marks`: of this run, what is named before what names it. `recent`: a hint that spares reading the run again. */
export async function takeRun(
  tx: Tx,
  runId: string,
  marks: readonly Mark[],
  receivedAtMs: (mark: Mark) => number,
  recent?: RecentRun,
): Promise<TakenRun> {
  const start = marks.find((m) => m.kind === "start");
  if (start?.kind === "start" && !isForeign(start)) await createRun(tx, start);
  const run = await lockRun(tx, runId);
  if (run === null) {
    const outcomes = marks.map(({ id }) => ({ id, outcome: "not yet" as const, reason: "its run is not known here yet" }));
    return { outcomes, stored: [], fold: null, known: null, fresh: false };
  }
  const fresh = run.lastSeq === 0;
  const { outcomes, stored } = await judgeAll(tx, runId, marks, run.lastSeq, receivedAtMs);
  if (stored.length === 0) return { outcomes, stored, fold: null, known: null, fresh };
  await insertMarks(tx, runId, stored);
  const before = recent?.lastSeq === run.lastSeq ? recent.marks : await marksBefore(tx, runId, run.lastSeq);
  const known = { ...run, lastSeq: run.lastSeq + stored.length, marks: [...before, ...stored.map((s) => s.mark)] };
  const fold = foldRun(known.marks);
  await cacheFold(tx, runId, fold);
  return { outcomes, stored, fold, known, fresh };
}

const marksBefore = async (tx: Tx, runId: string, lastSeq: number): Promise<Mark[]> =>
  ((await readMarks(tx, [runId])).get(runId) ?? []).filter((s) => s.seq <= lastSeq).map((s) => s.mark);

/** Every mark in its order; one may name another of the same batch. */
async function judgeAll(
  tx: Tx,
  runId: string,
  marks: readonly Mark[],
  lastSeq: number,
  receivedAtMs: (mark: Mark) => number,
): Promise<{ outcomes: MarkOutcome[]; stored: StoredMark[] }> {
  const known = await findMarks(tx, [...new Set(marks.flatMap((m) => (m.target === undefined ? [m.id] : [m.id, m.target])))]);
  const taken = await sequencesTaken(tx, runId, marks);
  const outcomes: MarkOutcome[] = [];
  const stored: StoredMark[] = [];
  for (const mark of marks) {
    const outcome = judge(mark, known, taken);
    if (outcome.outcome === "stored") {
      outcome.seq = lastSeq + stored.length + 1;
      const fresh = { seq: outcome.seq, receivedAtMs: receivedAtMs(mark), mark };
      stored.push(fresh);
      known.set(mark.id, fresh);
      taken.add(`${mark.deviceId} ${mark.deviceSeq}`);
    }
    outcomes.push(outcome);
  }
  return { outcomes, stored };
}

function judge(mark: Mark, known: ReadonlyMap<string, StoredMark>, taken: ReadonlySet<string>): MarkOutcome {
  const same = known.get(mark.id);
  if (same !== undefined) {
    if (isDeepStrictEqual(facts(same.mark), facts(mark))) return { id: mark.id, outcome: "duplicate", seq: same.seq };
    return { id: mark.id, outcome: "set aside", reason: "another mark of the same id is on record" };
  }
  if (taken.has(`${mark.deviceId} ${mark.deviceSeq}`))
    return { id: mark.id, outcome: "not yet", reason: "this device used that number for another mark of this run", renumber: true };
  if (mark.target === undefined) return { id: mark.id, outcome: "stored" };
  const target = known.get(mark.target);
  if (target === undefined) return { id: mark.id, outcome: "not yet", reason: "the mark it names is not known here yet" };
  if (target.mark.runId !== mark.runId) return { id: mark.id, outcome: "set aside", reason: "the mark it names belongs to another run" };
  return { id: mark.id, outcome: "stored" };
}

/** As JSON would carry it: absent and undefined are one. A device may have numbered it anew after a clash. */
function facts(mark: Mark): unknown {
  const { deviceSeq: _, ...rest } = mark;
  return JSON.parse(JSON.stringify(rest));
}
