// Who did what when: every mark in the order it was pressed, from which device, how long it was on its way, and what became of it.

import { ownerOf } from "../../record/outbox.ts";
import { deviceApi } from "../../shared/devices/api.ts";
import type { HistoryLine } from "@keep-rolling/core/runs";
import { historyOf } from "@keep-rolling/core/runs";
import { formatHms } from "@keep-rolling/core/format";
import { Link, useParams } from "react-router";
import { sentenceOf } from "../../shared/api/api.ts";
import { useClock } from "../../record/benchTime.ts";
import { formatDate } from "../../shared/dates/dates.ts";
import { useDevice } from "../../record/device.ts";
import type { WatchedRun } from "../../record/runs.ts";
import { useRun } from "../../record/runs.ts";
import { useSettings } from "../../shared/settings/settings.ts";
import { arrival, asides } from "./historyWords.ts";
import { Loading, Note, PageHead, Trouble } from "../../shared/ui/parts.tsx";

export function HistoryPage() {
  const { runId = "" } = useParams();
  const { run, error, refetch } = useRun(runId);
  const clock = useClock(run?.fold.setup?.clockId);
  if (run === null)
    return error === undefined ? <Loading what="the run" /> : <Trouble sentence={sentenceOf(error)} retry={() => void refetch()} />;
  const { setup } = run.fold;
  return (
    <>
      <PageHead
        title="Who did what when"
        sub={`${setup === null ? "A run without its start" : `${setup.unit.name} · ${setup.mode.name}`} · ${formatDate(run.fold.startMs ?? 0, "dayTime", clock?.kind)}`}
      >
        <Link to={`/runs/${run.id}`}>To the run</Link>
      </PageHead>
      <Note>In the order of presses. Nothing is ever removed: what was undone or corrected stands here as it was pressed.</Note>
      <Lines run={run} kind={clock?.kind} />
      <SetAside runId={run.id} />
    </>
  );
}

function Lines({ run, kind }: { run: WatchedRun; kind: Parameters<typeof formatDate>[2] }) {
  const { temperature } = useSettings();
  const nameOf = useDeviceNames();
  return (
    <table className="mt-4 w-full">
      <thead>
        <tr className="text-left text-sm text-soft">
          <th scope="col" className="w-24 py-1.5 font-normal">
            pressed
          </th>
          <th scope="col" className="w-28 font-normal sm:w-60">
            device
          </th>
          <th scope="col" className="font-normal">
            what
          </th>
          <th scope="col" className="hidden w-52 font-normal sm:table-cell">
            on record
          </th>
        </tr>
      </thead>
      <tbody>
        {historyOf(run.marks, temperature).map((line) => (
          <tr key={line.mark.id} className="hairline align-baseline">
            <td className="num py-1.5">{formatDate(line.mark.madeAtMs, "time", kind)}</td>
            <td>{nameOf(line.mark.deviceId)}</td>
            <td>
              <What line={line} startMs={run.fold.startMs ?? 0} />
            </td>
            <td className="hidden text-sm text-soft sm:table-cell">{arrival(line.mark, run.received.get(line.mark.id))}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function What({ line, startMs }: { line: HistoryLine; startMs: number }) {
  const { mark, words, about, became } = line;
  const lead = mark.kind === "correction" ? "corrects " : mark.kind === "undo" ? "takes back " : "";
  const named = about === null ? "a mark that is not here" : `“${about}”`;
  return (
    <>
      <span className={became === "taken back" ? "line-through decoration-soft" : ""}>
        {lead}
        {lead === "" ? words : mark.kind === "undo" ? named : `${named}: ${words}`}
        {mark.kind === "correction" &&
          "atMs" in mark.body &&
          typeof mark.body.atMs === "number" &&
          ` (${formatHms(mark.body.atMs - startMs)})`}
      </span>
      <span className="block text-sm text-soft">{asides(mark, became)}</span>
    </>
  );
}

function useDeviceNames(): (id: string) => string {
  const { data } = deviceApi.useDevicesQuery();
  const { outbox } = useDevice();
  const names = new Map((data?.devices ?? []).map((d) => [d.id, d.name]));
  return (id) => `${names.get(id) ?? `device ${id.slice(-4)}`}${id === outbox.deviceId ? " (this one)" : ""}`;
}

function SetAside({ runId }: { runId: string }) {
  const { outbox } = useDevice();
  const { data } = deviceApi.useSetAsideQuery();
  const mine = outbox.entries.filter((e) => e.delivery === "set aside" && ownerOf(e.mark) === runId);
  const there = (data?.setAside ?? []).filter((s) => s.raw.includes(runId));
  if (mine.length + there.length === 0) return null;
  return (
    <section aria-labelledby="aside" className="mt-6">
      <h2 id="aside">Set aside</h2>
      <p className="text-sm text-soft">These could not be taken into the record and are kept whole: here, and in the Data room.</p>
      <ul>
        {mine.map((e) => (
          <li key={e.mark.id} className="hairline py-1.5">{`${e.mark.kind}: ${e.reason ?? "no reason given"}, kept on this device`}</li>
        ))}
        {there.map((s) => (
          <li key={s.n} className="hairline py-1.5">{`${s.deviceName ?? "a device"}: ${s.code}`}</li>
        ))}
      </ul>
    </section>
  );
}
