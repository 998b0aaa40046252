import { planDay } from "@keep-rolling/core/planning";
import type { PlanJob, PlanReply } from "./messages.ts";

const reply = (message: PlanReply): void => self.postMessage(message);

self.addEventListener("message", (event: MessageEvent<PlanJob>) => {
  const { jobId, request } = event.data;
  try {
    const from = performance.now();
    const plan = planDay(request);
    reply({ jobId, kind: "done", plan, tookMs: performance.now() - from });
  } catch (error) {
    reply({ jobId, kind: "failed", code: error instanceof Error ? error.message : String(error) });
  }
});
