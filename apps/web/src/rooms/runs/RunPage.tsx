// One run after its end: the strip, the numbers, what counts and why, findings, marks.

import { ratedOf } from "@keep-rolling/core/kit";
import { kitApi } from "../../shared/kit/api.ts";
import type { Clock } from "@keep-rolling/contract/clocks";
import type { StartBody } from "@keep-rolling/core/runs";
import { describeRun } from "@keep-rolling/core/runs";
import { useRef } from "react";
import { Link } from "react-router";
import { useBenchNow } from "../../record/benchTime.ts";
import { formatDate } from "../../shared/dates/dates.ts";
import type { WatchedRun } from "../../record/runs.ts";
import { isOpen } from "../../record/runs.ts";
import { useSettings } from "../../shared/settings/settings.ts";
import { Legend } from "../../rulers/strips/Legend.tsx";
import { RunStrip } from "../../rulers/strips/RunStrip.tsx";
import { Publish } from "../../shared/ui/Publish.tsx";
import { PageHead } from "../../shared/ui/parts.tsx";
import { RunGate } from "./RunGate.tsx";
import { AddMark } from "./AddMark.tsx";
import { Chain } from "./Chain.tsx";
import { CorrectRun } from "./CorrectRun.tsx";
import { GapReadings } from "./GapReadings.tsx";
import { Countdowns, Surroundings } from "./RunStates.tsx";
import { Numbers } from "./Numbers.tsx";
import { ExportPanel } from "./ExportPanel.tsx";
import { Findings } from "./Findings.tsx";
import { MarkTable } from "./MarkTable.tsx";
import { StrikeOut } from "../../shared/ui/StrikeOut.tsx";

export const RunPage = () => <RunGate>{(run, setup, clock) => <OneRun run={run} setup={setup} clock={clock} />}</RunGate>;

function OneRun({ run, setup, clock }: { run: WatchedRun; setup: StartBody; clock: Clock | undefined }) {
  const { temperature } = useSettings();
  const nowMs = useBenchNow(clock, 1000);
  const { data: kit } = kitApi.useKitQuery();
  const stack = useRef<HTMLDivElement>(null);
  const rated = ratedOf(kit?.figures ?? [], setup.mode.id);
  return (
    <>
      <PageHead
        title={`${setup.unit.name} · ${setup.mode.name}`}
        sub={`${formatDate(run.fold.startMs ?? 0, "dayTime", clock?.kind)} · ${setup.condition.name} · firmware ${setup.unit.firmware} · ${setup.protocol.name}${run.row !== null && run.row.clockKind !== "real" ? ` · ${run.row.clockKind === "demo" ? "demo" : "rehearsal"}, a simulated camera` : ""}`}
      >
        {isOpen(run) ? <Link to={`/roll/${run.id}`}>To the console</Link> : <Link to={`/roll/${run.id}`}>After-end questions</Link>}
        <Link to={`/runs/${run.id}/files`}>Its files</Link>
        <Link to={`/runs/${run.id}/history`}>Who did what when</Link>
        <Link to={`/heat/${setup.unit.id}`}>All runs of {setup.unit.name}</Link>
      </PageHead>
      <div ref={stack}>
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
      </div>
      <Publish
        stack={stack}
        name={`run ${setup.unit.name} ${setup.mode.name}`}
        caption={{
          title: `${setup.unit.name}: ${setup.mode.name}`,
          lines: [
            `${formatDate(run.fold.startMs ?? 0, "long", clock?.kind)} · ${setup.condition.name} · firmware ${setup.unit.firmware}`,
            `${describeRun(run.fold, nowMs)} One run.${run.row === null || run.row.clockKind === "real" ? "" : ` From a simulated camera (${run.row.clockKind}).`}`,
          ],
        }}
      />
      <Legend witnesses={[run.trace.witness]} />
      <div className="mt-6 grid gap-x-12 gap-y-6 lg:grid-cols-[1fr_1.4fr]">
        <div className="space-y-5">
          <Numbers run={run} nowMs={nowMs} />
          <GapReadings run={run} clock={clock} />
          <Countdowns fold={run.fold} nowMs={nowMs} />
          <Surroundings fold={run.fold} nowMs={nowMs} />
          <Chain run={run} />
          <Findings run={run} clock={clock} />
          {run.row !== null && !isOpen(run) && <StrikeOut runId={run.id} struck={run.row.struck} />}
        </div>
        <div className="space-y-5">
          <MarkTable run={run} clock={clock} />
          <AddMark run={run} clock={clock} />
          <CorrectRun run={run} setup={setup} clock={clock} />
          <ExportPanel run={run} />
        </div>
      </div>
    </>
  );
}
