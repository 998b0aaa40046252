// Taking marks in: accept and flag. A mark is stored, a duplicate, not yet possible (its run or target is unknown), or set aside
// with a copy kept. Insert and cached status in one transaction per run; published after commit.

import type { DeviceEvent } from "@keep-rolling/contract/devices";
import type { MarkOutcome } from "@keep-rolling/contract/facts";
import type { StoredMark } from "@keep-rolling/contract/marks";
import { MARK_MAX_BYTES } from "@keep-rolling/contract/facts";
import { markSchema } from "@keep-rolling/contract/marks";
import type { Mark, RunFold } from "@keep-rolling/core/runs";
import { actsOn } from "@keep-rolling/core/runs";
import { v5 as uuidv5 } from "uuid";
import type { Tx } from "../../db/connection.ts";
import { write } from "../../db/connection.ts";
import type { Deps } from "../../deps.ts";
import { acceptOne } from "./acceptOne.ts";
import { keepIssue } from "./markStore.ts";
import { cachedRow } from "./runCache.ts";
import { noteDeviceEvent } from "./runStore.ts";
import { takeRun } from "./takeRun.ts";

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
      const acts = done.stored.some((s) => actsOn(s.mark.kind, ["time"])) || changed.get(marks[0].runId)?.acts === true;
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
  if (done.stored.length > 0)
    deps.hub.publish({ type: "marks", runId: mark.runId, marks: done.stored, row: done.fold === null ? null : cachedRow(done.fold) });
  return done;
}

/** The long way judges what the quick one stumbled over, and repeats what a lost connection cut off. */
const onlyAway = (): null => null;

async function acceptGroup(deps: Deps, marks: readonly Mark[], batch: Batch): Promise<RunDone> {
  const runId = (marks[0] as Mark).runId;
  const { known, moved, ...done } = await write(deps.db, async (tx) => {
    const taken = await takeRun(tx, runId, marks, () => deps.now(), deps.recent.get(runId));
    await keepAside(tx, marks, taken.outcomes, deps.now());
    const moved = taken.known === null ? null : await noteMovedClock(tx, taken.stored, batch, taken.known.unitId);
    return { ...taken, moved };
  });
  // Only what is committed is remembered.
  if (known !== null) deps.recent.set(runId, known);
  if (moved !== null) deps.hub.publish({ type: "events", runId, events: [moved], readings: [] });
  return { ...done, clockId: known?.clockId ?? "" };
}

async function keepAside(tx: Tx, marks: readonly Mark[], outcomes: readonly MarkOutcome[], receivedMs: number): Promise<void> {
  for (const [i, outcome] of outcomes.entries()) {
    const mark = marks[i];
    if (mark === undefined || outcome.outcome !== "set aside") continue;
    await keepIssue(tx, { deviceId: mark.deviceId, lineNo: 0, raw: JSON.stringify(mark), code: outcome.reason ?? "", receivedMs });
  }
}

const clockMoved = (mark: Mark, batch: Batch): boolean =>
  mark.deviceId === batch.deviceId && Math.abs(mark.offsetMs - batch.offsetMs) > CLOCK_MOVED_MS;

async function noteMovedClock(tx: Tx, stored: readonly StoredMark[], batch: Batch, unitId: string): Promise<DeviceEvent | null> {
  const found = stored.find((s) => clockMoved(s.mark, batch));
  if (found === undefined) return null;
  const { mark } = found;
  const body = { offsetThenMs: mark.offsetMs, offsetNowMs: batch.offsetMs };
  const event = { id: uuidv5("clock moved", mark.id), deviceId: mark.deviceId, atMs: mark.madeAtMs, kind: "clock moved", body };
  await noteDeviceEvent(tx, { ...event, unitId });
  return event;
}
