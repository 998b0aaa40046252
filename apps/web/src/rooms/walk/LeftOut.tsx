// Takes that somebody left out: which, why, and what would be said with them. Nobody else sees that they were walked.

import type { MoveComparison, SetupRow, WalkMove, WalkPlan } from "@keep-rolling/core/walks";
import { Link } from "react-router";
import { ifCountedWords, leftOutWords, nameIn, otherLead } from "./compareWords.ts";

interface Props {
  id: string;
  plan: WalkPlan;
  move: WalkMove;
  rows: readonly SetupRow[];
  comparison: MoveComparison | null;
  /** False: numbers could not be read, so that of a blank nothing is known. */
  whole: boolean;
}

export function LeftOut({ id, plan, move, rows, comparison, whole }: Props) {
  const some = rows.filter((r) => r.leftOut.length > 0);
  if (some.length === 0) return null;
  const other = comparison === null ? null : otherLead(plan, move.kind, rows, comparison);
  return (
    <section aria-labelledby="left-out" className="mt-6 max-w-4xl">
      <h2 id="left-out" className="text-lg">
        {leftOutCount(rows)}
      </h2>
      <ul className="list-disc pl-5">
        {some.map((r) => (
          <li key={r.setup.id}>
            {r.leftOut.map((t) => (
              <span key={t.take.id} className={`block ${t.take.badLate && t.measures !== null ? "text-alert" : "text-soft"}`}>
                <Link to={`/walk/${id}/takes/${t.take.id}`}>{nameIn(rows, r.setup.id)}</Link>
                {`: ${leftOutWords(t, whole)}`}
              </span>
            ))}
            {comparison?.ifCounted != null && <span className="block">{ifCountedWords(r, rows, comparison.ifCounted)}</span>}
          </li>
        ))}
      </ul>
      {other !== null && <p className="mt-2">{`With every take counted it would say: ${other}`}</p>}
    </section>
  );
}

/** Empty where every take counts. */
export function leftOutCount(rows: readonly SetupRow[]): string {
  const all = rows.reduce((sum, r) => sum + r.leftOut.length, 0);
  return all === 0 ? "" : `${all} ${all === 1 ? "take" : "takes"} left out`;
}
