// Heavy work off the page: one typed call, two workers. An abandoned job that does not end soon takes its worker with it, so that a newer
// question never waits behind a worthless answer.

import { proxy, wrap } from "comlink";
import { isNotLoaded, untilLoaded } from "../shared/api/untilLoaded.ts";
import type { JobWorker } from "./job.worker.ts";
import type { JobContext } from "./jobContext.ts";
import type { JobInput, JobName, JobOutput } from "./jobs.ts";

export interface CallOptions {
  signal?: AbortSignal;
  onProgress?: JobContext["onProgress"];
  /** Sent one at a time before the input, with the page answering in between. */
  parts?: readonly unknown[];
}

/** What the pool needs of a worker. */
interface Hand {
  run(...job: Parameters<JobWorker["run"]>): ReturnType<JobWorker["run"]>;
  part(...part: Parameters<JobWorker["part"]>): Promise<void>;
  end(): void;
  /** It answers nothing any more. */
  isBroken(): boolean;
}

const WORKERS = 2;
/** An aborted job may take this long to end by itself before its worker is ended. */
const GRACE_MS = 250;

export interface Pool {
  call<K extends JobName>(name: K, input: JobInput<K>, options?: CallOptions): Promise<JobOutput<K>>;
}

export function createPool(makeHand: () => Hand, size = WORKERS, graceMs = GRACE_MS): Pool {
  const idle: Hand[] = [];
  const waiting: ((hand: Hand) => void)[] = [];
  let made = 0;
  let jobs = 0;
  const free = (hand: Hand): void => {
    const next = waiting.shift();
    if (next === undefined) idle.push(hand);
    else next(hand);
  };
  const ended = (hand: Hand): void => {
    hand.end();
    made--;
    const next = waiting.shift();
    if (next !== undefined) next(fresh());
  };
  const fresh = (): Hand => {
    made++;
    return makeHand();
  };
  const take = (): Promise<Hand> => {
    const hand = idle.pop() ?? (made < size ? fresh() : undefined);
    return hand === undefined ? new Promise((got) => waiting.push(got)) : Promise.resolve(hand);
  };

  async function once<K extends JobName>(name: K, input: JobInput<K>, options: CallOptions): Promise<JobOutput<K>> {
    const { signal, onProgress, parts = [] } = options;
    const requestedAtMs = performance.now();
    const hand = await take();
    if (isAborted(signal)) {
      free(hand);
      throw abandoned();
    }
    const jobId = ++jobs;
    // Progress has a port of its own: what of it comes after the answer is old.
    let under = true;
    const work = (async () => {
      for (const part of parts) {
        await hand.part(jobId, part);
        await pause();
      }
      return hand.run(jobId, name, input, (done, of) => under && onProgress?.(done, of));
    })();
    const outcome = await settledOr(work, signal, graceMs);
    under = false;
    if (outcome === "hangs" || outcome === "not loaded" || hand.isBroken()) ended(hand);
    else free(hand);
    if (outcome === "hangs" || isAborted(signal)) throw abandoned();
    const { output, tookMs } = await work;
    // Read by the benchmark: from the question to the answer, and what the worker took of it.
    performance.measure(`job: ${name}`, { start: requestedAtMs, detail: tookMs });
    return output as JobOutput<K>;
  }
  return { call: (name, input, options = {}) => untilLoaded(() => once(name, input, options), options.signal) };
}

const isAborted = (signal: AbortSignal | undefined): boolean => signal?.aborted === true;
const abandoned = (): DOMException => new DOMException("a newer question was asked", "AbortError");
export const isAbandoned = (error: unknown): boolean => error instanceof DOMException && error.name === "AbortError";
const pause = (): Promise<void> => new Promise((done) => setTimeout(done, 0));

type Outcome = "settled" | "not loaded" | "hangs";

/** "settled" once the work has an answer or a failure; "hangs" when it was abandoned and did not end within `graceMs`. */
function settledOr(work: Promise<unknown>, signal: AbortSignal | undefined, graceMs: number): Promise<Outcome> {
  return new Promise((done) => {
    work.then(
      () => done("settled"),
      (error: unknown) => done(isNotLoaded(error) ? "not loaded" : "settled"),
    );
    const abandon = (): void => void setTimeout(() => done("hangs"), graceMs);
    if (signal?.aborted === true) abandon();
    else signal?.addEventListener("abort", abandon, { once: true });
  });
}

function webWorker(): Hand {
  const worker = new Worker(new URL("./job.worker.ts", import.meta.url), { type: "module" });
  // A script that did not come, or broke, answers nothing: every call through it must fail, not wait.
  let isBroken = false;
  const broken = new Promise<never>((_done, fail) =>
    worker.addEventListener("error", (event) => {
      isBroken = true;
      // Only what broke while it ran has words.
      const words = event instanceof ErrorEvent ? event.message : "";
      fail(new Error(words === "" ? "the module script of the worker did not come" : `a worker broke: ${words}`));
    }),
  );
  broken.catch(() => undefined);
  const remote = wrap<JobWorker>(worker);
  return {
    run: (jobId, name, input, onProgress) => Promise.race([remote.run(jobId, name, input, proxy(onProgress)), broken]),
    part: (jobId, part) => Promise.race([remote.part(jobId, part), broken]),
    end: () => worker.terminate(),
    isBroken: () => isBroken,
  };
}

/** The one of this page. */
export const pool = createPool(webWorker);

/** For clips, which take minutes each: questions of the page must not wait behind them. */
export const clipPool = createPool(webWorker);
