// A question to a worker, asked anew whenever it changes. The last answer stays until the new one is there.

import { startTransition, useEffect, useState } from "react";
import { isAbandoned } from "../../workers/pool.ts";

export interface Reading<T> {
  answer: T | null;
  /** The answer belongs to an older question. */
  stale: boolean;
  trouble: string | null;
}

/** `question` and `ask` must be the same object as long as nothing changed. */
export function useAnswer<Q, T>(question: Q | null, ask: (question: Q, signal: AbortSignal) => Promise<T>): Reading<T> {
  const [got, setGot] = useState<{ question: Q; answer: T } | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  useEffect(() => {
    if (question === null) return;
    const asking = new AbortController();
    ask(question, asking.signal).then(
      // Drawn piece by piece: keys and presses come first.
      (answer) =>
        startTransition(() => {
          setTrouble(null);
          setGot({ question, answer });
        }),
      (error: unknown) => {
        if (!isAbandoned(error)) setTrouble(error instanceof Error ? error.message : String(error));
      },
    );
    return () => asking.abort();
  }, [question, ask]);
  return { answer: got?.answer ?? null, stale: got?.question !== question, trouble };
}
