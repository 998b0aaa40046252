// One thread for archives, one job at a time. It is kept for a while, because starting it costs half a second; a job whose requester has left is
// ended with its thread, and the next job starts another.

import { Worker } from "node:worker_threads";
import { Refusal } from "../../http/refusal.ts";

/** A hostile file may fill this much and no more: then its thread ends, and only that. */
const MEMORY_MB = 256;
const IDLE_MS = 30_000;

interface Thread {
  worker: Worker | null;
  idle: NodeJS.Timeout | undefined;
  last: Promise<unknown>;
}
const threads = new Map<string, Thread>();

/** The thread's answer to `job`; a Refusal when it was stopped, needed too much memory, or longer than `budgetMs` of its own turn. */
export function runInThread<T>(script: URL, job: unknown, signal: AbortSignal, budgetMs = Number.POSITIVE_INFINITY): Promise<T> {
  const thread = threads.get(script.href) ?? { worker: null, idle: undefined, last: Promise.resolve() };
  threads.set(script.href, thread);
  const answer = thread.last.then(() => (signal.aborted ? Promise.reject(stopped()) : one<T>(thread, script, job, signal, budgetMs)));
  thread.last = answer.catch(() => undefined);
  return answer;
}

function one<T>(thread: Thread, script: URL, job: unknown, signal: AbortSignal, budgetMs: number): Promise<T> {
  clearTimeout(thread.idle);
  const worker = (thread.worker ??= started(thread, script));
  worker.ref();
  return new Promise<T>((done, fail) => {
    // Its connection goes with it, so the database rolls back what it had begun.
    const leave = (): void => void worker.terminate();
    const onMessage = (answer: T): void => settle(() => done(answer));
    const onError = (error: NodeJS.ErrnoException): void =>
      settle(() => fail(error.code === "ERR_WORKER_OUT_OF_MEMORY" ? tooLarge() : error));
    const onExit = (): void => settle(() => fail(overdue ? tooSlow() : stopped()));
    let overdue = false;
    const late = (): void => {
      overdue = true;
      leave();
    };
    const timer = Number.isFinite(budgetMs) ? setTimeout(late, budgetMs) : undefined;
    const settle = (end: () => void): void => {
      clearTimeout(timer);
      signal.removeEventListener("abort", leave);
      worker.off("message", onMessage).off("error", onError).off("exit", onExit);
      end();
    };
    worker.once("message", onMessage).once("error", onError).once("exit", onExit);
    signal.addEventListener("abort", leave, { once: true });
    worker.postMessage(job);
  }).finally(() => {
    worker.unref();
    thread.idle = setTimeout(() => {
      // Told to end it has not ended yet: a job that comes meanwhile must not be given to it.
      const idle = thread.worker;
      thread.worker = null;
      void idle?.terminate();
    }, IDLE_MS);
    thread.idle.unref();
  });
}

function started(thread: Thread, script: URL): Worker {
  const worker = new Worker(script, { resourceLimits: { maxOldGenerationSizeMb: MEMORY_MB } });
  // A thread that failed takes no further job, though it has not ended yet.
  const over = (): void => {
    if (thread.worker === worker) thread.worker = null;
  };
  return worker.on("error", over).on("exit", over);
}

const stopped = (): Refusal => new Refusal(409, "stopped", "Stopped", "It was stopped before its end. Nothing was changed.");
const tooSlow = (): Refusal =>
  new Refusal(
    413,
    "too-large",
    "Too long to open",
    "It takes far longer than a file of its size should, and others wait for their turn. Nothing was changed.",
  );
const tooLarge = (): Refusal =>
  new Refusal(413, "too-large", "Too large to open", "What is in it needs more memory than there is for it. Nothing was changed.");
