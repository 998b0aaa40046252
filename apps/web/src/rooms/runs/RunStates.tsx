// What the camera said was left beside what was left, and the surroundings as they changed while it ran.

import type { RunFold } from "@keep-rolling/core/runs";
import { checkCountdowns, conditionSpans, otherConditionShare } from "@keep-rolling/core/runs";
import { formatHms, formatSpan } from "@keep-rolling/core/format";
import { Note } from "../../shared/ui/parts.tsx";

export function Countdowns({ fold, nowMs }: { fold: RunFold; nowMs: number }) {
  const said = checkCountdowns(fold, nowMs);
  if (said.length === 0 || fold.startMs === null) return null;
  const { startMs } = fold;
  return (
    <section aria-labelledby="countdown">
      <h2 id="countdown">What the camera said was left</h2>
      <table className="w-full text-left">
        <thead className="text-sm text-soft">
          <tr>
            <th className="py-1 font-normal">at</th>
            <th className="font-normal">it said</th>
            <th className="font-normal">truly left</th>
          </tr>
        </thead>
        <tbody>
          {said.map((c) => (
            <tr key={c.markId} className="hairline">
              <td className="num py-1 pr-4">{formatHms(c.atMs - startMs)}</td>
              <td className="num pr-4 whitespace-nowrap">{formatSpan(c.saidMs)}</td>
              <td>
                <span className="num">
                  {c.exact ? "" : "at least "}
                  {formatSpan(c.leftMs)}
                </span>{" "}
                <span className="text-sm text-soft">{offWords(c.leftMs - c.saidMs, c.exact)}</span>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

function offWords(moreMs: number, exact: boolean): string {
  if (!exact && moreMs < 0) return "";
  const by = formatSpan(Math.abs(moreMs));
  return moreMs === 0 ? "as said" : moreMs > 0 ? `${by} longer than said` : `${by} shorter than said`;
}

export function Surroundings({ fold, nowMs }: { fold: RunFold; nowMs: number }) {
  const spans = conditionSpans(fold);
  const { startMs } = fold;
  if (spans.length < 2 || startMs === null) return null;
  const share = otherConditionShare(fold);
  return (
    <section aria-labelledby="surroundings">
      <h2 id="surroundings">Surroundings as they changed</h2>
      <ol>
        {spans.map((s) => (
          <li key={s.fromMs} className="hairline flex flex-wrap gap-x-4 py-1">
            <span className="num">{`${formatHms(s.fromMs - startMs)} to ${formatHms((s.toMs ?? fold.end?.hiMs ?? nowMs) - startMs)}`}</span>
            <span>{`screen ${s.screen}, sun: ${s.sun}, air: ${s.air}`}</span>
          </li>
        ))}
      </ol>
      {fold.end !== null && share > 0 && (
        <Note>
          {`${Math.max(1, Math.ceil(share * 100 - 1e-9))} % of the recorded time was not as the condition says; above 10 % a run is listed apart from the others.`}
        </Note>
      )}
    </section>
  );
}
