// What of the fold is kept beside a run: enough for lists, and for limits to be held against their cell, without reading a single mark. A
// cache: it can be dropped and made again from the marks at any time, and is, when the fold has learned something.

import { createHash } from "node:crypto";
import type { RunRow } from "@keep-rolling/contract/runs";
import { countedAlone } from "@keep-rolling/core/cells";
import { anyFirmwareKey } from "@keep-rolling/core/kit";
import type { RunFold } from "@keep-rolling/core/runs";
import { ENDPOINTS, FOLD_VERSION, summarise } from "@keep-rolling/core/runs";

export type CachedRow = Pick<RunRow, "status" | "startedMs" | "endedMs" | "recordedMs" | "endCause">;

export function cachedRow(fold: RunFold): CachedRow {
  const over = fold.state === "ended" || fold.state === "void";
  return {
    status: fold.state,
    startedMs: fold.startMs ?? 0,
    endedMs: fold.end?.hiMs ?? null,
    recordedMs: over ? summarise(fold, 0).recordedMs : null,
    endCause: fold.end?.cause ?? null,
  };
}

export const cellSha = (setup: Parameters<typeof anyFirmwareKey>[0]): string =>
  createHash("sha256").update(anyFirmwareKey(setup)).digest("hex");

/** The cached columns of table run. */
export function cacheColumns(runId: string, fold: RunFold): Record<string, string | number | null> {
  const row = cachedRow(fold);
  const observed = Object.fromEntries(ENDPOINTS.map((endpoint) => [endpoint, countedAlone(runId, fold, endpoint)]));
  return {
    status: row.status,
    ...(fold.startMs === null ? {} : { started_ms: fold.startMs }),
    ended_ms: row.endedMs,
    recorded_lo_ms: row.recordedMs?.lo ?? null,
    recorded_hi_ms: row.recordedMs?.hi ?? null,
    end_cause: row.endCause,
    any_firmware_sha: fold.setup === null ? null : cellSha(fold.setup),
    firmware: fold.setup?.unit.firmware ?? null,
    // A run entered under the wrong body or mode is corrected by a fact.
    ...(fold.setup === null
      ? {}
      : { unit_id: fold.setup.unit.id, mode_id: fold.setup.mode.id, parent_run_id: fold.setup.parentRunId ?? null }),
    observed: JSON.stringify(observed),
    fold_v: FOLD_VERSION,
  };
}
