import type { CandidateRun } from "@keep-rolling/core/cells";
import type { UnitReport } from "@keep-rolling/core/reading";
import { nextRuns, readUnit, runsUntil } from "@keep-rolling/core/reading";
import type { HeatJob, HeatReply, NextAnswer, NextQuestion } from "./messages.ts";
import type { BareQuestion } from "./parts.ts";

/** Runs sent for a question that is still to come. */
const sent = new Map<number, CandidateRun[]>();
const reply = (message: HeatReply): void => self.postMessage(message);

self.addEventListener("message", ({ data: job }: MessageEvent<HeatJob>) => {
  const { jobId } = job;
  try {
    if (job.kind === "runs") return void sent.set(jobId, [...(sent.get(jobId) ?? []), ...job.runs]);
    const from = performance.now();
    if (job.kind === "unit") reply({ jobId, kind: "unit", report: unitOf(jobId, job.question), tookMs: performance.now() - from });
    else reply({ jobId, kind: "next", answer: nextOf(job.question), tookMs: performance.now() - from });
  } catch (error) {
    reply({ jobId, kind: "failed", code: error instanceof Error ? error.message : String(error) });
  }
});

function unitOf(jobId: number, question: BareQuestion): UnitReport {
  const candidates = sent.get(jobId) ?? [];
  sent.delete(jobId);
  return readUnit({ ...question, candidates });
}

const nextOf = ({ cells, bounds, asked, wantedSec }: NextQuestion): NextAnswer => ({
  next: nextRuns(cells, bounds, asked),
  until: wantedSec.map((sec, i) => (sec === null ? null : runsUntil(cells, bounds, i, sec, asked))),
});
