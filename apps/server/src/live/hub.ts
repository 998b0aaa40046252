// The hub: what was committed goes to every open stream. It holds nothing: the database is the truth, and a stream that missed
// something asks again.

import type { StreamMessage } from "@keep-rolling/contract";

export interface Hub {
  publish(message: StreamMessage): void;
  /** Returns the way to leave. */
  subscribe(listener: (message: StreamMessage) => void): () => void;
  readonly listeners: number;
}

export function createHub(): Hub {
  const listeners = new Set<(message: StreamMessage) => void>();
  return {
    publish: (message) => {
      for (const listener of listeners) listener(message);
    },
    subscribe: (listener) => {
      listeners.add(listener);
      return () => void listeners.delete(listener);
    },
    get listeners() {
      return listeners.size;
    },
  };
}
