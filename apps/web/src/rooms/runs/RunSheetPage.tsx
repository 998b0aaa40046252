// One run on one page, and its settings on a card to hold before the lens. Made to be printed.

import { ratedOf } from "@keep-rolling/core/kit";
import { kitApi } from "../../shared/kit/api.ts";
import type { Clock } from "@keep-rolling/contract/clocks";
import type { StartBody } from "@keep-rolling/core/runs";
import { ambientWords, describeMark } from "@keep-rolling/core/runs";
import { formatHms } from "@keep-rolling/core/format";
import { Link } from "react-router";
import { formatDate } from "../../shared/dates/dates.ts";
import type { SeenRun } from "../../record/runs.ts";
import { useSettings } from "../../shared/settings/settings.ts";
import { Legend } from "../../rulers/strips/Legend.tsx";
import { RunStrip } from "../../rulers/strips/RunStrip.tsx";
import { Button, PageHead } from "../../shared/ui/parts.tsx";
import { Numbers } from "./Numbers.tsx";
import { RunGate } from "./RunGate.tsx";
import { settingRows } from "./settingRows.ts";
import { simulatedNote } from "./ExportPanel.tsx";

export const RunSheetPage = () => <RunGate>{(run, setup, clock) => <Sheet run={run} setup={setup} clock={clock} />}</RunGate>;
export const SettingsCardPage = () => <RunGate>{(run, setup, clock) => <Card run={run} setup={setup} clock={clock} />}</RunGate>;

interface Props {
  run: SeenRun;
  setup: StartBody;
  clock: Clock | undefined;
}

/** More marks than this would need a second page; the rest are counted. */
const MARKS_MOST = 26;
const SHOWN_KINDS: readonly string[] = ["start", "gap", "resume", "warning", "condition", "end", "check", "note", "touch"];

function Sheet({ run, setup, clock }: Props) {
  const { temperature } = useSettings();
  const { data: kit } = kitApi.useKitQuery();
  const { fold } = run;
  const startMs = fold.startMs ?? 0;
  const rated = ratedOf(kit?.figures ?? [], setup.mode.id);
  const shown = fold.effective.filter((m) => SHOWN_KINDS.includes(m.kind));
  return (
    <div className="max-w-[46rem]">
      <PageHead title={`${setup.unit.name} · ${setup.mode.name}`} sub={subWords(run, setup, clock)}>
        <Link to={`/runs/${run.id}`}>Back to the run</Link>
        <Button tone="main" onClick={() => print()}>
          Print
        </Button>
      </PageHead>
      <RunStrip
        unit={temperature}
        fold={fold}
        trace={run.trace}
        nowMs={fold.end?.hiMs ?? startMs}
        height={28}
        rated={rated}
        dependable={null}
      />
      <Legend witnesses={[run.trace.witness]} />
      <div className="mt-3 grid gap-x-8 md:grid-cols-2 print:grid-cols-2">
        <Numbers run={run} nowMs={fold.end?.hiMs ?? startMs} />
        <div className="text-sm">
          <SettingList setup={setup} />
          <ol className="mt-2">
            {shown.slice(0, MARKS_MOST).map((m) => (
              <li key={m.id} className="grid grid-cols-[4.2rem_1fr] gap-x-2">
                <span className="num">{formatHms(m.atMs - startMs)}</span>
                <span>{describeMark(m, temperature)}</span>
              </li>
            ))}
          </ol>
          {shown.length > MARKS_MOST && <p className="text-soft">{`and ${shown.length - MARKS_MOST} more marks`}</p>}
        </div>
      </div>
    </div>
  );
}

function subWords(run: SeenRun, setup: StartBody, clock: Clock | undefined): string {
  const when = formatDate(run.fold.startMs ?? 0, "dayTime", clock?.kind);
  return [when, setup.condition.name, `firmware ${setup.unit.firmware}`, simulatedNote(run)].filter((s) => s !== "").join(" · ");
}

function SettingList({ setup }: { setup: StartBody }) {
  return (
    <dl>
      {settingRows(setup).map(([what, value]) => (
        <div key={what} className="grid grid-cols-[8rem_1fr] gap-x-2">
          <dt className="text-soft">{what}</dt>
          <dd>{value}</dd>
        </div>
      ))}
    </dl>
  );
}

/** Large enough to be read off a film of it. */
function Card({ run, setup, clock }: Props) {
  const { temperature } = useSettings();
  const { ambient, startState } = setup;
  return (
    <div className="max-w-[46rem]">
      <div className="no-print mb-4 flex flex-wrap items-center gap-4">
        <Link to={`/runs/${run.id}`}>Back to the run</Link>
        <Button tone="main" onClick={() => print()}>
          Print
        </Button>
        <span className="text-soft">Film it before the run: the settings are then in the picture.</span>
      </div>
      <article className="border-2 border-ink p-5" aria-label="Settings card">
        <h1>
          {setup.unit.name} · {setup.mode.name}
        </h1>
        <p className="text-lg">{subWords(run, setup, clock)}</p>
        <dl className="mt-3 grid gap-x-8 text-lg sm:grid-cols-2 print:grid-cols-2">
          {settingRows(setup).map(([what, value]) => (
            <div key={what} className="hairline grid grid-cols-[8.5rem_1fr] gap-x-2 py-1">
              <dt className="text-soft">{what}</dt>
              <dd className="font-semibold">{value}</dd>
            </div>
          ))}
          <div className="hairline grid grid-cols-[8.5rem_1fr] gap-x-2 py-1">
            <dt className="text-soft">ambient</dt>
            <dd className="font-semibold">{`${ambientWords(ambient, temperature)}${ambient.basis === "not recorded" ? "" : `, ${ambient.basis}`}`}</dd>
          </div>
          <div className="hairline grid grid-cols-[8.5rem_1fr] gap-x-2 py-1">
            <dt className="text-soft">start</dt>
            <dd className="font-semibold">{startState.state === "cold" ? "fully cooled" : startState.state}</dd>
          </div>
        </dl>
      </article>
    </div>
  );
}
