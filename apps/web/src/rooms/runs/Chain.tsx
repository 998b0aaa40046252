// The chain a run belongs to: what came before and after it, with the measured rests. Zero recorded time is a result.

import { chainOf, isRefusal, restBetween, summarise } from "@keep-rolling/core/runs";
import { formatHms, formatSpan } from "@keep-rolling/core/format";
import { Link } from "react-router";
import type { SeenRun } from "../../record/runs.ts";
import { useRuns } from "../../record/runs.ts";

export function Chain({ run }: { run: SeenRun }) {
  const unitId = run.fold.setup?.unit.id;
  const { runs } = useRuns(unitId === undefined ? {} : { unit: unitId }, unitId === undefined);
  const chain = chainOf(run.id, runs);
  if (chain.length < 2) return null;
  return (
    <section aria-labelledby="chain">
      <h2 id="chain">Chain</h2>
      <ol>
        {chain.map(({ id, fold }) => {
          const parent = chain.find((c) => c.id === fold.setup?.parentRunId);
          const rest = parent === undefined ? null : restBetween(parent.fold, fold);
          return (
            <li key={id} className="hairline flex flex-wrap items-baseline gap-x-3 py-1.5">
              {id === run.id ? (
                <span className="font-semibold">{fold.setup?.runKind}</span>
              ) : (
                <Link to={`/runs/${id}`}>{fold.setup?.runKind}</Link>
              )}
              <span>{fold.setup?.mode.name}</span>
              <span className="num">
                {isRefusal(fold) ? "0, refused to record" : formatHms(summarise(fold, fold.startMs ?? 0).recordedMs.lo)}
              </span>
              {rest !== null && (
                <span className="text-sm text-soft">
                  {rest.lo === rest.hi
                    ? `after ${formatSpan(rest.lo)} of rest`
                    : `after ${formatSpan(rest.lo)} to ${formatSpan(rest.hi)} of rest`}
                </span>
              )}
            </li>
          );
        })}
      </ol>
    </section>
  );
}
