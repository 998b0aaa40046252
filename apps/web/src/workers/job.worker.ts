// The one worker script: does a named job when asked.

import { expose } from "comlink";
import type { JobContext } from "./jobContext.ts";
import type { JobName } from "./jobs.ts";
import { JOBS } from "./jobs.ts";

const parts = new Map<number, unknown[]>();

/** A job that throws rejects on the page; its parts are forgotten either way. */
async function run(
  jobId: number,
  name: JobName,
  input: unknown,
  onProgress: JobContext["onProgress"],
): Promise<{ output: unknown; tookMs: number }> {
  const sent = parts.get(jobId) ?? [];
  parts.delete(jobId);
  const job = (await JOBS[name]()) as { run(input: unknown, context: JobContext): unknown };
  const from = performance.now();
  const output = await job.run(input, { parts: sent, onProgress });
  return { output, tookMs: performance.now() - from };
}

const worker = {
  run,
  part: (jobId: number, part: unknown): void => void parts.set(jobId, [...(parts.get(jobId) ?? []), part]),
};
export type JobWorker = typeof worker;
expose(worker);
