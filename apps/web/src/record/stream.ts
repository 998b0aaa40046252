// The live stream feeds the query cache. A stream cut off goes on from its cursor where the server still knows it. A hole in a run's cursor, or a run not seen before, is asked for again; while the stream
// is down, and every few seconds besides, a pulse compares cursors.

import type { RunsArg } from "./api.ts";
import { recordApi, noteHeard } from "./api.ts";
import { book } from "./book.ts";
import type { ListedRun, RunReply } from "@keep-rolling/contract/runs";
import type { StreamMessage } from "@keep-rolling/contract/live";
import { pulseReply, streamMessage } from "@keep-rolling/contract/live";
import { QueryStatus } from "@reduxjs/toolkit/query";
import { z } from "zod";
import { api } from "../shared/api/api.ts";
import type { SessionReply } from "@keep-rolling/contract/sessions";
import { sessionApi } from "./sessions.ts";
import type { RootState, Store } from "../app/store.ts";

const PULSE_DOWN_MS = 1000;
const PULSE_UP_MS = 5000;
const batch = z.array(streamMessage);

/** What of the store the stream needs. */
export interface Cache {
  dispatch: Store["dispatch"];
  getState: () => Pick<RootState, "api">;
}

const REOPEN_MS = 3000;

export function startStream(store: Store): void {
  let up = false;
  let hellos = 0;
  let source: EventSource | null = null;
  const open = (): void => {
    const stream = new EventSource("/api/stream");
    source = stream;
    stream.addEventListener("open", () => {
      up = true;
      void store.dispatch(recordApi.endpoints.clocks.initiate(undefined, { forceRefetch: true, subscribe: false }));
    });
    stream.addEventListener("error", () => {
      up = false;
      // A refusal (no passphrase yet) closes it for good; a lost connection it mends itself.
      if (stream.readyState === EventSource.CLOSED) setTimeout(open, REOPEN_MS);
    });
    stream.addEventListener("batch", (event) => {
      const parsed = batch.safeParse(JSON.parse(String(event.data)));
      if (!parsed.success) return;
      for (const message of parsed.data) {
        // What was missed is read again, unless the server goes on from where this stream was; at the first opening all is fresh.
        if (message.type === "hello" && !message.resumed && hellos++ > 0) startOver(store);
        take(store, message);
      }
    });
  };
  open();
  addEventListener("pagehide", () => source?.close());
  const beat = async (): Promise<void> => {
    await pulse(store).catch(() => undefined);
    setTimeout(() => void beat(), up ? PULSE_UP_MS : PULSE_DOWN_MS);
  };
  setTimeout(() => void beat(), PULSE_DOWN_MS);
}

/** All is read again, and nothing taken from before: the server may stand on a copy that was put back, and know less than this tab. */
export function startOver(store: Pick<Cache, "dispatch">): void {
  book.clear();
  store.dispatch(api.util.invalidateTags(["Kit", "RunList", "Run", "Limits", "Devices", "Sessions", "Session", "Walk"]));
}

/** What is read again when something changed; runs that are named only themselves. */
function staleBy({ what, ids }: Extract<StreamMessage, { type: "changed" }>) {
  if (what === "kit") return ["Kit" as const, "Limits" as const];
  if (what === "limits") return ["Limits" as const];
  if (what === "devices") return ["Devices" as const];
  if (what === "walks")
    return ids === undefined
      ? ["Walk" as const, "Sessions" as const, "Session" as const]
      : ids.map((id) => ({ type: "Walk" as const, id }));
  const runs = ids === undefined ? ["Run" as const] : ids.map((id) => ({ type: "Run" as const, id }));
  return ["RunList" as const, "Limits" as const, ...runs];
}

/** One message of the stream into the query cache. */
export function take(store: Cache, message: StreamMessage): void {
  if (message.type === "marks") takeMarks(store, message);
  else if (message.type === "clocks") {
    void store.dispatch(recordApi.util.upsertQueryData("clocks", undefined, { clocks: message.clocks, serverMs: Date.now() }));
  } else if (message.type === "events") takeEvents(store, message);
  else if (message.type === "facts") takeFacts(store, message);
  else if (message.type === "changed") {
    store.dispatch(api.util.invalidateTags(staleBy(message)));
  }
}

/** Facts of a session into its own answer; a hole, or a session not listed yet, is asked for. */
function takeFacts(store: Cache, { sessionId, facts }: Extract<StreamMessage, { type: "facts" }>): void {
  let hole = false;
  eachCached(store, (endpoint, arg, data) => {
    if (endpoint !== "session" || arg !== sessionId) return;
    const { facts: known } = data as SessionReply;
    const last = known.at(-1)?.seq ?? 0;
    const fresh = facts.filter((f) => f.seq > last);
    if (fresh[0] !== undefined && fresh[0].seq !== last + 1) hole = true;
    else if (fresh.length > 0)
      store.dispatch(sessionApi.util.updateQueryData("session", sessionId, (draft) => ({ ...draft, facts: [...known, ...fresh] })));
  });
  if (hole || unread(store, sessionId)) store.dispatch(api.util.invalidateTags([{ type: "Session", id: sessionId }]));
  if (facts.some((f) => f.fact.kind === "begin" || f.fact.kind === "undo")) store.dispatch(api.util.invalidateTags(["Sessions"]));
}

type Marks = Extract<StreamMessage, { type: "marks" }>;
type Cached = Pick<ListedRun, "run" | "marks">;

/** A mark costs what it shows: the run's own arrays and row, in place. Only a new run, or a hole, makes a list be read again. */
function takeMarks(store: Cache, { runId, marks, row }: Marks): void {
  const leaf = book.append(runId, marks);
  noteHeard(runId);
  // Opened before the server knew it: what came meanwhile is read then.
  let hole = unread(store, runId);
  let unlisted = false;
  const patched = <R extends Cached>(known: R): R => {
    const fresh = marks.filter((m) => m.seq > (known.marks.at(-1)?.seq ?? 0));
    if (fresh[0] !== undefined && fresh[0].seq !== (known.marks.at(-1)?.seq ?? 0) + 1) hole = true;
    const all = leaf?.marks ?? [...known.marks, ...fresh];
    return { ...known, marks: all, run: { ...known.run, ...row, lastSeq: Math.max(known.run.lastSeq, all.at(-1)?.seq ?? 0) } };
  };
  eachCached(store, (endpoint, arg, data) => {
    if (endpoint === "run" && arg === runId) store.dispatch(recordApi.util.updateQueryData("run", runId, () => patched(data as RunReply)));
    else if (endpoint === "runs") {
      const { runs } = data as { runs: ListedRun[] };
      const at = runs.findIndex((r) => r.run.id === runId);
      const known = runs[at];
      if (known === undefined) unlisted = true;
      else store.dispatch(recordApi.util.updateQueryData("runs", arg as RunsArg, () => ({ runs: runs.with(at, patched(known)) })));
    }
  });
  // Which lists a run is in changes with its start, its end and what takes them back; any other mark of a run not listed is of another list.
  const moves = unlisted && row !== null;
  if (hole) store.dispatch(api.util.invalidateTags(["RunList", { type: "Run", id: runId }]));
  else if (moves) store.dispatch(api.util.invalidateTags(["RunList"]));
  if (
    row !== null &&
    (row.status === "ended" || row.status === "void" || marks.some((m) => m.mark.kind === "undo" || m.mark.kind === "correction"))
  )
    store.dispatch(api.util.invalidateTags(["Limits"]));
}

function takeEvents(store: Cache, message: Extract<StreamMessage, { type: "events" }>): void {
  noteHeard(message.runId);
  if (unread(store, message.runId)) store.dispatch(api.util.invalidateTags([{ type: "Run", id: message.runId }]));
  const steps = message.readings.filter((r) => r.channel === "gauge").map(({ atMs, value }) => ({ atMs, value }));
  book.gauge(message.runId, steps);
  const leaf = book.told(message.runId, message.events);
  const warned = message.events.some((e) => e.kind === "warning");
  eachCached(store, (endpoint, arg, data) => {
    if (endpoint === "run" && arg === message.runId) {
      store.dispatch(
        recordApi.util.updateQueryData("run", message.runId, (draft) => {
          for (const event of message.events) if (!draft.events.some((e) => e.id === event.id)) draft.events.push(event);
          for (const { channel, unit, atMs, value } of message.readings) {
            const known = draft.channels.find((c) => c.channel === channel);
            if (known === undefined) draft.channels.push({ channel, unit, readings: [{ atMs, value }] });
            else known.readings.push({ atMs, value });
          }
        }),
      );
    } else if (endpoint === "runs" && (steps.length > 0 || warned)) {
      const { runs } = data as { runs: ListedRun[] };
      const at = runs.findIndex((r) => r.run.id === message.runId);
      const known = runs[at];
      if (known === undefined) return;
      const { gauge, told } = leaf ?? { gauge: [...known.gauge, ...steps], told: known.told };
      store.dispatch(recordApi.util.updateQueryData("runs", arg as RunsArg, () => ({ runs: runs.with(at, { ...known, gauge, told }) })));
    }
  });
}

/** A page of this run is open whose question failed, as it does before the server knows the run. */
const unread = (store: Cache, runId: string): boolean =>
  (Object.values(store.getState().api.queries) as (CachedQuery | undefined)[]).some(
    (entry) =>
      ["run", "session"].includes(entry?.endpointName ?? "") &&
      entry?.originalArgs === runId &&
      entry.data === undefined &&
      entry.status === QueryStatus.rejected,
  );
interface CachedQuery {
  endpointName?: string;
  originalArgs?: unknown;
  data?: unknown;
  status: QueryStatus;
}

function eachCached(store: Cache, visit: (endpoint: string, arg: unknown, data: unknown) => void): void {
  for (const entry of Object.values(store.getState().api.queries)) {
    if (entry?.data !== undefined) visit(entry.endpointName ?? "", entry.originalArgs, entry.data);
  }
}

export async function pulse(store: Cache): Promise<void> {
  const reply = await fetch("/api/pulse", { cache: "no-store" });
  if (!reply.ok) return;
  const { runs, sessions } = pulseReply.parse(await reply.json());
  const seqs = new Map(sessions.map((s) => [s.id, s.lastSeq]));
  eachCached(store, (endpoint, arg, data) => {
    const id = arg as string;
    if (endpoint === "session" && (seqs.get(id) ?? 0) > ((data as SessionReply).facts.at(-1)?.seq ?? 0))
      store.dispatch(api.util.invalidateTags([{ type: "Session", id }]));
  });
  for (const { id } of sessions) if (unread(store, id)) store.dispatch(api.util.invalidateTags([{ type: "Session", id }]));
  const shown = new Map<string, number>();
  let listed = false;
  eachCached(store, (endpoint, _arg, data) => {
    const rows = endpoint === "run" ? [data as Cached] : endpoint === "runs" ? (data as { runs: Cached[] }).runs : [];
    listed ||= endpoint === "run" || endpoint === "runs";
    for (const { run } of rows) shown.set(run.id, Math.min(run.lastSeq, shown.get(run.id) ?? run.lastSeq));
  });
  // A run that is not shown may only be another unit's: it is looked for once by each set of lists shown, not at every pulse.
  const looked = lookedFor(store);
  const lists = Object.keys(store.getState().api.queries).sort().join("\n");
  const unknown = runs.filter(
    (r) => !shown.has(r.id) && !looked.has(`${r.id}\n${lists}`) && listed && ["rolling", "gap"].includes(r.status),
  );
  for (const { id } of unknown) looked.add(`${id}\n${lists}`);
  const behind = runs
    .filter((r) => r.lastSeq > (shown.get(r.id) ?? Number.POSITIVE_INFINITY) || unread(store, r.id))
    .map(({ id }) => ({ type: "Run" as const, id }));
  if (unknown.length > 0 || behind.length > 0) store.dispatch(api.util.invalidateTags(["RunList", ...behind]));
}

const LOOKED = new WeakMap<Cache, Set<string>>();
function lookedFor(store: Cache): Set<string> {
  const known = LOOKED.get(store) ?? new Set<string>();
  LOOKED.set(store, known);
  return known;
}
