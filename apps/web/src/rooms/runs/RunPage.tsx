// One run after its end: the strip, the numbers, what counts and why, findings, marks.

import type { Observation } from "@keep-rolling/core/runs";
import { isRefusal, observe, summarise } from "@keep-rolling/core/runs";
import { formatHms, formatSpan, formatTemperatureRange } from "@keep-rolling/core/units";
import { Link, useParams } from "react-router";
import { api, sentenceOf } from "../../api/api.ts";
import { useBenchNow, useClock } from "../../app/benchTime.ts";
import { formatDate } from "../../app/dates.ts";
import type { SeenRun } from "../../app/runs.ts";
import { isOpen, useRun } from "../../app/runs.ts";
import { useSettings } from "../../app/store.ts";
import { Legend } from "../../rulers/Legend.tsx";
import { RunStrip } from "../../rulers/RunStrip.tsx";
import { Fact, Loading, Note, PageHead, Trouble } from "../../ui/parts.tsx";
import { Chain } from "./Chain.tsx";
import { Findings } from "./Findings.tsx";
import { MarkTable } from "./MarkTable.tsx";
import { StrikeOut } from "../../ui/StrikeOut.tsx";

export function RunPage() {
  const { temperature } = useSettings();
  const { runId = "" } = useParams();
  const { run, error, refetch } = useRun(runId);
  const clock = useClock(run?.fold.setup?.clockId);
  const nowMs = useBenchNow(clock, 1000);
  const { data: kit } = api.useKitQuery();
  if (run === null)
    return error === undefined ? <Loading what="the run" /> : <Trouble sentence={sentenceOf(error)} retry={() => void refetch()} />;
  const { setup } = run.fold;
  if (setup === null) return <Note tone="alert">This run has no start mark yet; its device may still be offline.</Note>;
  const rated = kit?.figures.find((f) => f.modeId === setup.mode.id && f.kind === "rated" && !f.archived) ?? null;
  return (
    <>
      <PageHead
        title={`${setup.unit.name} · ${setup.mode.name}`}
        sub={`${formatDate(run.fold.startMs ?? 0, "dayTime", clock?.kind)} · ${setup.condition.name} · firmware ${setup.unit.firmware} · ${setup.protocol.name}${run.row !== null && run.row.clockKind !== "real" ? ` · ${run.row.clockKind === "demo" ? "demo" : "rehearsal"}, a simulated camera` : ""}`}
      >
        {isOpen(run) ? <Link to={`/roll/${run.id}`}>To the console</Link> : <Link to={`/roll/${run.id}`}>After-end questions</Link>}
        <Link to={`/runs/${run.id}/history`}>Who did what when</Link>
        <Link to={`/heat/${setup.unit.id}`}>All runs of {setup.unit.name}</Link>
      </PageHead>
      <RunStrip
        unit={temperature}
        fold={run.fold}
        trace={run.trace}
        nowMs={nowMs}
        height={34}
        rated={rated}
        dependable={null}
        live={isOpen(run)}
      />
      <Legend witnesses={[run.trace.witness]} />
      <div className="mt-6 grid gap-x-12 gap-y-6 lg:grid-cols-[1fr_1.4fr]">
        <div className="space-y-5">
          <Numbers run={run} nowMs={nowMs} />
          <Chain run={run} />
          <Findings run={run} clock={clock} />
          {run.row !== null && !isOpen(run) && <StrikeOut runId={run.id} struck={run.row.struck} />}
        </div>
        <MarkTable run={run} clock={clock} />
      </div>
    </>
  );
}

function Numbers({ run, nowMs }: { run: SeenRun; nowMs: number }) {
  const { temperature } = useSettings();
  const { fold } = run;
  const { setup } = fold;
  if (setup === null) return null;
  const times = summarise(fold, nowMs);
  const seen = observe(fold, setup.protocol.continuity, "shutdown");
  const warned = observe(fold, setup.protocol.continuity, "firstWarning");
  const { lo, hi } = times.recordedMs;
  return (
    <dl className="border-b border-rule" aria-label="Numbers of this run">
      <Fact
        label="recorded"
        value={hi > lo && fold.end !== null ? `${formatHms(lo)} to ${formatHms(hi)}` : formatHms(fold.end === null ? hi : lo)}
        note={hi > lo && fold.end !== null ? "found off: the end lies between; claims use the shorter" : undefined}
      />
      <Fact label="elapsed" value={formatHms(times.elapsedMs)} />
      <Fact
        label="gaps"
        value={fold.gaps.length === 0 ? "none" : formatSpan(times.gapMs)}
        note={
          fold.gaps
            .map((g) => `${g.cause}, ${g.power === "on" ? "body on" : "powered off"}, ${formatSpan((g.toMs ?? nowMs) - g.fromMs)}`)
            .join("; ") || undefined
        }
      />
      <Fact
        label="first warning"
        value={warned.ok && warned.event === 1 ? formatHms(warned.timeMs.lo) : "none"}
        note={times.warningLeadMs === null ? undefined : `warning lead ${formatSpan(times.warningLeadMs)} before the shutdown`}
      />
      <Fact
        label="ended by"
        value={fold.end === null ? (fold.state === "void" ? "void" : "still under way") : fold.end.cause}
        note={
          fold.end?.becauseHot === true ? "stopped because it was hot: no method repairs that; the time says less than it seems" : undefined
        }
      />
      <Fact label="counts as" value={verdict(seen, isRefusal(fold))} note={because(seen, setup.protocol.name)} />
      <Fact
        label="ambient"
        value={formatTemperatureRange(setup.ambient.valueC, setup.ambient.plusMinusC, temperature)}
        note={setup.ambient.basis}
      />
      <Fact
        label="start state"
        value={{ cold: "fully cooled", warm: "warm", unknown: "not known" }[setup.startState.state]}
        note={`by ${setup.startState.by}`}
      />
    </dl>
  );
}

function verdict(seen: Observation, refused: boolean): string {
  if (refused) return "refused to record";
  if (!seen.ok) return seen.reason === "not-ended" ? "not yet" : "nothing: void";
  return seen.event === 1 ? `heat limit ${formatHms(seen.timeMs.lo)}` : `at least ${formatHms(seen.timeMs.lo)}`;
}

function because(seen: Observation, protocol: string): string | undefined {
  if (!seen.ok) return undefined;
  if (seen.event === 1) return "thermal shutdown: not censored";
  if (seen.brokenAtGap !== null) return `censored: ${seen.because} (protocol "${protocol}"); what follows is a warm start`;
  return "censored: it did not end by heat, so the heat limit lies beyond";
}
