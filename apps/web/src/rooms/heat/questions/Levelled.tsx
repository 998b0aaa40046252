// Censored: had it levelled off? The path of each run that heat did not end; and for a run under way the live chance, with its calibration.

import type { LevelledRun } from "@keep-rolling/core/reading";
import {
  chanceToReach,
  hms,
  levellingWords,
  limitSettings,
  outlook,
  pastOf,
  pathOf,
  STATED,
  timeOfChance,
  SHUTDOWN_STEP,
} from "@keep-rolling/core/reading";
import { cellKey } from "@keep-rolling/core/kit";
import { recordedAt } from "@keep-rolling/core/runs";
import { useMemo } from "react";
import { Link } from "react-router";
import { formatDate } from "../../../shared/dates/dates.ts";
import { isOpen } from "../../../record/runs.ts";
import { PathChart } from "../charts.tsx";
import { ChartTable, Lead, Opened, Reason, Reasons } from "../parts.tsx";
import { useLive } from "../../../shared/reading/useLive.ts";
import type { LiveAnswer } from "../../../workers/jobs/liveChance.ts";
import type { Answerable } from "./ask.ts";

export function Levelled(a: Answerable) {
  const { full, runs } = a;
  const live = useLiveOf(a);
  const calibration = live?.calibration ?? [];
  const first = full.levelling.find((l) => l.reading.ok) ?? full.levelling[0];
  const verdicts = full.levelling.flatMap((l) => (l.reading.ok ? [l.reading.verdict] : []));
  return (
    <div>
      <Lead about={`${full.setup.mode.name}, ${full.setup.condition.name}:`}>{leadOf(full.levelling, verdicts, full.runs.length)}</Lead>
      {first !== undefined && first.path.time.length > 0 && <Path run={first} />}
      <Reasons>
        {full.levelling.map((l) => (
          <Reason
            key={l.runId}
            title={<RunLink a={a} id={l.runId} />}
            text={
              <>
                {levellingWords(l.reading, l.asAtTheStart)}
                {l.reading.ok && l.asAtTheStart === null && (
                  <>
                    {" "}
                    <Link to={`/roll/${l.runId}`}>Were fan, sun, screen and place as at the start?</Link>
                  </>
                )}
              </>
            }
          />
        ))}
        <Live {...a} live={live} />
        {calibration.some((c) => c.runs > 0) && (
          <Reason
            title="How well the live chance tells:"
            text={`each earlier run told from the others alone: ${calibration
              .filter((c) => c.runs > 0)
              .map((c) => `at ${100 * c.at} % of its length ${c.reached} of ${c.runs} reached the time given ${100 * STATED} %`)
              .join("; ")}.`}
          />
        )}
      </Reasons>
      {full.levelling.length > 0 && (
        <Opened
          what="the paths"
          runIds={full.levelling.map((l) => l.runId)}
          runs={runs}
          method={`Of every rise towards a plateau that passes between the readings (plateau, start, time constant within its range, a slow part of up to a fifth) the share that stays below shutdown; one term for each boundary of the gauge between whole steps, not for each reading. "Levels off" and "still climbing" need nine tenths of it. Worked out and simulated for this project (docs/methods/levelling.md); a fan or the sun that changes unmarked is noticed in 35 to 80 %. Shell temperatures are not judged. Shutdown is taken to come at step ${SHUTDOWN_STEP} of the gauge.`}
        />
      )}
      {calibration.some((c) => c.runs > 0) && (
        <Opened
          what="the live chance"
          runIds={full.runs.filter((r) => r.event === 1).map((r) => r.runId)}
          runs={runs}
          method="The chance to last any time by the dependable limit's own estimate, given that it has lasted so far; from four shutdowns on its times are stretched by how late the last three gauge steps came, by as much as that told of the others. A surprise in the room, a pause or a warm start is not in it."
        />
      )}
    </div>
  );
}

function leadOf(all: readonly LevelledRun[], verdicts: readonly string[], counted: number): string {
  if (counted === 0) return "no run counts here yet.";
  if (all.length === 0) return "every counted run here ended by heat; nothing to level off.";
  const off = verdicts.filter((v) => v === "levels off").length;
  const unasked = all.some((l) => l.reading.ok && l.reading.verdict === "levels off" && l.asAtTheStart !== true);
  const unless = unasked ? ", if nothing changed" : "";
  if (off === 1 && all.length === 1) return `the run that heat did not end levels off below shutdown${unless}.`;
  if (off === all.length) return `all ${all.length} runs that heat did not end level off below shutdown${unless}.`;
  if (off > 0)
    return `${off} of ${all.length} runs that heat did not end ${off === 1 ? "levels" : "level"} off${unless}; the others do not tell, or still climbed.`;
  return verdicts.includes("still climbing")
    ? "still climbing: longer runs would have shut down, if nothing changed."
    : "too little data to say that it had levelled off; the times stand as minimums.";
}

function RunLink({ a, id }: { a: Answerable; id: string }) {
  const run = a.runs.find((r) => r.id === id);
  return <Link to={`/runs/${id}`}>{formatDate(run?.fold.startMs ?? 0, "dayTime", run?.row?.clockKind)}</Link>;
}

function Path({ run }: { run: LevelledRun }) {
  const { path, reading } = run;
  const points = path.time.map((sec, i) => ({ sec, value: path.tempC[i] ?? 0 }));
  return (
    <>
      <PathChart points={points} shutdownAt={SHUTDOWN_STEP} plateau={reading.ok ? reading.upper : null} />
      <p className="text-sm text-soft">Gauge steps of the first such run; dashed: what the plateau lies below, 90 % sure.</p>
      <ChartTable what="The path" heads={["Elapsed", "Gauge"]} rows={points.map((p) => [hms(p.sec), p.value])} />
    </>
  );
}

/** Shutdowns of the cell with their paths. */
const pastRuns = ({ full, runs }: Pick<Answerable, "full" | "runs">) =>
  pastOf(
    full.runs.flatMap((r) => {
      const run = runs.find((x) => x.id === r.runId);
      return run === undefined ? [] : [{ ...r, fold: run.fold }];
    }),
  );

function useLiveOf({ full, runs, report }: Answerable): LiveAnswer | null {
  const question = useMemo(() => {
    // A chance is one of heat; of another end the page asks elsewhere.
    if (report.endpoint !== "shutdown") return null;
    const index = report.cells.findIndex((c) => c.key === full.key);
    const cells = report.cells.map((c) => ({ setup: c.setup, records: c.runs }));
    return { cells, index, past: pastRuns({ full, runs }), settings: limitSettings(report.levels, report.ledger) };
  }, [full, runs, report]);
  return useLive(question).answer;
}

/** A run of this cell that rolls now. */
function Live({ cell, full, runs, live }: Answerable & { live: LiveAnswer | null }) {
  const open = runs.find((r) => isOpen(r) && r.fold.setup !== null && cellKey(r.fold.setup) === cell.key);
  if (open === undefined || live === null) return null;
  const lastMs = Math.max(...open.fold.effective.map((m) => m.atMs));
  const sinceSec = recordedAt(open.fold, lastMs) / 1000;
  const o = outlook(live.curve, pastRuns({ full, runs }), pathOf(open.fold, "gauge"), sinceSec);
  if (!o.ok) return <Reason title="A run is rolling here." text="Earlier shutdowns are too few for a live chance: it takes three." />;
  const reach = timeOfChance(o, STATED, sinceSec);
  const round = Math.ceil((sinceSec + 300) / 300) * 300;
  return (
    <Reason
      title={<Link to={`/roll/${open.id}`}>A run is rolling here:</Link>}
      text={`at its last mark it had lasted ${hms(sinceSec)}; it reaches ${hms(reach)} with a chance of ${100 * STATED} %, ${hms(round)} with ${Math.floor(100 * chanceToReach(o, round, sinceSec))} %${o.pace === null ? "" : ` (its gauge climbs at ${Math.round(100 / o.pace)} % of the others' pace)`}.`}
    />
  );
}
