import { nextRuns, readUnit, runsUntil } from "@keep-rolling/core/endurance";
import type { HeatJob, HeatReply, NextAnswer, NextQuestion } from "./messages.ts";

const reply = (message: HeatReply): void => self.postMessage(message);

self.addEventListener("message", ({ data: job }: MessageEvent<HeatJob>) => {
  const { jobId } = job;
  try {
    const from = performance.now();
    if (job.kind === "unit") reply({ jobId, kind: "unit", report: readUnit(job.question), tookMs: performance.now() - from });
    else reply({ jobId, kind: "next", answer: nextOf(job.question), tookMs: performance.now() - from });
  } catch (error) {
    reply({ jobId, kind: "failed", code: error instanceof Error ? error.message : String(error) });
  }
});

const nextOf = ({ cells, bounds, asked, wantedSec }: NextQuestion): NextAnswer => ({
  next: nextRuns(cells, bounds, asked),
  until: wantedSec.map((sec, i) => (sec === null ? null : runsUntil(cells, bounds, i, sec, asked))),
});
