// The answer of one cell as a sentence with the limit underlined, the reasons numbered beneath, and the way to record it.

import type { CellStatement, Statement } from "@keep-rolling/core/reliability";
import { answerSentence, evidenceWords, neededWords, statementSentence } from "@keep-rolling/core/reliability";
import type { Endpoint } from "@keep-rolling/core/runs";
import { formatHms, formatTemperature } from "@keep-rolling/core/units";
import { Collapsible } from "radix-ui";
import type { ReactNode } from "react";
import { Link, useNavigate } from "react-router";
import { api, sentenceOf } from "../../api/api.ts";
import { formatDate } from "../../app/dates.ts";
import { useSettings } from "../../app/store.ts";
import { Button, Note } from "../../ui/parts.tsx";
import type { Asked, HeatCell, HeatRow } from "./cells.ts";
import { StrikeRow } from "./StrikeRow.tsx";

export function Answer({ cell, endpoint, asked }: { cell: HeatCell; endpoint: Endpoint; asked: Asked }) {
  const { statement } = cell.reading;
  const left = cell.rows.filter((r) => r.leftOut !== null);
  const { setup } = cell;
  return (
    <section aria-labelledby="answer" className="print-keep">
      <h2 id="answer" className="lead">
        {setup.mode.name}, {setup.condition.name}: {endpoint === "firstWarning" && "to the first warning "}
        <span className="border-b-4 border-cool" data-testid="answer">
          {answerSentence(statement)}
        </span>
      </h2>
      {statement.ok && (
        <p className="mt-2 text-soft">
          {statementSentence(statement)}. {evidenceWords(statement)}.
          {cell.clockKind !== "real" && ` From a simulated camera (${cell.clockKind}).`}
        </p>
      )}
      <ol className="mt-3 border-b border-rule">
        {statement.ok && statement.n === 1 && (
          <Reason title="One run is an anecdote." text="A second can be far shorter; the share above says how little one run supports." />
        )}
        <Reason title="What it takes." text={neededWords(statement)} />
        {statement.ok && <Typical statement={statement} />}
        {cell.rated !== null && <Rated cell={cell} statement={statement} />}
        {left.map((row) => (
          <LeftOutRow key={row.run.id} row={row} statement={statement} />
        ))}
      </ol>
      <OpenedUp cell={cell} statement={statement} />
      {statement.ok && <Record cell={cell} statement={statement} endpoint={endpoint} asked={asked} />}
    </section>
  );
}

function Reason({ title, text, children }: { title: string; text: ReactNode; children?: ReactNode }) {
  return (
    <li className="hairline py-2 text-[0.95rem]">
      <strong className="font-semibold">{title}</strong> {text}
      {children}
    </li>
  );
}

function Typical({ statement }: { statement: CellStatement }) {
  if (statement.typicalMs === null || statement.longestMs === null) {
    if (statement.censored === 0) return null;
    return (
      <Reason
        title="No typical time."
        text={`${statement.censored === statement.n ? "No" : "Not every"} run reached the endpoint, so no typical time and no upper end can be given.`}
      />
    );
  }
  return (
    <Reason
      title={`Middle of the ${statement.n} runs ${formatHms(statement.typicalMs)},`}
      text={`longest ${formatHms(statement.longestMs)}. Describes these runs; it promises nothing.`}
    />
  );
}

function Rated({ cell, statement }: { cell: HeatCell; statement: Statement }) {
  const { temperature } = useSettings();
  if (cell.rated === null) return null;
  const limitMs = cell.rated.limitSec * 1000;
  const counted = cell.reading.runs.counted;
  const short = counted.filter((r) => r.event === 1 && r.timeMs.hi < limitMs).length;
  const at = cell.rated.ambientC === null ? "no temperature given" : `at ${formatTemperature(cell.rated.ambientC, temperature)}`;
  const warmer = cell.rated.ambientC !== null && Math.abs(cell.setup.condition.ambientC - cell.rated.ambientC) > 3;
  const words = !statement.ok
    ? ""
    : short === 0
      ? "No run here ended by heat before it."
      : `${short} of ${counted.length} runs here ended by heat before it.`;
  return (
    <Reason
      title={`Rated ${formatHms(limitMs)} ${at}.`}
      text={`${words}${warmer ? " Another temperature than here: not a fair comparison." : ""}`}
    />
  );
}

function LeftOutRow({ row, statement }: { row: HeatRow; statement: Statement }) {
  const { would } = row;
  const same = would?.ok === true && statement.ok && would.valueMs === statement.valueMs && would.n === statement.n;
  const effect =
    would?.ok === true && !same
      ? `With it the limit would read ${formatHms(would.valueMs)} from ${would.n} runs.`
      : "It has no time that could count.";
  return (
    <Reason title={`Left out: ${row.leftOut ?? ""}`} text={row.run.row?.struck != null ? `(${row.run.row.struck}). ${effect}` : effect}>
      {" "}
      <Link to={`/runs/${row.run.id}`}>{formatDate(row.run.fold.startMs ?? 0, "dayTime", row.run.row?.clockKind)}</Link>
      {row.run.row?.struck != null && <StrikeRow runId={row.run.id} struck={row.run.row.struck} />}
    </Reason>
  );
}

/** The number opened: which runs, which method, and what changes without each. */
function OpenedUp({ cell, statement }: { cell: HeatCell; statement: Statement }) {
  if (!statement.ok) return null;
  return (
    <Collapsible.Root className="mt-3">
      <Collapsible.Trigger className="no-print underline">Open the number: runs and method</Collapsible.Trigger>
      <Collapsible.Content className="mt-2 space-y-2 text-[0.95rem]">
        <p>
          The shortest of all {statement.n} counted records, censored ones too, is outlasted by at least (1 − C)^(1/n) of runs with
          confidence C, whatever the shape of their scatter, if runs to come are made like these and do not influence one another. Shares
          and confidence are rounded down. Source: S. S. Wilks (1941).
        </p>
        <ul>
          {cell.reading.runs.counted.map((r) => {
            const row = cell.rows.find((x) => x.run.id === r.runId);
            return (
              <li key={r.runId} className="hairline flex flex-wrap items-baseline gap-x-3 py-1">
                <Link to={`/runs/${r.runId}`}>{formatDate(row?.run.fold.startMs ?? 0, "dayTime", cell.clockKind)}</Link>
                <span className="num">
                  {r.event === 1 ? "" : "≥ "}
                  {formatHms(r.timeMs.lo)}
                </span>
                <span className="text-soft">{r.because}</span>
                <StrikeRow runId={r.runId} struck={null} />
              </li>
            );
          })}
        </ul>
      </Collapsible.Content>
    </Collapsible.Root>
  );
}

function Record({ cell, statement, endpoint, asked }: { cell: HeatCell; statement: CellStatement; endpoint: Endpoint; asked: Asked }) {
  const [record, { error, isLoading }] = api.useRecordLimitMutation();
  const navigate = useNavigate();
  const press = async (): Promise<void> => {
    const made = await record({ ofRunId: statement.shortestRunId, endpoint, ...asked });
    if (made.data !== undefined) await navigate(`/limits/${made.data.id}`);
  };
  return (
    <div className="no-print mt-4 space-y-2">
      <div className="flex flex-wrap gap-3">
        <Button tone="main" disabled={isLoading} onClick={() => void press()}>
          Record this limit
        </Button>
        <Button onClick={() => print()}>Print</Button>
      </div>
      {cell.clockKind === "rehearsal" && <Note>A rehearsal: the recorded limit will say so.</Note>}
      {error !== undefined && <Note tone="alert">{sentenceOf(error)}</Note>}
    </div>
  );
}
