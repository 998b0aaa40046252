// Runs as others read them, and the pace of their clock after each change.

import { idSchema } from "@keep-rolling/contract/primitives";
import type { RunReply } from "@keep-rolling/contract/runs";
import { z } from "zod";
import { write } from "../../db/connection.ts";
import type { Deps } from "../../deps.ts";
import { check } from "../../http/body.ts";
import { Refusal } from "../../http/refusal.ts";
import { readMarks } from "./markStore.ts";
import { addStrike, readChannels, readEvents, readRuns, readStrikes } from "./runStore.ts";

/** What a body did after its end still belongs on the run's page: the cooling, and the end itself as the device saw it. */
const AFTER_END_MS = 15 * 60_000;

/** `next` of the page before, as a place in the list; a Refusal 422 when it is none. */
export function cursorOf(text: string): { startedMs: number; id: string } {
  const [startedMs = "", id = ""] = text.split(" ");
  return { startedMs: check(z.coerce.number().int(), startedMs), id: check(idSchema, id) };
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

export async function strike(deps: Deps, runId: string, id: string, reason: string): Promise<void> {
  await write(deps.db, async (tx) => {
    const [run] = await readRuns(tx, { ids: [runId] });
    if (run === undefined) throw new Refusal(404, "not-found", "No such run", "There is no run at this address on this bench.");
    const standing = (await readStrikes(tx)).get(runId);
    if (standing !== undefined && standing.id !== id)
      throw new Refusal(409, "already-there", "Already left out", "This run is already left out. Nothing was changed.");
    await addStrike(tx, { id, runId, reason, undoes: null, atMs: deps.now() });
  });
  deps.hub.publish({ type: "changed", what: "runs", ids: [runId] });
}

export async function unstrike(deps: Deps, runId: string, id: string): Promise<void> {
  await write(deps.db, async (tx) => {
    const standing = (await readStrikes(tx)).get(runId);
    if (standing !== undefined) await addStrike(tx, { id, runId, reason: "", undoes: standing.id, atMs: deps.now() });
  });
  deps.hub.publish({ type: "changed", what: "runs", ids: [runId] });
}
