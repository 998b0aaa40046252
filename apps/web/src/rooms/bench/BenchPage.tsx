// The bench: what is rolling, what is due, the latest results, and what to do first when there is nothing.

import { unmarkedText } from "../../record/settling.ts";
import { kitApi } from "../../shared/kit/api.ts";
import { limitApi } from "../../shared/limits/api.ts";
import { recordApi } from "../../record/api.ts";
import type { Kit } from "@keep-rolling/contract/kit";
import { findingText, nextDue, summarise } from "@keep-rolling/core/runs";
import { formatHms, formatSpan } from "@keep-rolling/core/format";
import type { ReactNode } from "react";
import { useState } from "react";
import { Link } from "react-router";
import { sentenceOf } from "../../shared/api/api.ts";
import { useBenchNow, useClock } from "../../record/benchTime.ts";
import { formatDate } from "../../shared/dates/dates.ts";
import { benchNowMs } from "../../record/device.ts";
import type { SeenRun } from "../../record/runs.ts";
import { isOpen, useRuns } from "../../record/runs.ts";
import { useSettings } from "../../shared/settings/settings.ts";
import { RunStrip } from "../../rulers/strips/RunStrip.tsx";
import { Later, laterPart } from "../../shared/ui/Later.tsx";
import { Loading, Note, PageHead, Trouble } from "../../shared/ui/parts.tsx";
import { Cooling } from "./Cooling.tsx";
import { LatestRuns } from "./LatestRuns.tsx";

/** The planner is only fetched on a day that has a plan. */
const Today = laterPart(async () => (await import("./Today.tsx")).Today);

export function BenchPage() {
  const open = useRuns({ open: "1" });
  const latest = useRuns({ latest: 12 });
  const ended = latest.runs.filter((r) => !isOpen(r));
  if (open.isLoading || latest.isLoading) return <Loading what="the bench" />;
  if (open.error !== undefined && open.runs.length === 0)
    return <Trouble sentence={sentenceOf(open.error)} retry={() => void open.refetch()} />;
  const rolling = open.runs;
  return (
    <>
      <PageHead
        title="Bench"
        sub={
          rolling.length === 0 ? "Nothing is rolling." : `${rolling.length === 1 ? "One run is" : `${rolling.length} runs are`} rolling.`
        }
      >
        <Link className="rounded-md border border-cool bg-cool px-4 py-2 font-semibold text-ground no-underline" to="/roll">
          Start a run
        </Link>
        <Link className="rounded-md border border-rule2 bg-key px-4 py-2 no-underline" to="/roll?rehearse=1">
          Rehearse with a stand-in
        </Link>
      </PageHead>
      {rolling.map((run) => (
        <RollingRun key={run.id} run={run} />
      ))}
      <div className="grid gap-x-10 gap-y-6 lg:grid-cols-[1.6fr_1fr]">
        <section aria-labelledby="latest">
          <h2 id="latest">{ended.length === 0 ? "The first hour" : "Latest results"}</h2>
          {ended.length === 0 ? <FirstSteps /> : <LatestRuns runs={ended} />}
        </section>
        <Due runs={[...rolling, ...ended]} />
      </div>
    </>
  );
}

function RollingRun({ run }: { run: SeenRun }) {
  const { temperature } = useSettings();
  const clock = useClock(run.fold.setup?.clockId);
  const nowMs = useBenchNow(clock, 1000);
  const { setup } = run.fold;
  if (setup === null) return null;
  const times = summarise(run.fold, nowMs);
  return (
    <section
      aria-label={`${setup.unit.name} rolling since ${formatDate(run.fold.startMs ?? 0, "time", clock?.kind)}`}
      className="hairline py-3"
    >
      <div className="flex flex-wrap items-baseline gap-x-6">
        <Link to={`/roll/${run.id}`} className="lead">
          {setup.unit.name}, {setup.mode.name}
        </Link>
        <span className="num text-3xl font-semibold">{formatHms(times.recordedMs.hi)}</span>
        <span className="text-soft">
          {run.fold.state === "gap" ? "in a gap" : "rolling"} · {setup.condition.name} · since{" "}
          {formatDate(run.fold.startMs ?? 0, "dayTime", clock?.kind)}
          {clock !== undefined && clock.kind !== "real" && ` · ${clock.kind}`}
        </span>
      </div>
      <RunStrip unit={temperature} fold={run.fold} trace={run.trace} nowMs={nowMs} height={22} live rated={null} dependable={null} />
    </section>
  );
}

function Step({ n, to, name, done, children }: { n: number; to: string; name: string; done: boolean; children: ReactNode }) {
  return (
    <li className="hairline grid grid-cols-[2.5rem_1fr] py-3">
      <span className="num text-2xl font-semibold text-soft" aria-hidden="true">
        {n}
      </span>
      <span>
        <Link to={to} className="text-lg font-semibold">
          {name}
        </Link>
        {done && <span className="text-soft"> · done</span>}
        <span className="block text-soft">{children}</span>
      </span>
    </li>
  );
}

/** The first hour: what to do, in order, and what each step needs. */
function FirstSteps() {
  const { data: kit } = kitApi.useKitQuery();
  const hasBody = kit?.units.some((u) => u.bench === "real" && !u.archived) ?? false;
  return (
    <>
      <ol className="mt-2 max-w-2xl border-b border-rule">
        <Step n={1} to="/kit/add" name="Add your camera" done={hasBody}>
          One page: model, body, firmware, the modes you record in. Have the camera and its menu at hand.
        </Step>
        <Step n={2} to="/roll" name="Record until it stops" done={false}>
          Camera on a tripod, charged battery or mains, an empty card, a thermometer if you have one. Say the room, press start when the
          camera starts.
        </Step>
        <Step n={3} to="/roll/notebook" name="Bring in old runs" done={false}>
          From a notebook or a spreadsheet, one row a run. From the first run on, Heat says what can be relied on.
        </Step>
      </ol>
      <p className="mt-4 max-w-2xl text-soft">
        No camera at hand: <Link to="/roll?rehearse=1">try a simulated one</Link>; it rolls to its shutdown in about a minute. A ready-made
        demo, a rowing league's test days, starts with <code className="num">npm start</code> without <code className="num">--empty</code>.
      </p>
    </>
  );
}

/** What wants a hand: checkpoints, findings, limits that ask for a re-test. */
function Due({ runs }: { runs: readonly SeenRun[] }) {
  const { data, isError } = limitApi.useLimitsQuery();
  const unread = data === undefined && isError;
  const { data: kit } = kitApi.useKitQuery();
  const today = useToday(kit);
  const [all, setAll] = useState(false);
  const retests = (data?.limits ?? []).filter((l) => l.retest.length > 0);
  const findings = runs.flatMap((run) => [
    ...run.unmarked.map((w) => ({ run, key: w.eventId, text: unmarkedText(run, w) })),
    ...run.fold.findings.map((f) => ({ run, key: `${f.code} ${f.markIds.join()}`, text: findingText(f.code) })),
  ]);
  const shown = all ? findings : findings.slice(0, 5);
  const rolling = runs.filter(isOpen);
  return (
    <section aria-labelledby="due">
      <h2 id="due">Due</h2>
      <ul className="mt-1">
        {rolling.map((run) => (
          <DueCheckpoint key={run.id} run={run} />
        ))}
        {kit?.units
          .filter((u) => !u.archived)
          .map((unit) => (
            <Cooling key={unit.id} unit={unit} />
          ))}
        {kit !== undefined && today !== null && (
          <Later>
            <Today key={today} dayId={today} kit={kit} />
          </Later>
        )}
        {retests.map((limit) => (
          <li key={limit.id} className="hairline py-2">
            <Link to={`/limits/${limit.id}`}>
              {limit.unitName}, {limit.modeName}
            </Link>
            <Note tone="alert">{limit.retest[0]?.text}</Note>
          </li>
        ))}
        {shown.map(({ run, key, text }) => (
          <li key={`${run.id} ${key}`} className="hairline py-2">
            <Link to={`/runs/${run.id}`}>{run.fold.setup?.unit.name ?? "A run"}</Link>
            <Note>{text}</Note>
          </li>
        ))}
        {unread && (
          <li className="hairline py-2 text-alert">
            Recorded limits could not be read just now: whether one asks for a re-test is not known.
          </li>
        )}
        {data !== undefined && kit !== undefined && rolling.length + retests.length + findings.length === 0 && today === null && (
          <li className="hairline py-2 text-soft">Nothing waits for you.</li>
        )}
      </ul>
      {findings.length > shown.length && (
        <button type="button" className="text-soft underline" onClick={() => setAll(true)}>
          {`${findings.length - shown.length} more findings`}
        </button>
      )}
    </section>
  );
}

/** The day planned for today, by the clock of its plan; null without one. */
function useToday(kit: Kit | undefined): string | null {
  const { data } = recordApi.useClocksQuery();
  const day = kit?.days.find((d) => {
    const bench = kit.plans.find((p) => p.id === d.planId)?.bench;
    const clock = data?.clocks.find((c) => c.id === bench);
    return !d.archived && clock !== undefined && localDate(benchNowMs(clock), d.zone) === d.date;
  });
  return day?.id ?? null;
}

const localDate = (ms: number, zone: string): string => new Intl.DateTimeFormat("en-CA", { timeZone: zone, dateStyle: "short" }).format(ms);

function DueCheckpoint({ run }: { run: SeenRun }) {
  const clock = useClock(run.fold.setup?.clockId);
  const nowMs = useBenchNow(clock, 1000);
  const due = nextDue(run.fold, nowMs);
  if (due === null) return null;
  return (
    <li className="hairline py-2">
      <Link to={`/roll/${run.id}`}>{run.fold.setup?.unit.name}</Link>{" "}
      <span className={due.overdue ? "font-semibold text-alert" : "text-soft"}>
        {due.overdue ? `checkpoint overdue by ${formatSpan(nowMs - due.dueMs)}` : `next checkpoint in ${formatSpan(due.dueMs - nowMs)}`}
      </span>
    </li>
  );
}
