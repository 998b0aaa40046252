// What a page asked, asked again by a client that does nothing else: the server's own share of a page's wait, without the browser that takes its
// scripts in on the same processors. As there, a request waits for the answers that had come before it was asked.

import { performance } from "node:perf_hooks";

export interface Request {
  /** So many answers had come; and milliseconds after the last of them, or after the page's first request where there was none. */
  answers: number;
  afterMs: number;
  method: string;
  path: string;
  body: string | null;
  /** The event stream: held open while the others are answered. */
  stream: boolean;
}

/** Each request but the stream's: milliseconds from asking to the last byte. */
export async function replayed(address: string, requests: readonly Request[]): Promise<{ what: string; ms: number }[]> {
  const ended = new AbortController();
  const came = turns();
  const ask = async ({ answers, afterMs, method, path, body, stream }: Request): Promise<{ what: string; ms: number } | null> => {
    await came.reached(answers);
    await new Promise((done) => setTimeout(done, afterMs));
    const from = performance.now();
    const asked = fetch(`${address}${path}`, {
      method,
      body,
      headers: { origin: address, "content-type": "application/json" },
      signal: ended.signal,
    });
    if (stream) {
      // Its bytes are dropped as they come; cut off at the end of the visit.
      asked
        .then(
          (reply) => reply.body?.pipeTo(new WritableStream()),
          () => undefined,
        )
        .catch(() => undefined);
      return null;
    }
    const reply = await asked;
    await reply.arrayBuffer();
    if (!reply.ok) throw new Error(`${method} ${path} was answered with ${reply.status}`);
    came.another();
    return { what: `${method} ${path}`, ms: performance.now() - from };
  };
  try {
    return (await Promise.all(requests.map(ask))).filter((asked) => asked !== null);
  } finally {
    ended.abort();
  }
}

/** Counts, and tells those who wait for a count. */
function turns() {
  let count = 0;
  const waiting: { for: number; go: () => void }[] = [];
  return {
    reached: (n: number): Promise<void> => (count >= n ? Promise.resolve() : new Promise((go) => waiting.push({ for: n, go }))),
    another: (): void => {
      count++;
      for (const w of waiting) if (w.for <= count) w.go();
    },
  };
}
