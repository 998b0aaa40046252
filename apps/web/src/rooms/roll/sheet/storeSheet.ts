// The rows of a notebook as runs: every mark of every row in one transaction of this device's store, so that all are kept or none.

import type { Clock } from "@keep-rolling/contract/clocks";
import type { Kit } from "@keep-rolling/contract/kit";
import { WARM_SHARE } from "@keep-rolling/core/heat";
import { setupSnapshot } from "@keep-rolling/core/kit";
import type { NotedRun } from "@keep-rolling/core/notebook";
import { factsOf } from "@keep-rolling/core/notebook";
import { tauMsOf } from "@keep-rolling/core/planning";
import type { StartBody } from "@keep-rolling/core/runs";
import { v7 as uuidv7 } from "uuid";
import { theOutbox } from "../../../record/device.ts";
import { draftMark } from "../../../record/pressing.ts";

export interface StoredRun {
  runId: string;
  startId: string;
  endId: string;
  startMs: number;
}

/** What is said once of the whole sheet. `plusMinusC` and `basis` count where a row has an ambient. */
export interface OfAll {
  protocolId: string;
  plusMinusC: number;
  basis: "measured" | "guessed";
}

/** `runs` by row; a row that follows another names it by its index. Throws, and stores none, when one cannot be made or the device's store refuses. */
export async function storeSheet(
  runs: readonly (NotedRun | null)[],
  kit: Kit,
  ofAll: OfAll,
  clock: Clock | undefined,
): Promise<StoredRun[]> {
  const ids = runs.map(() => uuidv7());
  const made = runs.flatMap((run, i) => {
    const runId = ids[i];
    if (run === null || runId === undefined) return [];
    const body = startBodyOf(run, kit, ofAll, ids);
    if (body === null) throw new Error(`row ${i + 1} names something that is no longer in the kit`);
    return [{ run, body, runId }];
  });
  const drafts = made.map(({ run, body, runId }) => [
    draftMark(runId, clock, "start", body, { atMs: run.startMs, source: "late" }),
    ...factsOf(run).map((f) => draftMark(runId, clock, f.kind, f.body as never, { atMs: run.startMs + f.afterMs, source: "late" })),
  ]);
  await theOutbox().press(drafts.flat());
  return made.map(({ run, runId }, i) => ({
    runId,
    startId: drafts[i]?.[0]?.id ?? "",
    endId: drafts[i]?.at(-1)?.id ?? "",
    startMs: run.startMs,
  }));
}

/** Takes them back: the start is undone at its own time, so that a run that never was heats no body. */
export async function undoSheet(stored: readonly StoredRun[], clock: Clock | undefined): Promise<void> {
  await theOutbox().press(
    stored.flatMap(({ runId, startId, endId, startMs }) => [
      draftMark(runId, clock, "undo", {}, { target: endId, atMs: startMs, source: "late" }),
      draftMark(runId, clock, "undo", {}, { target: startId, atMs: startMs, source: "late" }),
    ]),
  );
}

function startBodyOf(run: NotedRun, kit: Kit, ofAll: OfAll, ids: readonly string[]): StartBody | null {
  const unit = kit.units.find((u) => u.id === run.unitId);
  const model = kit.models.find((m) => m.id === unit?.modelId);
  const mode = kit.modes.find((m) => m.id === run.modeId);
  const condition = kit.conditions.find((c) => c.id === run.conditionId);
  const protocol = kit.protocols.find((p) => p.id === ofAll.protocolId);
  if (unit === undefined || model === undefined || mode === undefined || condition === undefined || protocol === undefined) return null;
  const setup = setupSnapshot({ unit, model, mode, condition, protocol });
  const parentRunId = run.follows === null ? undefined : ids[run.follows];
  return {
    runKind: parentRunId === undefined ? "endurance" : "recovery",
    ...setup,
    unit: { ...setup.unit, firmware: run.firmware },
    ambient:
      run.ambientC === null
        ? { valueC: setup.condition.ambientC, plusMinusC: setup.condition.toleranceC, basis: "not recorded" }
        : { valueC: run.ambientC, plusMinusC: ofAll.plusMinusC, basis: run.carried ? "as in the last run" : ofAll.basis },
    startState: startStateOf(run, tauMsOf(setup.protocol)),
    ...(parentRunId === undefined ? {} : { parentRunId }),
    origin: "notebook",
  };
}

const HOUR_MS = 3_600_000;

/** After a rest the body is cold once the heat of a shutdown has fallen to what still counts as cold. */
function startStateOf({ start }: NotedRun, tauMs: number): StartBody["startState"] {
  if (start.restMs === null) return { state: start.state, by: "not known" };
  const state = Math.exp(-start.restMs / tauMs) < WARM_SHARE ? "cold" : "warm";
  return { state, by: "hours since last powered", value: Math.floor((100 * start.restMs) / HOUR_MS) / 100 };
}
