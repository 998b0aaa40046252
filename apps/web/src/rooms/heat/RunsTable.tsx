// The table behind the strips: every run, its numbers, and whether it counts.

import { ambientWords, summarise, endWords } from "@keep-rolling/core/runs";
import { formatHms } from "@keep-rolling/core/format";
import { Collapsible } from "radix-ui";
import { Link } from "react-router";
import { formatDate } from "../../shared/dates/dates.ts";
import { useSettings } from "../../shared/settings/settings.ts";
import type { HeatCell, HeatRow } from "./cells.ts";

const HEADS = ["Run", "Mode", "Condition", "Recorded", "First warning", "Ended by", "Ambient", "Start", "Counts"];

export function RunsTable({ cells }: { cells: readonly HeatCell[] }) {
  return (
    <Collapsible.Root className="mt-6">
      <Collapsible.Trigger className="no-print underline">The same as a table</Collapsible.Trigger>
      <Collapsible.Content className="relative mt-2 overflow-x-auto" tabIndex={0} role="region" aria-label="Runs, table">
        <table className="w-full text-sm">
          <thead>
            <tr className="text-left text-soft">
              {HEADS.map((head) => (
                <th key={head} scope="col" className="py-1 pr-4 font-normal">
                  {head}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>{cells.flatMap((cell) => cell.rows.map((row) => <Row key={row.run.id} cell={cell} row={row} />))}</tbody>
        </table>
      </Collapsible.Content>
    </Collapsible.Root>
  );
}

function Row({ cell, row }: { cell: HeatCell; row: HeatRow }) {
  const { temperature } = useSettings();
  const { fold } = row.run;
  const { setup } = fold;
  if (setup === null) return null;
  const warned = fold.warnings[0];
  return (
    <tr className="hairline align-baseline">
      <th scope="row" className="py-1 pr-4 text-left font-normal">
        <Link to={`/runs/${row.run.id}`}>{formatDate(fold.startMs ?? 0, "dayTime", cell.clockKind)}</Link>
      </th>
      <td className="pr-4">{setup.mode.name}</td>
      <td className="pr-4">{setup.condition.name}</td>
      <td className="num pr-4">{fold.end === null ? fold.state : formatHms(summarise(fold, 0).recordedMs.lo)}</td>
      <td className="num pr-4">
        {warned === undefined ? (row.warningUnknown ? "not recorded" : "none") : formatHms(warned.shownMs - (fold.startMs ?? 0))}
      </td>
      <td className="pr-4">{fold.end === null ? "–" : endWords(fold.end.cause)}</td>
      <td className="num pr-4">{ambientWords(setup.ambient, temperature)}</td>
      <td className="pr-4">{setup.startState.state}</td>
      <td>{row.leftOut ?? "yes"}</td>
    </tr>
  );
}
