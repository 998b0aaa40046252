import type { CandidateRun } from "@keep-rolling/core/cells";
import type { UnitReport } from "@keep-rolling/core/reading";
import { readUnit } from "@keep-rolling/core/reading";
import type { JobContext } from "../jobContext.ts";
import type { BareQuestion } from "./runParts.ts";

/** What the runs of a unit say; the runs come before, in parts (`runParts.ts`). */
export const run = (question: BareQuestion, { parts }: JobContext): UnitReport =>
  readUnit({ ...question, candidates: (parts as CandidateRun[][]).flat() });
