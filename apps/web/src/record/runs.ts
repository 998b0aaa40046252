// Runs as this device sees them: what the server has, joined with what this device pressed and may not have sent yet.

import type { RunReply, RunRow, RunsReply } from "@keep-rolling/contract/runs";
import type { ChannelReading, HeatTrace, Mark, RunFold } from "@keep-rolling/core/runs";
import { foldRun, heatTrace } from "@keep-rolling/core/runs";
import { useMemo } from "react";
import { api } from "../shared/api/api.ts";
import type { RunsArg } from "../shared/api/api.ts";
import { useDevice } from "./device.ts";

export interface SeenRun {
  id: string;
  /** Null: started on this device and not on the server yet. */
  row: RunRow | null;
  marks: readonly Mark[];
  fold: RunFold;
  trace: HeatTrace;
}

function seen(
  id: string,
  row: RunRow | null,
  marks: readonly Mark[],
  gauge: readonly ChannelReading[],
  shell: readonly ChannelReading[] = [],
): SeenRun {
  const fold = foldRun(marks);
  return { id, row, marks, fold, trace: heatTrace(fold, gauge, shell) };
}

/** The pressed set of a run: server marks first, then those only this device has. */
function joined(onServer: readonly { mark: Mark }[], mine: readonly Mark[]): Mark[] {
  const known = new Set(onServer.map((m) => m.mark.id));
  return [...onServer.map((m) => m.mark), ...mine.filter((m) => !known.has(m.id))];
}

/** Marks of this device that stand for themselves; what was set aside is not part of the record. */
export function useMyMarks(): readonly Mark[] {
  const { outbox } = useDevice();
  return useMemo(() => outbox.entries.filter((e) => e.delivery !== "set aside").map((e) => e.mark), [outbox.entries]);
}

/** Newest first. A run that only this device knows is listed too. */
export function useRuns(arg: RunsArg, skip = false) {
  const query = api.useRunsQuery(arg, { skip });
  const mine = useMyMarks();
  const { data } = query;
  const { unit, open } = arg;
  const runs = useMemo(() => seenRuns(data, mine, unit, open), [data, mine, unit, open]);
  return { ...query, runs };
}

function seenRuns(data: RunsReply | undefined, mine: readonly Mark[], unit: string | undefined, open: "1" | undefined): SeenRun[] {
  const runs = (data?.runs ?? []).map((r) =>
    seen(
      r.run.id,
      r.run,
      joined(
        r.marks,
        mine.filter((m) => m.runId === r.run.id),
      ),
      r.gauge,
    ),
  );
  const known = new Set(runs.map((r) => r.id));
  const offline = [...new Set(mine.map((m) => m.runId))]
    .filter((id) => !known.has(id))
    .map((id) =>
      seen(
        id,
        null,
        mine.filter((m) => m.runId === id),
        [],
      ),
    );
  const fits = (r: SeenRun): boolean =>
    r.fold.setup !== null && (unit === undefined || r.fold.setup.unit.id === unit) && (open === undefined || isOpen(r));
  return [
    ...offline.filter((r) => r.marks.some((m) => m.kind === "start") && fits(r)),
    ...runs.filter((r) => open === undefined || isOpen(r)),
  ];
}

export const isOpen = (run: SeenRun): boolean => run.fold.state === "rolling" || run.fold.state === "gap";

export function useRun(id: string) {
  const query = api.useRunQuery(id);
  const mine = useMyMarks();
  const { data } = query;
  const run = useMemo(() => oneRun(id, data, mine), [id, data, mine]);
  return { ...query, run };
}

/** One run with what devices said meanwhile, and when each mark came on record (server time). */
export type WatchedRun = SeenRun & Pick<RunReply, "channels" | "events"> & { received: ReadonlyMap<string, number> };

function oneRun(id: string, data: RunReply | undefined, mine: readonly Mark[]): WatchedRun | null {
  const own = mine.filter((m) => m.runId === id);
  if (data === undefined && own.length === 0) return null;
  const series = (name: string): readonly ChannelReading[] => data?.channels.find((c) => c.channel === name)?.readings ?? [];
  const run = seen(id, data?.run ?? null, joined(data?.marks ?? [], own), series("gauge"), series("shell"));
  const received = new Map((data?.marks ?? []).map((m) => [m.mark.id, m.receivedAtMs]));
  return { ...run, channels: data?.channels ?? [], events: data?.events ?? [], received };
}
