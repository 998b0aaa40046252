// Latest results: strips on one ruler, row ends print recorded time.

import { lastedWords, summarise } from "@keep-rolling/core/runs";
import { Link } from "react-router";
import { formatDate } from "../../shared/dates/dates.ts";
import type { SeenRun } from "../../record/runs.ts";
import { Legend } from "../../rulers/strips/Legend.tsx";
import { MinutesRuler } from "../../rulers/axis/MinutesRuler.tsx";
import { linear } from "../../rulers/axis/linear.ts";
import { rulerEnd } from "../../rulers/axis/minutes.ts";
import { Strip } from "../../rulers/strips/Strip.tsx";
import { useWidth } from "../../shared/ui/useWidth.ts";

export function LatestRuns({ runs }: { runs: readonly SeenRun[] }) {
  const [ref, width] = useWidth<HTMLDivElement>(520, 90);
  const maxMs = rulerEnd(...runs.map((r) => summarise(r.fold, 0).elapsedMs));
  const x = linear([0, maxMs], [4, width - 26]);
  return (
    <div className="mt-1 space-y-2">
      <table className="w-full table-fixed">
        <caption className="sr-only">Latest results, newest first</caption>
        <colgroup>
          <col className="w-[34%] sm:w-60" />
          <col />
          <col className="w-[6.2rem]" />
        </colgroup>
        <thead className="sr-only">
          <tr>
            <th scope="col">Run</th>
            <th scope="col">On the ruler</th>
            <th scope="col">Recorded</th>
          </tr>
        </thead>
        <tbody>
          {runs.map((run, i) => (
            <tr key={run.id} className="hairline">
              <th scope="row" className="py-1 pr-3 text-left font-normal">
                <Link to={`/runs/${run.id}`} className="block truncate leading-tight">
                  {run.fold.setup?.unit.name}, {run.fold.setup?.mode.name}
                </Link>
                <span className="text-sm text-soft">
                  {formatDate(run.fold.startMs ?? 0, "dayTime", run.row?.clockKind)}
                  {run.row?.clockKind === "rehearsal" && " · rehearsal"}
                  {run.row?.struck != null && " · left out"}
                </span>
              </th>
              <td className="align-middle">
                <div ref={i === 0 ? ref : undefined}>
                  <svg width={width} height="34" className="block">
                    <Strip
                      fold={run.fold}
                      trace={run.trace}
                      nowMs={0}
                      x={x}
                      y={10}
                      height={15}
                      faint={run.fold.state === "void" || run.row?.struck != null}
                    />
                  </svg>
                </div>
              </td>
              <td className="num text-right align-middle">{lastedWords(run.fold, null)}</td>
            </tr>
          ))}
          <tr aria-hidden="true">
            <td />
            <td>
              <svg width={width} height="30" className="block">
                <MinutesRuler x={x} y={2} maxMs={maxMs} widthPx={width} />
              </svg>
            </td>
            <td />
          </tr>
        </tbody>
      </table>
      <Legend witnesses={runs.map((r) => r.trace.witness)} />
    </div>
  );
}
