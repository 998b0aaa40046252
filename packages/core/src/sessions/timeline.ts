// What the facts of a session add up to, while they are walked.

import type { Fact } from "../facts/index.ts";
import type { FACT_FINDING_CODES } from "../facts/index.ts";

export interface SessionFinding {
  code: (typeof FACT_FINDING_CODES)[number] | "second-begin" | "not-understood" | "no-begin";
  markIds: readonly string[];
}

export interface SessionState {
  begunMs: number | null;
  /** Facts kept as they are. */
  kept: Fact[];
  usedIds: string[];
  findings: SessionFinding[];
}
