// Runs as this device sees them: what the server has, joined with what this device pressed and may not have sent yet.

import { recordApi } from "./api.ts";
import type { DeviceEvent } from "@keep-rolling/contract/devices";
import type { ListedRun, RunReply, RunRow } from "@keep-rolling/contract/runs";
import type { ChannelReading, HeatTrace, Mark, RunFold, ToldWarning } from "@keep-rolling/core/runs";
import { foldRun, heatTrace, toldWarning, unmarkedWarnings } from "@keep-rolling/core/runs";
import { useMemo, useState } from "react";
import type { RunsArg } from "./api.ts";
import { useDevice } from "./device.ts";
import type { Entry } from "./outbox.ts";

export interface SeenRun {
  id: string;
  /** Null: started on this device and not on the server yet. */
  row: RunRow | null;
  marks: readonly Mark[];
  fold: RunFold;
  trace: HeatTrace;
  /** Warnings of an ended run that a device told and nobody marked. */
  unmarked: readonly ToldWarning[];
}

/** What a run was folded from, and what came of it: the same arrays fold once, however many lists and pages show them. */
interface Folded {
  mine: readonly Mark[];
  gauge: readonly ChannelReading[];
  shell: readonly ChannelReading[];
  told: readonly DeviceEvent[];
  row: RunRow | null;
  run: SeenRun;
}
const folds = new WeakMap<object, Folded>();
const NONE: readonly never[] = [];

function seen(
  id: string,
  row: RunRow | null,
  onServer: readonly { mark: Mark }[],
  mine: readonly Mark[],
  gauge: readonly ChannelReading[] = NONE,
  shell: readonly ChannelReading[] = NONE,
  told: readonly DeviceEvent[] = NONE,
): SeenRun {
  const key = onServer.length > 0 ? onServer : mine;
  const before = folds.get(key);
  const sameMarks = before !== undefined && sameItems(before.mine, mine);
  if (sameMarks && before.gauge === gauge && before.shell === shell && before.told === told && before.row === row) return before.run;
  const marks = sameMarks ? before.run.marks : joined(onServer, mine);
  const fold = sameMarks ? before.run.fold : foldRun(marks);
  const run = {
    id,
    row,
    marks,
    fold,
    trace: heatTrace(fold, gauge, shell),
    unmarked: unmarkedWarnings(fold, marks, told.flatMap(toldWarning)),
  };
  folds.set(key, { mine, gauge, shell, told, row, run });
  return run;
}

const sameItems = (a: readonly unknown[], b: readonly unknown[]): boolean =>
  a === b || (a.length === b.length && a.every((x, i) => x === b[i]));

/** The pressed set of a run: server marks first, then those only this device has. */
function joined(onServer: readonly { mark: Mark }[], mine: readonly Mark[]): Mark[] {
  const known = new Set(onServer.map((m) => m.mark.id));
  return [...onServer.map((m) => m.mark), ...mine.filter((m) => !known.has(m.id))];
}

/** Marks of this device that stand for themselves, by run; what was set aside is not part of the record. */
function byRun(entries: readonly Entry[]): ReadonlyMap<string, readonly Mark[]> {
  const groups = new Map<string, Mark[]>();
  for (const { mark, delivery } of entries) {
    if (delivery === "set aside" || !("runId" in mark)) continue;
    const group = groups.get(mark.runId);
    if (group === undefined) groups.set(mark.runId, [mark]);
    else group.push(mark);
  }
  return groups;
}

/** Grouped once for all who ask. */
const grouped = new WeakMap<readonly Entry[], ReadonlyMap<string, readonly Mark[]>>();
function useMyMarks(): ReadonlyMap<string, readonly Mark[]> {
  const { entries } = useDevice().outbox;
  const known = grouped.get(entries) ?? byRun(entries);
  grouped.set(entries, known);
  return known;
}

/** Newest first. A run that only this device knows is listed too. `unread`: what the server has is not known, so an empty list says nothing. */
export function useRuns(arg: RunsArg, skip = false) {
  const query = recordApi.useRunsQuery(arg, { skip });
  const mine = useMyMarks();
  // Of this question only: while another unit is being read, the former one's runs must not speak for it.
  const { currentData } = query;
  const { unit, open } = arg;
  const runs = useMemo(() => seenRuns(currentData?.runs ?? [], mine, unit, open), [currentData, mine, unit, open]);
  return { ...query, runs, isLoading: query.isFetching && currentData === undefined, unread: currentData === undefined };
}

function seenRuns(
  listed: readonly ListedRun[],
  mine: ReadonlyMap<string, readonly Mark[]>,
  unit: string | undefined,
  open: "1" | undefined,
): SeenRun[] {
  const runs = listed.map((r) => seen(r.run.id, r.run, r.marks, mine.get(r.run.id) ?? NONE, r.gauge, NONE, r.told));
  const known = new Set(runs.map((r) => r.id));
  const offline = [...mine].filter(([id]) => !known.has(id)).map(([id, marks]) => seen(id, null, NONE, marks));
  const fits = (r: SeenRun): boolean =>
    r.fold.setup !== null && (unit === undefined || r.fold.setup.unit.id === unit) && (open === undefined || isOpen(r));
  return [
    ...offline.filter((r) => r.marks.some((m) => m.kind === "start") && fits(r)),
    ...runs.filter((r) => open === undefined || isOpen(r)),
  ];
}

export const isOpen = (run: SeenRun): boolean => run.fold.state === "rolling" || run.fold.state === "gap";

/** The array of before when it holds the same: an acknowledged mark of another run makes nothing anew. */
function useSame<T>(items: readonly T[]): readonly T[] {
  const [held, hold] = useState(items);
  if (held === items || sameItems(held, items)) return held;
  hold(items);
  return items;
}

/** The list of before while all that changed are marks of runs under way: pages about what has ended need not read everything anew. */
export function useEnded(runs: readonly SeenRun[]): readonly SeenRun[] {
  const [held, hold] = useState(runs);
  if (held === runs || (held.length === runs.length && runs.every((r, i) => alikeUntilItEnds(held[i], r)))) return held;
  hold(runs);
  return runs;
}

function alikeUntilItEnds(a: SeenRun | undefined, b: SeenRun): boolean {
  if (a === b) return true;
  if (a?.id !== b.id || !isOpen(a) || !isOpen(b)) return false;
  return a.fold.setup === b.fold.setup && a.fold.startMs === b.fold.startMs && a.row?.struck === b.row?.struck;
}

export function useRun(id: string) {
  const query = recordApi.useRunQuery(id);
  const mine = useMyMarks().get(id) ?? NONE;
  const own = useSame(mine);
  const { data } = query;
  const run = useMemo(() => oneRun(id, data, own), [id, data, own]);
  return { ...query, run };
}

/** One run with what devices said meanwhile, and when each mark came on record (server time). */
export type WatchedRun = SeenRun & Pick<RunReply, "channels" | "events"> & { received: ReadonlyMap<string, number> };

function oneRun(id: string, data: RunReply | undefined, own: readonly Mark[]): WatchedRun | null {
  if (data === undefined && own.length === 0) return null;
  const series = (name: string): readonly ChannelReading[] => data?.channels.find((c) => c.channel === name)?.readings ?? NONE;
  const run = seen(id, data?.run ?? null, data?.marks ?? NONE, own, series("gauge"), series("shell"), data?.events ?? NONE);
  const received = new Map((data?.marks ?? []).map((m) => [m.mark.id, m.receivedAtMs]));
  return { ...run, channels: data?.channels ?? [], events: data?.events ?? [], received };
}
