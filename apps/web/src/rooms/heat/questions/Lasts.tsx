// How long does this mode last here? The dependable limit with its days, the distribution-free statement always beside it, the schools
// side by side, the survival curve, what is missing, and the way to record it.

import { statedWords } from "../../../rulers/glyphs/words.ts";
import { limitApi } from "../../../shared/limits/api.ts";
import type { CellLimit, FullCell } from "@keep-rolling/core/reading";
import {
  cautionWords,
  classicalBounds,
  daysWords,
  hms,
  likeOthersWords,
  methodWords,
  missingWords,
  unsaidWords,
} from "@keep-rolling/core/reading";
import type { CellStatement, Statement } from "@keep-rolling/core/cells";
import { answerSentence, evidenceWords, neededWords, statementSentence } from "@keep-rolling/core/cells";
import { formatHms, formatShareDown, formatTemperature } from "@keep-rolling/core/format";
import { useMemo } from "react";
import { Link } from "react-router";
import { useGoOn } from "../../../shared/ui/useGoOn.ts";
import { sentenceOf } from "../../../shared/api/api.ts";
import { formatDate, zoneOf } from "../../../shared/dates/dates.ts";
import { useSettings } from "../../../shared/settings/settings.ts";
import { Button, Note } from "../../../shared/ui/parts.tsx";
import type { HeatRow } from "../cells.ts";
import { SurvivalChart } from "../charts.tsx";
import { ChartTable, Lead, Opened, PlainTable, Reason, Reasons } from "../parts.tsx";
import { StrikeRow } from "../StrikeRow.tsx";
import type { Answerable } from "./ask.ts";

/** `full` is null until the worker has answered: the statement that needs no fit stands meanwhile. `failed`: it could not, and will not by itself. */
export type LastsProps = Omit<Answerable, "full" | "report" | "client"> & { full: FullCell | null; failed?: boolean };

export function Lasts(a: LastsProps) {
  const { cell, full, endpoint } = a;
  const { statement } = cell.reading;
  const limit = full?.limit.ok === true ? full.limit : null;
  const { levels } = a;
  const classical = useMemo(() => classicalWords(full, levels), [full, levels]);
  const about = `${cell.setup.mode.name}, ${cell.setup.condition.name}:${endpoint === "firstWarning" ? " to the first warning" : endpoint === "batteryEmpty" ? " until the battery is empty" : ""}`;
  return (
    <>
      <Lead about={about} small={limit === null && statement.ok && statement.n === 1}>
        <span className="border-b-4 border-cool">{limit === null ? answerSentence(statement) : limitSentence(limit, a)}</span>
      </Lead>
      {statement.ok && (
        <p className="mt-2 text-soft">
          {statementSentence(statement)}. {evidenceWords(statement)}.
          {cell.clockKind !== "real" && ` From a simulated camera (${cell.clockKind}).`}
        </p>
      )}
      {statement.ok && <Schools {...a} statement={statement} limit={limit} />}
      {full !== null && full.survival.length > 0 && <Survival full={full} limitSec={limit === null ? null : limit.lowerMs / 1000} />}
      <Reasons>
        {statement.ok && statement.n === 1 && (
          <Reason title="One run is an anecdote." text="A second can be far shorter; the share above says how little one run supports." />
        )}
        {full !== null && statement.ok && <Claimed limit={full.limit} ownRuns={full.runs.length} />}
        <Reason title="What it takes." text={neededWords(statement)} />
        {full !== null && <Missing full={full} statement={statement} limit={limit} />}
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
          runIds={[...new Set([...cell.reading.runs.counted.map((r) => r.runId), ...(limit?.from.runIds ?? [])])]}
          runs={a.runs}
          endpoint={a.endpoint}
          method={`${limit === null ? "" : `${methodWords(limit)} ${classical} `}Without assuming a shape: the shortest of all ${statement.n} counted records, those that only lasted at least so long too, is outlasted by at least (1 − C)^(1/n) of runs with confidence C, if runs to come are made like these and do not influence one another (S. S. Wilks 1941). Limits, shares and confidence are rounded down.`}
        />
      )}
      {statement.ok && <Record {...a} statement={statement} limit={limit} />}
    </>
  );
}

type Claim = CellLimit & { ok: true };

function limitSentence(limit: Claim, { levels, full }: LastsProps): string {
  const share =
    levels.share === 0.5 ? "half of runs" : levels.share === 0.95 ? "95 of 100 runs" : `${Math.round(levels.share * 10)} of 10 runs`;
  // Of the reading the limit is from: a run struck out a moment ago may still be in it.
  const n = full?.runs.length ?? 0;
  const runs = n === 1 ? "this 1 run" : `these ${n} runs`;
  const others = limit.from.cells > 1 ? ` and how the unit's ${limit.from.runs} runs scatter` : "";
  return `${share} will last at least ${formatHms(limit.lowerMs)} ${daysWords(limit)}; ${formatShareDown(levels.confidence)} sure from ${runs}${others}`;
}

/** The same claim by one law alone: a comparison, never a claim. */
function classicalWords(full: FullCell | null, levels: LastsProps["levels"]): string {
  if (full === null) return "";
  const { weibull, lognormal } = classicalBounds(full.runs, levels);
  const said = [
    ...(weibull === null ? [] : [`Weibull, conditional on the runs (Lawless 1982): ${hms(weibull)}`]),
    ...(lognormal === null
      ? []
      : [`lognormal, ${full.runs.some((r) => r.event === 0) ? "conditional too" : "noncentral t"}: ${hms(lognormal)}`]),
  ];
  return said.length === 0 ? "" : `For comparison, from these runs alone under one law: ${said.join("; ")}.`;
}

/** Shortest run, typical less a margin, statistical bound: three schools in one table, so that nobody has to choose in the dark. */
function Schools({ full, failed = false, statement, limit, levels }: LastsProps & { statement: CellStatement; limit: Claim | null }) {
  const less = full?.typicalLessSec ?? null;
  const unread = failed ? "not computed" : "being computed";
  return (
    <div className="print-keep mt-3 overflow-x-auto" tabIndex={0} role="region" aria-label="Rules side by side">
      <PlainTable
        heads={["Rule", "Says", "Stands for"]}
        rows={[
          [
            "Shortest run",
            formatHms(statement.valueMs),
            `${formatShareDown(statement.share)} of runs, ${formatShareDown(levels.confidence)} sure`,
          ],
          ["Typical less 20 %", full === null ? unread : less === null ? "none" : hms(less), "a habit; no share and no confidence"],
          [
            "Dependable limit",
            full === null ? unread : limit === null ? "none yet" : formatHms(limit.lowerMs),
            full === null
              ? ""
              : limit === null
                ? "needs what is missing below"
                : `${formatShareDown(levels.share)} of runs ${daysWords(limit)}, ${formatShareDown(levels.confidence)} sure`,
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

/** Of which days it speaks and what weakens it; or why nothing may be claimed, and what is missing. */
function Claimed({ limit, ownRuns }: { limit: CellLimit; ownRuns: number }) {
  if (limit.ok)
    return (
      <>
        {cautionWords(limit, ownRuns).map((words) => (
          <Reason key={words} title="Read with care." text={words} />
        ))}
      </>
    );
  const lesser = likeOthersWords(limit);
  return (
    <>
      <Reason title="No dependable limit yet." text={missingWords(limit)} />
      {lesser !== null && <Reason title="Not a claim:" text={lesser} />}
    </>
  );
}

/** A limit far below what runs do is never left bare. */
function Missing({ full, statement, limit }: { full: FullCell; statement: Statement; limit: Claim | null }) {
  const low = limit !== null && full.typicalSec !== null && limit.lowerMs / 1000 < 0.75 * full.typicalSec;
  const unknown = full.reading.runs.leftOut.filter((l) => l.because === "start state not known").length;
  const asks = [
    ...(unknown > 0 ? [`${unknown === 1 ? "1 run has" : `${unknown} runs have`} no start state: add it to the run and it counts`] : []),
    ...full.scatter.unsaid.filter((u) => u !== "start state not known").map(unsaidWords),
    ...(low ? [`more runs: as a rule the limit rises towards the typical time (see What to test next)`] : []),
  ];
  if (asks.length === 0 || !statement.ok) return null;
  return <Reason title={low ? "Honest, but low. What is missing:" : "What would help:"} text={`${asks.join("; ")}.`} />;
}

function Typical({ statement, tooWide }: { statement: CellStatement; tooWide: boolean }) {
  if (tooWide)
    return <Reason title="No typical time." text="These runs spread too far to average; find the cause first (see Why runs differ)." />;
  if (statement.typicalMs === null || statement.longestMs === null) {
    if (statement.censored === 0) return null;
    return (
      <Reason
        title="No typical time."
        text={`${statement.censored === statement.n ? "No" : "Not every"} run reached its end unbroken, so no typical time and no upper end can be given.`}
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
  const at = cell.rated.ambientC === null ? "no temperature given" : `at ${formatTemperature(cell.rated.ambientC, temperature)}`;
  return <Reason title={`Published ${statedWords(cell.rated)} ${at}.`} text="Whether that is true is a question of its own." />;
}

function LeftOutRow({ row, statement }: { row: HeatRow; statement: Statement }) {
  const { would } = row;
  const same = would?.ok === true && statement.ok && would.valueMs === statement.valueMs && would.n === statement.n;
  const effect =
    would?.ok === true && !same
      ? `With it the shortest would read ${formatHms(would.valueMs)} from ${would.n === 1 ? "1 run" : `${would.n} runs`}.`
      : row.leftOut === "not ended"
        ? "It counts once it has ended."
        : "It has no time that could count.";
  return (
    <Reason
      title={`Left out: ${row.leftOut === "struck out" ? "by hand" : (row.leftOut ?? "")}${row.run.row?.struck == null ? "." : ""}`}
      text={row.run.row?.struck != null ? `(${row.run.row.struck}). ${effect}` : effect}
    >
      {" "}
      <Link to={`/runs/${row.run.id}`}>{formatDate(row.run.fold.startMs ?? 0, "dayTime", row.run.row?.clockKind)}</Link>
      {row.run.row?.struck != null && <StrikeRow runId={row.run.id} struck={row.run.row.struck} />}
    </Reason>
  );
}

/** Which of the two a button records never changes under a finger: what is still being computed cannot be pressed yet. */
function Record({
  cell,
  full,
  failed = false,
  statement,
  limit,
  endpoint,
  levels,
}: LastsProps & { statement: CellStatement; limit: Claim | null }) {
  const [record, { error, isLoading }] = limitApi.useRecordLimitMutation();
  const goOn = useGoOn();
  const press = async (method: "dependable limit" | "shortest-of-n"): Promise<void> => {
    const made = await record({ ofRunId: statement.shortestRunId, endpoint, ...levels, method, zone: zoneOf(cell.clockKind) });
    if (made.data !== undefined) await goOn(`/limits/${made.data.id}`);
  };
  return (
    <div className="no-print mt-4 space-y-2">
      <div className="flex flex-wrap gap-3">
        {(full !== null || !failed) && (
          <Button
            tone="main"
            disabled={isLoading || full === null}
            onClick={() => void press(limit === null ? "shortest-of-n" : "dependable limit")}
          >
            Record this limit
          </Button>
        )}
        {(full === null || limit !== null) && (
          <Button disabled={isLoading} onClick={() => void press("shortest-of-n")}>
            Record the shortest run
          </Button>
        )}
        <Button onClick={() => print()}>Print</Button>
      </div>
      {cell.clockKind === "rehearsal" && <Note>A rehearsal: the recorded limit will say so.</Note>}
      {error !== undefined && (
        <Note tone="alert" live>
          {sentenceOf(error)}
        </Note>
      )}
    </div>
  );
}
