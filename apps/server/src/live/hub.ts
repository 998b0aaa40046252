// The hub: what was committed goes to every open stream. It remembers the last messages under a cursor, so that a stream that was cut
// off goes on where it was; one that missed more is told so and reads again. The database is the truth.

import { randomUUID } from "node:crypto";
import type { StreamMessage } from "@keep-rolling/contract/live";

/** Enough for minutes of a busy bench. */
const REMEMBERED = 2000;

export interface Hub {
  publish(message: StreamMessage): void;
  /** Returns the way to leave. */
  subscribe(listener: (message: StreamMessage, cursor: string) => void): () => void;
  /** Where a stream that starts now stands. */
  readonly cursor: string;
  /** What came after a cursor; null when that is not known any more, or was another server's. */
  since(cursor: string): { message: StreamMessage; cursor: string }[] | null;
  readonly listeners: number;
}

export function createHub(): Hub {
  const listeners = new Set<(message: StreamMessage, cursor: string) => void>();
  const epoch = randomUUID();
  const recent: { n: number; message: StreamMessage }[] = [];
  let last = 0;
  const cursorOf = (n: number): string => `${epoch}:${n}`;
  return {
    publish: (message) => {
      last++;
      recent.push({ n: last, message });
      if (recent.length > REMEMBERED) recent.shift();
      for (const listener of listeners) listener(message, cursorOf(last));
    },
    subscribe: (listener) => {
      listeners.add(listener);
      return () => void listeners.delete(listener);
    },
    get cursor() {
      return cursorOf(last);
    },
    since: (cursor) => {
      const [of, n] = cursor.split(":");
      const from = Number(n);
      if (of !== epoch || !Number.isInteger(from) || from > last || from < last - recent.length) return null;
      return recent.filter((r) => r.n > from).map((r) => ({ message: r.message, cursor: cursorOf(r.n) }));
    },
    get listeners() {
      return listeners.size;
    },
  };
}
