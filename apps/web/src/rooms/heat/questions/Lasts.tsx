// How long does this mode last here? The dependable limit by the evidence ladder, the distribution-free statement always beside it, the schools
// side by side, the survival curve, what is missing, and the way to record it.

import { limitApi } from "../../../shared/limits/api.ts";
import type { CellBound, FullCell } from "@keep-rolling/core/reading";
import { hms, methodWords, notHereWords, RUNG_TITLE, unsaidWords } from "@keep-rolling/core/reading";
import type { CellStatement, Statement } from "@keep-rolling/core/cells";
import { answerSentence, evidenceWords, neededWords, statementSentence } from "@keep-rolling/core/cells";
import { formatHms, formatShareDown, formatTemperature } from "@keep-rolling/core/format";
import { Link, useNavigate } from "react-router";
import { sentenceOf } from "../../../shared/api/api.ts";
import { formatDate } from "../../../shared/dates/dates.ts";
import { useSettings } from "../../../shared/settings/settings.ts";
import { SelectField } from "../../../shared/ui/fields.tsx";
import { Button, Note } from "../../../shared/ui/parts.tsx";
import type { HeatRow } from "../cells.ts";
import { SurvivalChart } from "../charts.tsx";
import { ChartTable, Lead, Opened, PlainTable, Reason, Reasons } from "../parts.tsx";
import { StrikeRow } from "../StrikeRow.tsx";
import type { Answerable } from "./ask.ts";

/** `full` is null until the worker has answered: the statement that needs no fit stands meanwhile. */
export type LastsProps = Omit<Answerable, "full" | "report" | "client"> & { full: FullCell | null };

export function Lasts(a: LastsProps) {
  const { cell, full, endpoint } = a;
  const { statement } = cell.reading;
  const bound = full?.bound.ok === true ? full.bound : null;
  const about = `${cell.setup.mode.name}, ${cell.setup.condition.name}:${endpoint === "firstWarning" ? " to the first warning" : endpoint === "batteryEmpty" ? " until the battery is empty" : ""}`;
  return (
    <>
      <Lead about={about}>
        <span className="border-b-4 border-cool">{bound === null ? answerSentence(statement) : boundSentence(bound, a)}</span>
      </Lead>
      {statement.ok && (
        <p className="mt-2 text-soft">
          {statementSentence(statement)}. {evidenceWords(statement)}.
          {cell.clockKind !== "real" && ` From a simulated camera (${cell.clockKind}).`}
        </p>
      )}
      {statement.ok && <Schools {...a} statement={statement} bound={bound} />}
      {full !== null && full.survival.length > 0 && <Survival full={full} limitSec={bound === null ? null : bound.lowerMs / 1000} />}
      <Reasons>
        {statement.ok && statement.n === 1 && (
          <Reason title="One run is an anecdote." text="A second can be far shorter; the share above says how little one run supports." />
        )}
        {full !== null && <Rungs bound={full.bound} />}
        {bound?.rung === "assumed" && <AssumedField sd={a.assumedSd} onChange={a.onAssumedSd} />}
        <Reason title="What it takes." text={neededWords(statement)} />
        {full !== null && <Missing full={full} statement={statement} bound={bound} />}
        {statement.ok && <Typical statement={statement} tooWide={full?.scatter.tooWide ?? false} />}
        {cell.rated !== null && <RatedLine {...a} />}
        {cell.rows
          .filter((r) => r.leftOut !== null)
          .map((row) => (
            <LeftOutRow key={row.run.id} row={row} statement={statement} />
          ))}
      </Reasons>
      {statement.ok && (
        <Opened
          what="the number"
          runIds={[...new Set([...cell.reading.runs.counted.map((r) => r.runId), ...(bound?.from.runIds ?? [])])]}
          runs={a.runs}
          method={`${bound === null ? "" : `${methodWords(bound)} `}Without assuming a shape: the shortest of all ${statement.n} counted records, censored ones too, is outlasted by at least (1 − C)^(1/n) of runs with confidence C, if runs to come are made like these and do not influence one another (S. S. Wilks 1941). Limits, shares and confidence are rounded down.`}
        />
      )}
      {statement.ok && <Record {...a} statement={statement} bound={bound} />}
    </>
  );
}

type Bound = CellBound & { ok: true };

function boundSentence(bound: Bound, { levels, full }: LastsProps): string {
  const share =
    levels.share === 0.5 ? "half of runs" : levels.share === 0.95 ? "95 of 100 runs" : `${Math.round(levels.share * 10)} of 10 runs`;
  const last = `${share} will last at least ${formatHms(bound.lowerMs)}`;
  // Of the reading the bound is from: a run struck out a moment ago may still be in it.
  const n = full?.runs.length ?? 0;
  const runs = n === 1 ? "this 1 run" : `these ${n} runs`;
  if (bound.rung === "assumed") return `${last}, if runs scatter by ${(100 * bound.sd).toFixed(0)} % (assumed)`;
  const others = bound.rung === "pooled" ? ` and the scatter of ${bound.from.cells} cells` : "";
  return `${last}; ${formatShareDown(levels.confidence)} sure from ${runs}${others}`;
}

/** Shortest run, typical less a margin, statistical bound: three schools in one table, so that nobody has to choose in the dark. */
function Schools({ full, statement, bound, levels }: LastsProps & { statement: CellStatement; bound: Bound | null }) {
  const less = full?.typicalLessSec ?? null;
  return (
    <div className="print-keep mt-3 overflow-x-auto" tabIndex={0} role="region" aria-label="Schools side by side">
      <PlainTable
        heads={["School", "Says", "Stands for"]}
        rows={[
          [
            "Shortest run",
            formatHms(statement.valueMs),
            `${formatShareDown(statement.share)} of runs, ${formatShareDown(levels.confidence)} sure`,
          ],
          ["Typical less 20 %", less === null ? "none" : hms(less), "a habit; no share and no confidence"],
          [
            "Statistical bound",
            bound === null ? "none yet" : formatHms(bound.lowerMs),
            bound === null
              ? "needs what is missing below"
              : `${formatShareDown(levels.share)} of runs, ${bound.rung === "assumed" ? "with an assumed scatter" : `${formatShareDown(levels.confidence)} sure`}`,
          ],
        ]}
      />
    </div>
  );
}

function Survival({ full, limitSec }: { full: FullCell; limitSec: number | null }) {
  const start = { sec: 0, share: 1, lo: null, hi: null, cut: null };
  const points = full.survival.map((s) => ({
    sec: s.time,
    share: s.survival,
    lo: s.logLog?.lower ?? null,
    hi: s.logLog?.upper ?? null,
    cut: s.censored > 0 ? s.survival : null,
  }));
  return (
    <>
      <SurvivalChart points={[start, ...points]} limitSec={limitSec} />
      <p className="text-sm text-soft">
        Share of runs still recording (Kaplan and Meier), 90 % band by the log-log scale; chevrons: ended otherwise. The teal line is the
        limit.
      </p>
      <ChartTable
        what="Survival"
        heads={["Recorded", "Still running before", "Ended", "Ended otherwise", "Share after", "90 % band"]}
        rows={full.survival.map((s) => [
          hms(s.time),
          s.atRisk,
          s.events,
          s.censored,
          `${Math.floor(100 * s.survival)} %`,
          s.logLog === null ? "–" : `${Math.floor(100 * s.logLog.lower)} to ${Math.ceil(100 * s.logLog.upper)} %`,
        ])}
      />
    </>
  );
}

/** Which rung it is, and why not a higher one. */
function Rungs({ bound }: { bound: CellBound }) {
  const above = bound.above.map((s) => `${RUNG_TITLE[s.rung].toLowerCase()}: ${notHereWords(s.because)}`).join("; ");
  if (bound.ok)
    return (
      <Reason title={`${RUNG_TITLE[bound.rung]}.`} text={above === "" ? "The highest rung of the evidence ladder." : `Not ${above}.`} />
    );
  return (
    <Reason title="No statistical bound." text={`${above.charAt(0).toUpperCase()}${above.slice(1)}. What needs no shape stands above.`} />
  );
}

function AssumedField({ sd, onChange }: { sd: number; onChange: (sd: number) => void }) {
  return (
    <li className="no-print hairline py-2">
      <SelectField
        label="Assumed scatter of runs"
        value={String(sd)}
        options={[0.05, 0.1, 0.15, 0.2].map((v) => [String(v), `${Math.round(100 * v)} %`] as const)}
        onChange={(event) => onChange(Number(event.target.value))}
      />
    </li>
  );
}

/** A bound far below what runs do is never left bare. */
function Missing({ full, statement, bound }: { full: FullCell; statement: Statement; bound: Bound | null }) {
  const low = bound !== null && full.typicalSec !== null && bound.lowerMs / 1000 < 0.75 * full.typicalSec;
  const unknown = full.reading.runs.leftOut.filter((l) => l.because === "start state not known").length;
  const asks = [
    ...(unknown > 0 ? [`${unknown === 1 ? "1 run has" : `${unknown} runs have`} no start state: add it to the run and it counts`] : []),
    ...full.scatter.unsaid.filter((u) => u !== "start state not known").map(unsaidWords),
    ...(low || bound === null ? [`more runs: the limit rises towards the typical time with each (see What next?)`] : []),
  ];
  if (asks.length === 0 || !statement.ok) return null;
  return <Reason title={low ? "Honest, but low. What is missing:" : "What would help:"} text={`${asks.join("; ")}.`} />;
}

function Typical({ statement, tooWide }: { statement: CellStatement; tooWide: boolean }) {
  if (tooWide)
    return <Reason title="No typical time." text="These runs spread too far to average; find the cause first (Why do runs differ?)." />;
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

function RatedLine({ cell }: LastsProps) {
  const { temperature } = useSettings();
  if (cell.rated === null) return null;
  const limitMs = cell.rated.limitSec * 1000;
  const at = cell.rated.ambientC === null ? "no temperature given" : `at ${formatTemperature(cell.rated.ambientC, temperature)}`;
  return <Reason title={`Rated ${formatHms(limitMs)} ${at}.`} text="Whether that is true is a question of its own." />;
}

function LeftOutRow({ row, statement }: { row: HeatRow; statement: Statement }) {
  const { would } = row;
  const same = would?.ok === true && statement.ok && would.valueMs === statement.valueMs && would.n === statement.n;
  const effect =
    would?.ok === true && !same
      ? `With it the shortest would read ${formatHms(would.valueMs)} from ${would.n} runs.`
      : "It has no time that could count.";
  return (
    <Reason title={`Left out: ${row.leftOut ?? ""}`} text={row.run.row?.struck != null ? `(${row.run.row.struck}). ${effect}` : effect}>
      {" "}
      <Link to={`/runs/${row.run.id}`}>{formatDate(row.run.fold.startMs ?? 0, "dayTime", row.run.row?.clockKind)}</Link>
      {row.run.row?.struck != null && <StrikeRow runId={row.run.id} struck={row.run.row.struck} />}
    </Reason>
  );
}

function Record({ cell, statement, bound, endpoint, levels, assumedSd }: LastsProps & { statement: CellStatement; bound: Bound | null }) {
  const [record, { error, isLoading }] = limitApi.useRecordLimitMutation();
  const navigate = useNavigate();
  // Where a scatter is assumed no confidence can be claimed: the shortest run is what stands by itself.
  const claimed = bound !== null && bound.rung !== "assumed";
  const press = async (method: "ladder" | "shortest-of-n"): Promise<void> => {
    const made = await record({ ofRunId: statement.shortestRunId, endpoint, ...levels, method, assumedSd });
    if (made.data !== undefined) await navigate(`/limits/${made.data.id}`);
  };
  return (
    <div className="no-print mt-4 space-y-2">
      <div className="flex flex-wrap gap-3">
        <Button tone="main" disabled={isLoading} onClick={() => void press(claimed ? "ladder" : "shortest-of-n")}>
          Record this limit
        </Button>
        {bound !== null && (
          <Button disabled={isLoading} onClick={() => void press(claimed ? "shortest-of-n" : "ladder")}>
            {claimed ? "Record the shortest run" : "Record with the assumed scatter"}
          </Button>
        )}
        <Button onClick={() => print()}>Print</Button>
      </div>
      {bound !== null && !claimed && (
        <Note>Record this limit keeps the shortest run: a share and a confidence that need no assumption.</Note>
      )}
      {cell.clockKind === "rehearsal" && <Note>A rehearsal: the recorded limit will say so.</Note>}
      {error !== undefined && (
        <Note tone="alert" live>
          {sentenceOf(error)}
        </Note>
      )}
    </div>
  );
}
