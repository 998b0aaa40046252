// One event stream per tab for all runs: at most four deliveries a second, a heartbeat, and a pulse to compare cursors with.

import type { StreamMessage } from "@keep-rolling/contract";
import type { Hono } from "hono";
import { streamSSE } from "hono/streaming";
import type { Deps } from "../deps.ts";
import { readPulse } from "../runs/index.ts";

const DELIVER_EVERY_MS = 250;
const HEARTBEAT_MS = 10_000;

export interface LiveStreams {
  /** Ends every open stream: the first thing a stopping server does. */
  close(): void;
}

export function liveRoutes(app: Hono, deps: Deps): LiveStreams {
  const open = new Set<() => void>();
  app.get("/api/pulse", async (c) => c.json({ serverMs: deps.now(), runs: await readPulse(deps.db) }));
  app.get("/api/stream", (c) => {
    c.header("cache-control", "no-store");
    return streamSSE(c, async (stream) => {
      const waiting: StreamMessage[] = [{ type: "hello", serverMs: deps.now() }];
      let ended = false;
      const end = (): void => void (ended = true);
      const leave = deps.hub.subscribe((message) => void waiting.push(message));
      open.add(end);
      stream.onAbort(end);
      let quietMs = 0;
      while (!ended) {
        if (waiting.length > 0) {
          await stream.writeSSE({ event: "batch", data: JSON.stringify(waiting.splice(0)) });
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
