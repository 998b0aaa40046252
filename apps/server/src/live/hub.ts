// The hub: what was committed goes to every open stream. It remembers the last messages under a cursor, so that a stream that was cut
// off goes on where it was; one that missed more is told so and reads again. The database is the truth.

import { randomUUID } from "node:crypto";
import type { StreamMessage } from "@keep-rolling/contract/live";

/** Enough for minutes of a busy bench; large messages fill it sooner. */
const REMEMBERED = 2000;
const REMEMBERED_BYTES = 16_000_000;

/** A message as every stream sends it: written out once, however many listen. */
export interface Sent {
  message: StreamMessage;
  text: string;
  cursor: string;
}

export interface Hub {
  publish(message: StreamMessage): void;
  /** Returns the way to leave. */
  subscribe(listener: (sent: Sent) => void): () => void;
  /** Where a stream that starts now stands. */
  readonly cursor: string;
  /** What came after a cursor; null when that is not known any more, or was another server's. */
  since(cursor: string): Sent[] | null;
  readonly listeners: number;
}

export function createHub(): Hub {
  const listeners = new Set<(sent: Sent) => void>();
  const epoch = randomUUID();
  const recent: { n: number; sent: Sent }[] = [];
  let [last, bytes] = [0, 0];
  const cursorOf = (n: number): string => `${epoch}:${n}`;
  return {
    publish: (message) => {
      const sent = { message, text: JSON.stringify(message), cursor: cursorOf(++last) };
      recent.push({ n: last, sent });
      bytes += sent.text.length;
      while (recent.length > REMEMBERED || bytes > REMEMBERED_BYTES) bytes -= recent.shift()?.sent.text.length ?? 0;
      for (const listener of listeners) listener(sent);
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
      return recent.filter((r) => r.n > from).map((r) => r.sent);
    },
    get listeners() {
      return listeners.size;
    },
  };
}
