// Taking marks in: accept and flag. A mark is stored, a duplicate, not yet possible (its run or target is unknown), or set aside
// with a copy kept. Insert and cached status in one transaction per run; published after commit.

import { isDeepStrictEqual } from "node:util";
import type { MarkOutcome, StoredMark } from "@keep-rolling/contract";
import { MARK_MAX_BYTES, markSchema } from "@keep-rolling/contract";
import type { Mark, RunFold } from "@keep-rolling/core/runs";
import { foldRun, isForeign } from "@keep-rolling/core/runs";
import { v5 as uuidv5 } from "uuid";
import type { Tx } from "../db/connection.ts";
import { write } from "../db/connection.ts";
import type { Deps } from "../deps.ts";
import { acceptOne, ACTS } from "./acceptOne.ts";
import { cacheFold, createRun, findMarks, insertMarks, keepIssue, lockRun, readMarks, sequencesTaken } from "./markStore.ts";
import { noteDeviceEvent } from "./runStore.ts";

export interface Batch {
  deviceId: string;
  sentDeviceMs: number;
  offsetMs: number;
  marks: readonly unknown[];
}
export interface Accepted {
  outcomes: MarkOutcome[];
  /** Runs that changed, as they read now. */
  changed: { runId: string; clockId: string; fold: RunFold; acts: boolean }[];
}

/** Server minus device may move this much between press and sending before the run is told. */
const CLOCK_MOVED_MS = 1000;

export async function acceptMarks(deps: Deps, batch: Batch): Promise<Accepted> {
  const outcomes: MarkOutcome[] = [];
  const changed = new Map<string, Accepted["changed"][number]>();
  let group: Mark[] = [];
  const flush = async (): Promise<void> => {
    const marks = group;
    group = [];
    if (marks[0] === undefined) return;
    const done = await acceptRun(deps, marks, batch);
    outcomes.push(...done.outcomes);
    if (done.fold !== null) {
      const acts = done.stored.some((s) => ACTS.includes(s.mark.kind)) || changed.get(marks[0].runId)?.acts === true;
      changed.set(marks[0].runId, { runId: marks[0].runId, clockId: done.clockId, fold: done.fold, acts });
    }
  };
  for (const [i, raw] of batch.marks.entries()) {
    const parsed = readMark(raw);
    if ("mark" in parsed) {
      if (group[0] !== undefined && group[0].runId !== parsed.mark.runId) await flush();
      group.push(parsed.mark);
    } else {
      await flush();
      await keepIssue(deps.db, {
        deviceId: batch.deviceId,
        lineNo: i,
        raw: JSON.stringify(raw),
        code: parsed.reason,
        receivedMs: deps.now(),
      });
      outcomes.push({ id: parsed.id, outcome: "set aside", reason: parsed.reason });
    }
  }
  await flush();
  return { outcomes, changed: [...changed.values()] };
}

function readMark(raw: unknown): { mark: Mark } | { id: string | null; reason: string } {
  const id = typeof raw === "object" && raw !== null && "id" in raw && typeof raw.id === "string" ? raw.id.slice(0, 100) : null;
  if (JSON.stringify(raw).length > MARK_MAX_BYTES) return { id, reason: `larger than ${MARK_MAX_BYTES} bytes` };
  const parsed = markSchema.safeParse(raw);
  if (parsed.success) return { mark: parsed.data };
  const issue = parsed.error.issues[0];
  return { id, reason: `${issue?.path.join(".") ?? ""} ${issue?.message ?? "not a mark"}`.trim().slice(0, 180) };
}

interface RunDone {
  outcomes: MarkOutcome[];
  stored: StoredMark[];
  fold: RunFold | null;
  clockId: string;
}

async function acceptRun(deps: Deps, marks: readonly Mark[], batch: Batch): Promise<RunDone> {
  const [mark] = marks as [Mark, ...Mark[]];
  const quick = marks.length === 1 && !clockMoved(mark, batch) ? await acceptOne(deps, mark).catch(onlyAway) : null;
  const done: RunDone =
    quick === null
      ? await acceptGroup(deps, marks, batch)
      : { ...quick, outcomes: [{ id: mark.id, outcome: "stored", seq: quick.stored.seq }], stored: [quick.stored] };
  if (done.stored.length > 0) deps.hub.publish({ type: "marks", runId: mark.runId, marks: done.stored });
  return done;
}

/** The long way judges what the quick one stumbled over, and repeats what a lost connection cut off. */
const onlyAway = (): null => null;

async function acceptGroup(deps: Deps, marks: readonly Mark[], batch: Batch): Promise<RunDone> {
  const runId = (marks[0] as Mark).runId;
  const { all, ...done } = await write(deps.db, async (tx): Promise<RunDone & { all: Known | null }> => {
    const startMark = marks.find((m) => m.kind === "start");
    if (startMark?.kind === "start" && !isForeign(startMark)) await createRun(tx, startMark);
    const run = await lockRun(tx, runId);
    if (run === null) {
      const notYet = marks.map(({ id }) => ({ id, outcome: "not yet" as const, reason: "its run is not known here yet" }));
      return { outcomes: notYet, stored: [], fold: null, clockId: "", all: null };
    }
    const { outcomes, stored } = await judgeAll(tx, runId, marks, run.lastSeq, deps.now());
    await keepAside(tx, marks, outcomes, deps.now());
    if (stored.length === 0) return { outcomes, stored, fold: null, clockId: run.clockId, all: null };
    await insertMarks(tx, runId, stored);
    const recent = deps.recent.get(runId);
    const before = recent?.lastSeq === run.lastSeq ? recent.marks : await marksBefore(tx, runId, run.lastSeq);
    const all = { ...run, lastSeq: run.lastSeq + stored.length, marks: [...before, ...stored.map((s) => s.mark)] };
    const fold = foldRun(all.marks);
    await cacheFold(tx, runId, fold);
    await noteMovedClock(tx, stored, batch, run.unitId);
    return { outcomes, stored, fold, clockId: run.clockId, all };
  });
  // Only what is committed is remembered.
  if (all !== null) deps.recent.set(runId, all);
  return done;
}

type Known = NonNullable<ReturnType<Deps["recent"]["get"]>>;

const marksBefore = async (tx: Tx, runId: string, lastSeq: number): Promise<Mark[]> =>
  ((await readMarks(tx, [runId])).get(runId) ?? []).filter((s) => s.seq <= lastSeq).map((s) => s.mark);

/** Every mark of one run in its order; one may name another of the same batch. */
async function judgeAll(
  tx: Tx,
  runId: string,
  marks: readonly Mark[],
  lastSeq: number,
  receivedAtMs: number,
): Promise<{ outcomes: MarkOutcome[]; stored: StoredMark[] }> {
  const known = await findMarks(tx, [...new Set(marks.flatMap((m) => (m.target === undefined ? [m.id] : [m.id, m.target])))]);
  const taken = await sequencesTaken(tx, runId, marks);
  const outcomes: MarkOutcome[] = [];
  const stored: StoredMark[] = [];
  for (const mark of marks) {
    const outcome = judge(mark, known, taken);
    if (outcome.outcome === "stored") {
      outcome.seq = lastSeq + stored.length + 1;
      const fresh = { seq: outcome.seq, receivedAtMs, mark };
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
    if (isDeepStrictEqual(plain(same.mark), plain(mark))) return { id: mark.id, outcome: "duplicate", seq: same.seq };
    return { id: mark.id, outcome: "set aside", reason: "another mark of the same id is on record" };
  }
  if (taken.has(`${mark.deviceId} ${mark.deviceSeq}`))
    return { id: mark.id, outcome: "set aside", reason: "this device used that number for another mark of this run" };
  if (mark.target === undefined) return { id: mark.id, outcome: "stored" };
  const target = known.get(mark.target);
  if (target === undefined) return { id: mark.id, outcome: "not yet", reason: "the mark it names is not known here yet" };
  if (target.mark.runId !== mark.runId) return { id: mark.id, outcome: "set aside", reason: "the mark it names belongs to another run" };
  return { id: mark.id, outcome: "stored" };
}

async function keepAside(tx: Tx, marks: readonly Mark[], outcomes: readonly MarkOutcome[], receivedMs: number): Promise<void> {
  for (const [i, outcome] of outcomes.entries()) {
    const mark = marks[i];
    if (mark === undefined || outcome.outcome !== "set aside") continue;
    await keepIssue(tx, { deviceId: mark.deviceId, lineNo: 0, raw: JSON.stringify(mark), code: outcome.reason ?? "", receivedMs });
  }
}

/** As JSON would carry it: absent and undefined are one. */
const plain = (mark: Mark): unknown => JSON.parse(JSON.stringify(mark));

const clockMoved = (mark: Mark, batch: Batch): boolean =>
  mark.deviceId === batch.deviceId && Math.abs(mark.offsetMs - batch.offsetMs) > CLOCK_MOVED_MS;

async function noteMovedClock(tx: Tx, stored: readonly StoredMark[], batch: Batch, unitId: string): Promise<void> {
  const moved = stored.find((s) => clockMoved(s.mark, batch));
  if (moved === undefined) return;
  const { mark } = moved;
  const body = { offsetThenMs: mark.offsetMs, offsetNowMs: batch.offsetMs };
  await noteDeviceEvent(tx, {
    id: uuidv5("clock moved", mark.id),
    deviceId: mark.deviceId,
    unitId,
    atMs: mark.madeAtMs,
    kind: "clock moved",
    body,
  });
}
