// The thread of large reads, seen from the server's own: started when first needed, kept, and started anew should it ever fail.

import { Worker } from "node:worker_threads";
import type { Remote } from "comlink";
import comlink from "comlink";
import nodeEndpoint from "comlink/dist/umd/node-adapter.js";
import { targetOfDb } from "../../db/connection.ts";
import type { Deps } from "../../deps.ts";
import { Refusal } from "../../http/refusal.ts";
import { errorOf } from "../../threads/failure.ts";
import type { LargeRead } from "./largeReads.ts";
import type { Reader } from "./readWorker.ts";

/** Pages are a tenth of it; a thread that needs more ends, and only that. */
const MEMORY_MB = 256;

interface Thread {
  reader: Remote<Reader>;
  /** Told when the thread is gone: it answers nobody any more. */
  waiting: Set<(error: Error) => void>;
}
const threads = new Map<string, Thread>();

/** JSON to be sent as it is; what failed in the thread is thrown here, a Refusal 503 when the thread itself did. */
export async function readInThread({ db, workers }: Pick<Deps, "db" | "workers">, what: LargeRead): Promise<Uint8Array<ArrayBuffer>> {
  const { reader, waiting } = threadOf(new URL("readWorker.mjs", workers));
  const answer = await new Promise<Awaited<ReturnType<Reader["json"]>>>((done, fail) => {
    waiting.add(fail);
    reader
      .json(targetOfDb(db), what)
      .then(done, fail)
      .finally(() => waiting.delete(fail));
  });
  if (answer instanceof Uint8Array) return answer;
  throw errorOf(answer);
}

/** Starting the thread takes a third of a second: better before the first page asks. */
export async function wakeReadThread(deps: Pick<Deps, "db" | "workers">): Promise<void> {
  // A database that is away now is told to whoever asks for something.
  await readInThread(deps, { kind: "runs", filter: { latest: 1 } }).catch(() => undefined);
}

function threadOf(script: URL): Thread {
  const known = threads.get(script.href);
  if (known !== undefined) return known;
  const worker = new Worker(script, { resourceLimits: { maxOldGenerationSizeMb: MEMORY_MB } });
  const thread: Thread = { reader: comlink.wrap<Reader>(nodeEndpoint(worker)), waiting: new Set() };
  threads.set(script.href, thread);
  const over = (): void => {
    if (threads.get(script.href) === thread) threads.delete(script.href);
    for (const fail of thread.waiting) fail(gone());
    thread.waiting.clear();
  };
  worker.on("error", over).on("exit", over);
  // It holds no run and no write: it never keeps the server from ending.
  worker.unref();
  return thread;
}

const gone = (): Refusal =>
  new Refusal(503, "busy", "Not read", "The server had to stop reading half-way. Nothing was changed; try again.");
