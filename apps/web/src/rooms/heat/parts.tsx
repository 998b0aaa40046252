// What every answer of the room is made of: a lead sentence, numbered reasons, the number opened to its runs, the table behind a chart.

import type { Endpoint } from "@keep-rolling/core/runs";
import { lastedWords } from "@keep-rolling/core/runs";
import { Collapsible } from "radix-ui";
import type { ReactNode } from "react";
import { Link } from "react-router";
import { formatDate } from "../../shared/dates/dates.ts";
import type { SeenRun } from "../../record/runs.ts";
import { StrikeRow } from "./StrikeRow.tsx";

/** `small`: what one run says is no headline. */
export function Lead({ about, small = false, children }: { about: ReactNode; small?: boolean; children: ReactNode }) {
  return (
    <h2 id="answer" className={small ? "text-base" : "lead"}>
      {about} <span data-testid="answer">{children}</span>
    </h2>
  );
}

export const lowerFirst = (words: string): string => words.charAt(0).toLowerCase() + words.slice(1);

export function Reasons({ children }: { children: ReactNode }) {
  return <ol className="mt-3 border-b border-rule">{children}</ol>;
}
export function Reason({ title, text, children }: { title: ReactNode; text?: ReactNode; children?: ReactNode }) {
  return (
    <li className="hairline py-2 text-[0.95rem]">
      <strong className="font-semibold">{title}</strong> {text}
      {children}
    </li>
  );
}

/** A number opened: its method, what is taken for granted, and every run in it, each to be struck out with a reason. */
export function Opened({
  what,
  method,
  runIds,
  runs,
  endpoint = "shutdown",
}: {
  what: string;
  method: ReactNode;
  runIds: readonly string[];
  runs: readonly SeenRun[];
  /** What the number is about; most are about heat. */
  endpoint?: Endpoint;
}) {
  const rows = runIds.flatMap((id) => runs.find((r) => r.id === id) ?? []);
  return (
    <Collapsible.Root className="mt-3">
      <Collapsible.Trigger className="no-print underline">{`Open ${what}: runs and method`}</Collapsible.Trigger>
      <Collapsible.Content className="mt-2 space-y-2 text-[0.95rem]">
        <p>{method}</p>
        <ul aria-label={`Runs behind ${what}`}>
          {rows.map((run) => (
            <RunLine key={run.id} run={run} endpoint={endpoint} />
          ))}
        </ul>
      </Collapsible.Content>
    </Collapsible.Root>
  );
}

function RunLine({ run, endpoint }: { run: SeenRun; endpoint: Endpoint }) {
  const { fold, row } = run;
  return (
    <li className="hairline flex flex-wrap items-baseline gap-x-3 py-1">
      <Link to={`/runs/${run.id}`}>{formatDate(fold.startMs ?? 0, "dayTime", row?.clockKind)}</Link>
      <span className="num">{lastedWords(fold, endpoint)}</span>
      <span className="text-soft">
        {fold.setup?.mode.name}, {fold.setup?.condition.name}
      </span>
      <StrikeRow runId={run.id} struck={row?.struck ?? null} />
    </li>
  );
}

export interface Table {
  heads: readonly string[];
  rows: readonly (readonly ReactNode[])[];
}

/** The table behind a chart: closed on the screen, printed in full. */
export function ChartTable({ what, heads, rows }: Table & { what: string }) {
  return (
    <Collapsible.Root className="mt-2">
      <Collapsible.Trigger className="no-print text-sm underline">{`${what} as a table`}</Collapsible.Trigger>
      <Collapsible.Content
        forceMount
        className="relative mt-1 overflow-x-auto data-[state=closed]:hidden print:block!"
        tabIndex={0}
        role="region"
        aria-label={`${what}, table`}
      >
        <PlainTable heads={heads} rows={rows} />
      </Collapsible.Content>
    </Collapsible.Root>
  );
}

const isFigure = (cell: ReactNode): boolean =>
  typeof cell === "number" || (typeof cell === "string" && /^[≥−+\d]/.test(cell) && cell.length < 22);

export function PlainTable({ heads, rows, caption }: Table & { caption?: string }) {
  return (
    <table className="w-full text-sm">
      {caption !== undefined && <caption className="text-left font-semibold">{caption}</caption>}
      <thead>
        <tr className="text-left text-soft">
          {heads.map((head) => (
            <th key={head} scope="col" className="py-1 pr-4 font-normal">
              {head}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((cells, i) => (
          // Rows of one reading have no identity but their place.
          <tr key={i} className="hairline align-baseline">
            {cells.map((cell, k) => (
              <td
                key={k}
                className={`py-1 pr-4 ${k === 0 && !isFigure(cell) ? "min-w-32" : ""} ${isFigure(cell) ? "num whitespace-nowrap" : ""}`}
              >
                {cell}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
