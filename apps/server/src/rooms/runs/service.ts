// Runs as others read them, and the pace of their clock after each change.

import type { RunReply, RunsReply } from "@keep-rolling/contract/runs";
import type { RunFold } from "@keep-rolling/core/runs";
import { pace } from "../clocks/index.ts";
import { write } from "../../db/connection.ts";
import type { Deps } from "../../deps.ts";
import { Refusal } from "../../http/refusal.ts";
import type { Accepted, Batch } from "./acceptMarks.ts";
import { acceptMarks } from "./acceptMarks.ts";
import { readMarks } from "./markStore.ts";
import type { RunFilter } from "./runStore.ts";
import { addStrike, readChannels, readEvents, readRuns, readStrikes } from "./runStore.ts";

/** What a body did after its end still belongs on the run's page: the cooling, and the end itself as the device saw it. */
const AFTER_END_MS = 15 * 60_000;

export async function listRuns(deps: Deps, filter: RunFilter): Promise<RunsReply> {
  const windows = await readRuns(deps.db, filter);
  const marks = await readMarks(
    deps.db,
    windows.map((w) => w.row.id),
  );
  const runs = await Promise.all(
    windows.map(async (w) => {
      const gauge = await readChannels(deps.db, w.row.unitId, w.fromMs, w.toMs, "gauge");
      return { run: w.row, marks: marks.get(w.row.id) ?? [], gauge: gauge[0]?.readings ?? [] };
    }),
  );
  return { runs };
}

export async function readRun(deps: Deps, id: string): Promise<RunReply> {
  const [window] = await readRuns(deps.db, { ids: [id] });
  if (window === undefined)
    throw new Refusal(
      404,
      "not-found",
      "No such run",
      "There is no run at this address on this bench. A run started offline appears once its device has sent it.",
    );
  const { row, fromMs, toMs } = window;
  const untilMs = Math.min(Number.MAX_SAFE_INTEGER, toMs + AFTER_END_MS);
  const marks = (await readMarks(deps.db, [id])).get(id) ?? [];
  // Events first: a batch is one transaction, so whatever event is seen, its readings are there when they are read after it.
  const events = await readEvents(deps.db, row.unitId, fromMs, untilMs);
  return { run: row, marks, channels: await readChannels(deps.db, row.unitId, fromMs, toMs), events };
}

export async function takeMarks(deps: Deps, batch: Batch): Promise<Accepted> {
  const accepted = await acceptMarks(deps, batch);
  for (const { clockId, fold, acts } of accepted.changed) if (acts) await pace(deps, clockId, isCalm(fold));
  return accepted;
}

const isCalm = (fold: RunFold): boolean => fold.state !== "rolling";

export async function strike(deps: Deps, runId: string, id: string, reason: string): Promise<void> {
  await write(deps.db, async (tx) => {
    const [run] = await readRuns(tx, { ids: [runId] });
    if (run === undefined) throw new Refusal(404, "not-found", "No such run", "There is no run at this address on this bench.");
    const standing = (await readStrikes(tx)).get(runId);
    if (standing !== undefined && standing.id !== id)
      throw new Refusal(409, "already-there", "Already struck out", "This run is already struck out. Nothing was changed.");
    await addStrike(tx, { id, runId, reason, undoes: null, atMs: deps.now() });
  });
  deps.hub.publish({ type: "changed", what: "runs" });
}

export async function unstrike(deps: Deps, runId: string, id: string): Promise<void> {
  await write(deps.db, async (tx) => {
    const standing = (await readStrikes(tx)).get(runId);
    if (standing !== undefined) await addStrike(tx, { id, runId, reason: "", undoes: standing.id, atMs: deps.now() });
  });
  deps.hub.publish({ type: "changed", what: "runs" });
}
