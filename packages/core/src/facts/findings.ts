/** What the road itself may find odd about facts; what a run or a session adds is its own. */
export const FACT_FINDING_CODES = ["corrections-disagree", "target-missing", "circular", "odd-correction"] as const;

export interface FactFinding {
  code: (typeof FACT_FINDING_CODES)[number];
  markIds: readonly string[];
}
