// The live stream feeds the query cache. A stream cut off goes on from its cursor where the server still knows it. A hole in a run's cursor, or a run not seen before, is asked for again; while the stream
// is down, and every few seconds besides, a pulse compares cursors.

import type { RunsReply } from "@keep-rolling/contract/runs";
import type { StoredMark } from "@keep-rolling/contract/marks";
import type { StreamMessage } from "@keep-rolling/contract/live";
import { pulseReply, streamMessage } from "@keep-rolling/contract/live";
import { z } from "zod";
import { api } from "../shared/api/api.ts";
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
      void store.dispatch(api.endpoints.clocks.initiate(undefined, { forceRefetch: true, subscribe: false }));
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
        if (message.type === "hello" && !message.resumed && hellos++ > 0)
          store.dispatch(api.util.invalidateTags(["Kit", "Runs", "Limits", "Devices"]));
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

/** What is read again when something changed. */
const STALE = { kit: ["Kit", "Limits"], limits: ["Limits"], runs: ["Runs", "Limits"], devices: ["Devices"] } as const;

/** One message of the stream into the query cache. */
export function take(store: Cache, message: StreamMessage): void {
  if (message.type === "marks") takeMarks(store, message.runId, message.marks);
  else if (message.type === "clocks") {
    void store.dispatch(api.util.upsertQueryData("clocks", undefined, { clocks: message.clocks, serverMs: Date.now() }));
  } else if (message.type === "events") takeEvents(store, message);
  else if (message.type === "changed") {
    store.dispatch(api.util.invalidateTags([...STALE[message.what]]));
  }
}

type CachedRun = RunsReply["runs"][number];

function takeMarks(store: Cache, runId: string, marks: readonly StoredMark[]): void {
  let hole = false;
  const append = (run: Pick<CachedRun, "run" | "marks">): void => {
    for (const mark of marks) {
      if (run.marks.some((m) => m.mark.id === mark.mark.id)) continue;
      if (mark.seq !== (run.marks.at(-1)?.seq ?? 0) + 1) hole = true;
      run.marks.push(mark);
    }
    run.run.lastSeq = Math.max(run.run.lastSeq, run.marks.at(-1)?.seq ?? 0);
  };
  eachCached(store, (endpoint, arg) => {
    if (endpoint === "run" && arg === runId) store.dispatch(api.util.updateQueryData("run", runId, append));
    else if (endpoint === "runs") {
      store.dispatch(
        api.util.updateQueryData("runs", arg as object, (draft) => {
          const run = draft.runs.find((r) => r.run.id === runId);
          if (run === undefined) hole = true;
          else append(run);
        }),
      );
    }
  });
  // A new start, an end or an undo may change which lists a run is in, and what the limits say.
  const acts = marks.some((m) => ["start", "end", "undo", "correction"].includes(m.mark.kind));
  if (hole || acts) store.dispatch(api.util.invalidateTags(acts ? ["Runs", "Limits"] : ["Runs"]));
}

function takeEvents(store: Cache, message: Extract<StreamMessage, { type: "events" }>): void {
  eachCached(store, (endpoint, arg) => {
    if (endpoint === "run" && arg === message.runId) {
      store.dispatch(
        api.util.updateQueryData("run", message.runId, (draft) => {
          for (const event of message.events) if (!draft.events.some((e) => e.id === event.id)) draft.events.push(event);
          for (const { channel, unit, atMs, value } of message.readings) {
            const known = draft.channels.find((c) => c.channel === channel);
            if (known === undefined) draft.channels.push({ channel, unit, readings: [{ atMs, value }] });
            else known.readings.push({ atMs, value });
          }
        }),
      );
    } else if (endpoint === "runs") {
      store.dispatch(
        api.util.updateQueryData("runs", arg as object, (draft) => {
          const run = draft.runs.find((r) => r.run.id === message.runId);
          run?.gauge.push(...message.readings.filter((r) => r.channel === "gauge").map(({ atMs, value }) => ({ atMs, value })));
        }),
      );
    }
  });
}

function eachCached(store: Cache, visit: (endpoint: string, arg: unknown) => void): void {
  for (const entry of Object.values(store.getState().api.queries)) {
    if (entry?.data !== undefined) visit(entry.endpointName ?? "", entry.originalArgs);
  }
}

export async function pulse(store: Cache): Promise<void> {
  const reply = await fetch("/api/pulse", { cache: "no-store" });
  if (!reply.ok) return;
  const { runs } = pulseReply.parse(await reply.json());
  const shown = new Map<string, number>();
  for (const entry of Object.values(store.getState().api.queries)) {
    const rows =
      entry?.endpointName === "run"
        ? [entry.data as { run?: CachedRun["run"] } | undefined]
        : entry?.endpointName === "runs"
          ? (entry.data as RunsReply | undefined)?.runs
          : [];
    for (const row of rows ?? []) if (row?.run !== undefined) shown.set(row.run.id, row.run.lastSeq);
  }
  // A run that is not shown may only be another unit's: it is looked for once by each set of lists shown, not at every pulse.
  const looked = lookedFor(store);
  const lists = Object.keys(store.getState().api.queries).sort().join("\n");
  const unknown = runs.filter(
    (r) => !shown.has(r.id) && !looked.has(`${r.id}\n${lists}`) && shown.size > 0 && ["rolling", "gap"].includes(r.status),
  );
  for (const { id } of unknown) looked.add(`${id}\n${lists}`);
  const behind = unknown.length > 0 || runs.some((r) => shown.has(r.id) && r.lastSeq > (shown.get(r.id) ?? 0));
  if (behind) store.dispatch(api.util.invalidateTags(["Runs"]));
}

const LOOKED = new WeakMap<Cache, Set<string>>();
function lookedFor(store: Cache): Set<string> {
  const known = LOOKED.get(store) ?? new Set<string>();
  LOOKED.set(store, known);
  return known;
}
