// One event stream per tab for all runs: at most four deliveries a second, a heartbeat, and a pulse to compare cursors with.

import type { StreamMessage } from "@keep-rolling/contract/live";
import type { Hono } from "hono";
import { streamSSE } from "hono/streaming";
import type { Deps } from "../deps.ts";
import { Refusal } from "../http/refusal.ts";
import type { Sent } from "./hub.ts";
import { readPulse } from "../rooms/runs/index.ts";
import { readSessions } from "../rooms/sessions/index.ts";

const DELIVER_EVERY_MS = 250;
/** The latest ones; older sessions no longer change under a page. */
const PULSE_SESSIONS = 50;
const HEARTBEAT_MS = 10_000;
/** What may wait for one reader, and how many may read at once. */
const WAITING_BYTES = 4_000_000;
const STREAMS_MOST = 200;

export interface LiveStreams {
  /** Ends every open stream: the first thing a stopping server does. */
  close(): void;
}

export function liveRoutes(app: Hono, deps: Deps): LiveStreams {
  const open = new Set<() => void>();
  app.get("/api/pulse", async (c) =>
    c.json({
      serverMs: deps.now(),
      runs: await readPulse(deps.db),
      sessions: (await readSessions(deps.db)).slice(0, PULSE_SESSIONS).map(({ id, lastSeq }) => ({ id, lastSeq })),
    }),
  );
  app.get("/api/stream", (c) => {
    if (open.size >= STREAMS_MOST)
      throw new Refusal(
        503,
        "busy",
        "Too many pages are open",
        "This bench feeds 200 pages at once. Close some; this one tries again by itself.",
      );
    c.header("cache-control", "no-store");
    return streamSSE(c, async (stream) => {
      // Subscribed before anything is read: what comes between is sent twice at most, and a reader drops repeats.
      const waiting: Pick<Sent, "text" | "cursor">[] = [];
      let [ended, bytes] = [false, 0];
      const end = (): void => void (ended = true);
      const missed = deps.hub.since(c.req.header("last-event-id") ?? "");
      const hello: StreamMessage = { type: "hello", serverMs: deps.now(), resumed: missed !== null };
      waiting.push({ text: JSON.stringify(hello), cursor: deps.hub.cursor }, ...(missed ?? []));
      const leave = deps.hub.subscribe((sent) => {
        bytes += sent.text.length;
        // A reader that does not keep up is let go; it comes again with its cursor and reads what it missed.
        if (bytes <= WAITING_BYTES) return void waiting.push(sent);
        waiting.length = 0;
        end();
        stream.abort();
      });
      open.add(end);
      stream.onAbort(end);
      let quietMs = 0;
      while (!ended) {
        const batch = waiting.splice(0);
        bytes = 0;
        const last = batch.at(-1);
        if (last !== undefined) {
          await stream.writeSSE({ event: "batch", id: last.cursor, data: `[${batch.map((w) => w.text).join(",")}]` });
          quietMs = 0;
        } else if (quietMs >= HEARTBEAT_MS) {
          await stream.writeSSE({ event: "beat", data: String(deps.now()) });
          quietMs = 0;
        }
        await stream.sleep(DELIVER_EVERY_MS);
        quietMs += DELIVER_EVERY_MS;
      }
      leave();
      open.delete(end);
    });
  });
  return { close: () => open.forEach((end) => end()) };
}
