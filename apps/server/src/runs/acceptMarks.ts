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
import { cacheFold, createRun, findMark, insertMark, keepIssue, lockRun, readMarks, sequenceTaken } from "./markStore.ts";
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

/** Kinds that can change whether it rolls. */
const ACTS: readonly string[] = ["start", "gap", "resume", "end", "undo", "correction"];

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
  const runId = (marks[0] as Mark).runId;
  const done = await write(deps.db, async (tx): Promise<RunDone> => {
    const done: RunDone = { outcomes: [], stored: [], fold: null, clockId: "" };
    const startMark = marks.find((m) => m.kind === "start");
    if (startMark?.kind === "start" && !isForeign(startMark)) await createRun(tx, startMark);
    const run = await lockRun(tx, runId);
    let seq = run?.lastSeq ?? 0;
    for (const mark of marks) {
      const outcome =
        run === null ? { id: mark.id, outcome: "not yet" as const, reason: "its run is not known here yet" } : await judge(tx, mark);
      if (outcome.outcome === "stored") {
        seq++;
        await insertMark(tx, mark, seq, deps.now());
        outcome.seq = seq;
        done.stored.push({ seq, receivedAtMs: deps.now(), mark });
      } else if (outcome.outcome === "set aside") {
        await keepIssue(tx, {
          deviceId: mark.deviceId,
          lineNo: 0,
          raw: JSON.stringify(mark),
          code: outcome.reason ?? "",
          receivedMs: deps.now(),
        });
      }
      done.outcomes.push(outcome);
    }
    if (run !== null && done.stored.length > 0) {
      done.fold = foldRun(((await readMarks(tx, [runId])).get(runId) ?? []).map((s) => s.mark));
      done.clockId = run.clockId;
      await cacheFold(tx, runId, done.fold);
      await noteMovedClock(tx, done.stored, batch, run.unitId);
    }
    return done;
  });
  if (done.stored.length > 0) deps.hub.publish({ type: "marks", runId, marks: done.stored });
  return done;
}

async function judge(tx: Tx, mark: Mark): Promise<MarkOutcome> {
  const known = await findMark(tx, mark.id);
  if (known !== null) {
    if (isDeepStrictEqual(plain(known.mark), plain(mark))) return { id: mark.id, outcome: "duplicate", seq: known.seq };
    return { id: mark.id, outcome: "set aside", reason: "another mark of the same id is on record" };
  }
  if (await sequenceTaken(tx, mark))
    return { id: mark.id, outcome: "set aside", reason: "this device used that number for another mark of this run" };
  if (mark.target !== undefined) {
    const target = await findMark(tx, mark.target);
    if (target === null) return { id: mark.id, outcome: "not yet", reason: "the mark it names is not known here yet" };
    if (target.mark.runId !== mark.runId) return { id: mark.id, outcome: "set aside", reason: "the mark it names belongs to another run" };
  }
  return { id: mark.id, outcome: "stored" };
}

/** As JSON would carry it: absent and undefined are one. */
const plain = (mark: Mark): unknown => JSON.parse(JSON.stringify(mark));

async function noteMovedClock(tx: Tx, stored: readonly StoredMark[], batch: Batch, unitId: string): Promise<void> {
  const moved = stored.find((s) => s.mark.deviceId === batch.deviceId && Math.abs(s.mark.offsetMs - batch.offsetMs) > CLOCK_MOVED_MS);
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
