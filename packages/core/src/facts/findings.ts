/** What the road itself may find odd about facts; what a run or a session adds is its own. */
export const FACT_FINDING_CODES = ["corrections-disagree", "target-missing", "circular", "odd-correction"] as const;

export interface FactFinding {
  code: (typeof FACT_FINDING_CODES)[number];
  markIds: readonly string[];
}

/** Findings in an order that does not hang on the order the facts came in. */
export function sortFindings<F extends { code: string; markIds: readonly string[] }>(findings: readonly F[]): F[] {
  const key = (f: F): string => `${f.code} ${f.markIds.join(" ")}`;
  return [...findings].sort((a, b) => (key(a) < key(b) ? -1 : key(a) > key(b) ? 1 : 0));
}
