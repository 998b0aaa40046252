// Two bodies carried together, beside each other: only takes of one and the same walk are compared.

import type { MeasuredTake, WalkPlan } from "@keep-rolling/core/walks";
import { matchedBodies } from "@keep-rolling/core/walks";
import { againstWords } from "./several/severalWords.ts";
import type { Body } from "./useBodies.ts";

interface Props {
  plan: WalkPlan;
  /** Of one move, both bodies. */
  takes: readonly MeasuredTake[];
  first: Body;
  second: Body;
}
const WHY = {
  "no-pairs": "No two takes of one walk are measured yet.",
  "no-repeats": "One pair of each setup: nobody can say whether a difference is chance.",
} as const;

export function BodiesBeside({ plan, takes, first, second }: Props) {
  const told = matchedBodies(takes, first.id, second.id);
  return (
    <section aria-labelledby="bodies" className="mt-8 max-w-4xl">
      <h2 id="bodies" className="text-lg">{`${first.name} against ${second.name}, on the same walks`}</h2>
      {told.ok ? (
        <ul>
          {told.setups.map((s) => (
            <li key={s.setupId} className="hairline flex flex-wrap justify-between gap-x-6 py-1">
              <span>{plan.setups.find((p) => p.id === s.setupId)?.name ?? "a setup no longer on the plan"}</span>
              <span className="text-soft">{`${first.name} shakes ${againstWords(s)}, 90 % sure of each · ${s.pairs} ${s.pairs === 1 ? "pair" : "pairs"}`}</span>
            </li>
          ))}
        </ul>
      ) : (
        <p className="text-soft">{WHY[told.reason]}</p>
      )}
    </section>
  );
}
