// What next? The cell and the count that raise the wanted bound most per hour of testing; how many runs until the claim can be made.

import type { NextRun } from "@keep-rolling/core/reading";
import { hms, methodWords } from "@keep-rolling/core/reading";
import { parseDuration } from "@keep-rolling/core/format";
import { useState } from "react";
import { Link } from "react-router";
import { TextField } from "../../../shared/ui/fields.tsx";
import { Loading, Note } from "../../../shared/ui/parts.tsx";
import { Lead, Opened, PlainTable, Reason, Reasons } from "../parts.tsx";
import { useNext } from "../useReport.ts";
import type { Answerable } from "./ask.ts";

export function Next(a: Answerable) {
  const { report, cell } = a;
  const [text, setText] = useState("");
  const reading = parseDuration(text);
  const { answer, trouble, stale } = useNext(report, cell.key, reading.ok ? reading.ms / 1000 : null);
  if (trouble !== null) return <Note tone="alert">{`The statistics could not be read: ${trouble}.`}</Note>;
  if (answer === null) return <Loading what="runs to come" />;
  const best = answer.next[0];
  const nameOf = (key: string): string => {
    const setup = report.cells.find((c) => c.key === key)?.setup;
    return setup === undefined ? "" : `${setup.mode.name}, ${setup.condition.name}${firmwareOf(a, key)}`;
  };
  const here = report.cells.find((c) => c.key === cell.key);
  const { until } = answer;
  const limit = here?.limit;
  const typical = here?.typicalSec ?? null;
  return (
    <div aria-busy={stale}>
      <Lead about="The next best run:">
        {best === undefined
          ? report.cells.some((c) => c.runs.some((r) => r.event === 1))
            ? "nothing can be told yet: too many runs were cut off to know a middle anywhere; let another run go to its end."
            : "nothing can be told before a run from cold reaches that end without a gap: let one run to its end."
          : best.gainPerHour <= 0
            ? "nothing that has a shutdown gains from one to three more runs; test a mode or condition that has none."
            : `${best.runs === 1 ? "1 more" : `${best.runs} more`} of ${nameOf(best.key)}; the limit is then expected at ${hms(best.expectedSec)}${best.nowSec === null ? "" : `, now ${hms(best.nowSec)}`}.`}
      </Lead>
      <p className="no-print mt-2">
        <Link to={`/roll?unit=${cell.setup.unit.id}&mode=${cell.setup.mode.id}`}>Start a run</Link> or <Link to="/plan">plan a day</Link>.
      </p>
      <div className="print-keep mt-3 overflow-x-auto" tabIndex={0} role="region" aria-label="Candidates">
        <PlainTable
          caption="What more runs would bring, most gain an hour first"
          heads={["Mode and condition", "Runs", "Hours", "Limit now", "Expected", "Gain an hour"]}
          rows={bestOfCells(answer.next).map((n) => [
            nameOf(n.key),
            n.runs,
            n.hours.toFixed(1),
            n.nowSec === null ? "none" : hms(n.nowSec),
            n.expectedSec > 0 ? hms(n.expectedSec) : "none",
            n.gainPerHour > 0 ? hms(n.gainPerHour) : "none",
          ])}
        />
      </div>
      <div className="no-print mt-4 max-w-xs">
        <TextField
          label="Time wanted here"
          placeholder={typical === null ? "0:30" : hms(0.75 * typical)}
          value={text}
          onChange={(event) => setText(event.target.value)}
          hint={reading.ok ? `reads as ${reading.echo}` : "left empty: three quarters of the typical run"}
        />
      </div>
      <Reasons>
        <Reason
          title="Until the claim can be made here:"
          text={untilWords(until, reading.ok ? reading.ms / 1000 : typical === null ? null : 0.75 * typical)}
        />
        <Reason
          title="How it is told."
          text="Fifteen sets of runs to come are drawn about the middle of those there are, with their own scatter, cut where the longest cut run was, and the limit is read again with each; the middle of the limits is shown. Hours: the typical run and a rest to a tenth of the heat. A surprise in the next run changes all of it."
        />
        {here !== undefined && <Reason title="On which day:" text={dayWords(here)} />}
      </Reasons>
      {limit?.ok === true && (
        <Opened
          what="the limit it starts from"
          runIds={limit.from.runIds}
          runs={a.runs}
          endpoint={a.endpoint}
          method={methodWords(limit)}
        />
      )}
    </div>
  );
}

/** Runs of one day share its air, so the next are worth most on another. */
function dayWords({ limit, runs }: Answerable["full"]): string {
  const days = new Set(runs.flatMap((r) => (r.lasted.day === null ? [] : [r.lasted.day]))).size;
  if (days === 0) return "on any day: no run counts here yet.";
  if (days >= 3)
    return `there are ${days} days here, so ${limit.ok ? "its limit speaks" : "a limit would speak"} for new ones; another day still tells most of how days differ.`;
  const now = days === 1 ? "There is one day" : "There are two days";
  return `on another day. ${now} so far; ${limit.ok ? "its limit speaks of days like these; from three days on it speaks for new days too" : "from three days on a limit would speak for new days too"}.`;
}

const firmwareOf = ({ report }: Answerable, key: string): string => {
  const setup = report.cells.find((c) => c.key === key)?.setup;
  const others = new Set(report.cells.map((c) => c.setup.unit.firmware));
  return others.size > 1 && setup !== undefined ? ` (firmware ${setup.unit.firmware})` : "";
};

/** The best count of each cell. */
function bestOfCells(all: readonly NextRun[]): NextRun[] {
  const seen = new Set<string>();
  return all.filter((n) => !seen.has(n.key) && seen.add(n.key));
}

function untilWords(
  until: { ok: true; more: number } | { ok: false; reason: string } | null | undefined,
  wantedSec: number | null,
): string {
  if (wantedSec === null || until === null || until === undefined) return "no typical time here yet; name a time.";
  const claim = `a limit of ${hms(wantedSec)}`;
  if (!until.ok)
    return until.reason === "no-shutdown"
      ? "no run here is known to have reached the end asked for."
      : `${claim} is out of reach: not with twenty more runs like these, or it lies above what most runs last.`;
  return until.more === 0
    ? `${hms(wantedSec)} can be claimed already.`
    : `${claim} is expected after ${until.more === 1 ? "1 more run" : `${until.more} more runs`}.`;
}
