// The planner in its worker, asked one day at a time. A newer question makes the answer to an older one worthless, so it is dropped.

import type { DayPlan, DayRequest } from "@keep-rolling/core/planning";
import type { PlanJob, PlanReply } from "./messages.ts";

export interface PlanClient {
  ask(request: DayRequest): void;
  close(): void;
}

export function planClient(onPlan: (plan: DayPlan, request: DayRequest) => void, onFailure: (code: string) => void): PlanClient {
  const worker = new Worker(new URL("./job.worker.ts", import.meta.url), { type: "module" });
  let jobId = 0;
  let asked: DayRequest | null = null;
  let askedAtMs = 0;
  worker.addEventListener("message", (event: MessageEvent<PlanReply>) => {
    if (event.data.jobId !== jobId || asked === null) return;
    if (event.data.kind === "failed") return onFailure(event.data.code);
    // Read by the benchmark: from the question to the answer, and what the worker took of it.
    performance.measure("plan a day", { start: askedAtMs, detail: event.data.tookMs });
    onPlan(event.data.plan, asked);
  });
  worker.addEventListener("error", () => onFailure("the planner could not be loaded"));
  return {
    ask(request) {
      asked = request;
      askedAtMs = performance.now();
      const job: PlanJob = { jobId: ++jobId, request };
      worker.postMessage(job);
    },
    close: () => worker.terminate(),
  };
}
