// The reader of a unit in its worker. A newer question makes the answer to an older one of its kind worthless, so it is dropped.

import type { UnitQuestion, UnitReport } from "@keep-rolling/core/reading";
import type { HeatJob, HeatReply, NextAnswer, NextQuestion } from "./messages.ts";
import { bare, inParts, lean, RUNS_A_PART } from "./parts.ts";

export interface HeatClient {
  unit(question: UnitQuestion): Promise<UnitReport>;
  next(question: NextQuestion): Promise<NextAnswer>;
  close(): void;
}

export function heatClient(): HeatClient {
  const worker = new Worker(new URL("./job.worker.ts", import.meta.url), { type: "module" });
  const waiting = new Map<number, { done: (reply: HeatReply) => void; fail: (error: Error) => void; askedAtMs: number }>();
  let jobId = 0;
  worker.addEventListener("message", ({ data }: MessageEvent<HeatReply>) => {
    const asked = waiting.get(data.jobId);
    waiting.delete(data.jobId);
    if (asked === undefined) return;
    if (data.kind === "failed") return asked.fail(new Error(data.code));
    // Read by the benchmark: from the question to the answer, and what the worker took of it.
    performance.measure(`read a unit: ${data.kind}`, { start: asked.askedAtMs, detail: data.tookMs });
    asked.done(data);
  });
  worker.addEventListener("error", () => {
    for (const { fail } of waiting.values()) fail(new Error("the statistics could not be loaded"));
    waiting.clear();
  });
  const ask = (job: HeatJob): Promise<HeatReply> =>
    new Promise((done, fail) => {
      waiting.set(job.jobId, { done, fail, askedAtMs: performance.now() });
      worker.postMessage(job);
    });
  return {
    unit: async (question) => {
      const id = ++jobId;
      for (const part of inParts(question.candidates, RUNS_A_PART)) {
        worker.postMessage({ jobId: id, kind: "runs", runs: part.map(lean) } satisfies HeatJob);
        await new Promise((done) => setTimeout(done, 0));
      }
      const reply = await ask({ jobId: id, kind: "unit", question: bare(question) });
      if (reply.kind !== "unit") throw new Error("the worker answered another question");
      return reply.report;
    },
    next: async (question) => {
      const reply = await ask({ jobId: ++jobId, kind: "next", question });
      if (reply.kind !== "next") throw new Error("the worker answered another question");
      return reply.answer;
    },
    close: () => worker.terminate(),
  };
}
