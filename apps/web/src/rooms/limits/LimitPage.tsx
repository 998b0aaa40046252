// One recorded limit on one page, made to be printed: the statement, its conditions, method and every run behind it.

import { limitApi } from "../../shared/limits/api.ts";
import type { Limit } from "@keep-rolling/contract/limits";
import { formatHms, formatShareDown, formatTemperature, formatTemperatureRange } from "@keep-rolling/core/format";
import { useRef } from "react";
import { Publish } from "../../shared/ui/Publish.tsx";
import { Link, useParams } from "react-router";
import { sentenceOf } from "../../shared/api/api.ts";
import { cautionsFor } from "../../shared/cautions/cautions.ts";
import { formatDate } from "../../shared/dates/dates.ts";
import { useRuns } from "../../record/runs.ts";
import { useSettings } from "../../shared/settings/settings.ts";
import { linear } from "../../rulers/axis/linear.ts";
import { rulerEnd } from "../../rulers/axis/minutes.ts";
import { Legend } from "../../rulers/strips/Legend.tsx";
import { LimitMark } from "../../rulers/glyphs/FigureMarks.tsx";
import { MinutesRuler } from "../../rulers/axis/MinutesRuler.tsx";
import { Strip } from "../../rulers/strips/Strip.tsx";
import { Button, Fact, Loading, Note, PageHead, Trouble } from "../../shared/ui/parts.tsx";
import { becauseWords, basisWords, endpointWords, isAssumed, limitSentence, methodTitle } from "./words.ts";

export function LimitPage() {
  const { limitId } = useParams();
  const { data, error, refetch } = limitApi.useLimitsQuery();
  if (data === undefined)
    return error === undefined ? <Loading what="the limit" /> : <Trouble sentence={sentenceOf(error)} retry={() => void refetch()} />;
  const limit = data.limits.find((l) => l.id === limitId);
  if (limit === undefined) return <Note>No limit is recorded at this address.</Note>;
  return <Sheet limit={limit} />;
}

function Sheet({ limit }: { limit: Limit }) {
  const simulated = limit.clockKind === "real" ? null : limit.clockKind;
  const stack = useRef<HTMLDivElement>(null);
  return (
    <article className="limit-sheet max-w-4xl">
      <PageHead
        title={`${limit.unitName}: ${limit.modeName}`}
        sub={`${limit.modelName} · ${limit.conditionName} · firmware ${limit.firmware} · recorded ${formatDate(limit.recordedAtMs, "long", limit.clockKind)}`}
      >
        <Button tone="main" onClick={() => print()}>
          Print
        </Button>
        <Link to={`/heat/${limit.unitId}`}>Runs today</Link>
      </PageHead>
      {simulated !== null && <Note tone="alert">{`From a simulated camera (${simulated}). It says nothing about any real body.`}</Note>}
      {limit.retest.map((r) => (
        <Note key={r.code} tone="alert">
          {r.text}
        </Note>
      ))}
      {limit.supersededBy !== null && (
        <Note>
          Superseded by a <Link to={`/limits/${limit.supersededBy}`}>later one</Link>.
        </Note>
      )}
      <p className={limit.n === 1 ? "mt-4" : "lead mt-4"}>
        To the {endpointWords(limit)}: <span className="border-b-4 border-cool">{limitSentence(limit)}</span>.
      </p>
      <p className="mt-2 text-soft">{trust(limit)}</p>
      <div ref={stack}>
        <EvidenceStrips limit={limit} />
      </div>
      <Publish
        stack={stack}
        name={`limit ${limit.unitName} ${limit.modeName}`}
        caption={{
          title: `${limit.unitName}: ${limit.modeName}`,
          lines: [
            `${limit.conditionName} · firmware ${limit.firmware} · to the ${endpointWords(limit)}: ${limitSentence(limit)}`,
            `${trust(limit)}${simulated === null ? "" : ` From a simulated camera (${simulated}).`}`,
          ],
        }}
      />
      <Evidence limit={limit} />
      <div className="print-keep mt-4 grid gap-x-10 md:grid-cols-2 print:grid-cols-2">
        <Conditions limit={limit} />
        <Method limit={limit} />
      </div>
      <Cautions limit={limit} />
    </article>
  );
}

/** How far it can be trusted, in words. */
function trust(limit: Limit): string {
  const runs = limit.n === 1 ? "one run: an anecdote" : `${limit.n} runs, ${limit.events} of which reached the ${endpointWords(limit)}`;
  const short =
    limit.basis === undefined && limit.share < limit.askedShare
      ? ` It does not reach ${formatShareDown(limit.askedShare)} of runs: that needs more runs.`
      : "";
  const guessed =
    limit.ambients.guessed > 0
      ? ` In ${limit.ambients.guessed} of them the ambient was not measured, but guessed, taken over or not recorded.`
      : "";
  return `It stands on ${runs}.${short}${guessed} Outside these conditions it says nothing.`;
}

const BAR = 16;
const ROW = 30;

function EvidenceStrips({ limit }: { limit: Limit }) {
  const { runs, isLoading } = useRuns({ unit: limit.unitId });
  if (isLoading) return <Loading what="the runs behind it" />;
  const width = 680;
  const rows = limit.evidence.flatMap((e) => runs.find((r) => r.id === e.runId) ?? []);
  if (rows.length === 0) return null;
  const maxMs = rulerEnd(...limit.evidence.map((e) => e.timeMs.hi), ...rows.map((r) => (r.fold.end?.hiMs ?? 0) - (r.fold.startMs ?? 0)));
  const x = linear([0, maxMs], [8, width - 30]);
  const shown = rows.slice(0, 12);
  const bottom = 26 + shown.length * ROW;
  return (
    <div className="print-keep relative mt-4 overflow-x-auto" tabIndex={0} role="region" aria-label="Runs behind the limit, as strips">
      <svg data-publish width={width} height={bottom + 44} viewBox={`0 0 ${width} ${bottom + 44}`} className="block">
        {shown.map((run, i) => (
          <Strip key={run.id} fold={run.fold} trace={run.trace} nowMs={0} x={x} y={26 + i * ROW} height={BAR} endpoint={limit.endpoint} />
        ))}
        <LimitMark at={x(limit.valueMs)} from={18} to={bottom} label={formatHms(limit.valueMs)} labelY={13} light={limit.n < 5} />
        <MinutesRuler x={x} y={bottom + 12} maxMs={maxMs} widthPx={width} />
      </svg>
      {rows.length > shown.length && <p className="text-sm text-soft">{`The ${shown.length} shortest of ${rows.length} are drawn.`}</p>}
      <Legend witnesses={shown.map((r) => r.trace.witness)} endpoint={limit.endpoint} />
    </div>
  );
}

function Evidence({ limit }: { limit: Limit }) {
  return (
    <table className="mt-4 w-full text-sm">
      <caption className="text-left font-semibold">Runs behind it, shortest first</caption>
      <thead>
        <tr className="text-left text-soft">
          <th scope="col" className="font-normal">
            Run
          </th>
          <th scope="col" className="font-normal">
            Recorded
          </th>
          <th scope="col" className="font-normal">
            Ended
          </th>
          <th scope="col" className="font-normal">
            Id, last eight
          </th>
        </tr>
      </thead>
      <tbody>
        {limit.evidence.map((e) => (
          <tr key={e.runId} className="hairline">
            <td className="py-1">
              <Link to={`/runs/${e.runId}`}>{formatDate(e.startedMs, "dayTime", limit.clockKind)}</Link>
            </td>
            <td className="num">
              {e.event === 1 ? "" : "≥ "}
              {formatHms(e.timeMs.lo)}
            </td>
            <td>{becauseWords(e.because)}</td>
            <td className="num text-soft">{e.runId.slice(-8)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

const wordOf = (value: unknown): string => (typeof value === "string" || typeof value === "number" ? String(value) : "–");

function Conditions({ limit }: { limit: Limit }) {
  const { temperature } = useSettings();
  const { minC, maxC, recorded } = limit.ambients;
  const words = (record: Record<string, unknown>, key: string): string => wordOf(record[key]);
  const c = limit.condition;
  return (
    <dl aria-label="Conditions">
      <Fact
        label="ambient"
        value={recorded === 0 ? "not recorded" : `${formatTemperature(minC, temperature)} to ${formatTemperature(maxC, temperature)}`}
        note={`condition ${formatTemperatureRange(Number(c.ambientC), Number(c.toleranceC), temperature)}`}
      />
      <Fact
        label="heat"
        value={`sun ${words(c, "sun")}, air ${words(c, "air")}`}
        note={`screen ${words(c, "screen")}, power ${words(c, "power")}, power-off setting ${words(c, "powerOffSetting")}`}
      />
      <Fact
        label="mode"
        value={`${words(limit.mode, "codec")} ${words(limit.mode, "compression")}`}
        note={`${words(limit.mode, "widthPx")}×${words(limit.mode, "heightPx")}, ${words(limit.mode, "readout")}, ${words(limit.mode, "bits")} bit, ${words(limit.mode, "mbps")} Mbit/s, to ${words(limit.mode, "target")}`}
      />
      <Fact
        label="protocol"
        value={limit.protocolName}
        note={`start fully cooled; ${limit.leftOut.length === 1 ? "1 run" : `${limit.leftOut.length} runs`} left out${limit.leftOut.length > 0 ? `: ${[...new Set(limit.leftOut.map((l) => becauseWords(l.because)))].join(", ")}` : ""}`}
      />
    </dl>
  );
}

function Method({ limit }: { limit: Limit }) {
  return (
    <dl aria-label="Method">
      <Fact label="share" value={`${formatShareDown(limit.share)} of runs`} note="rounded down" />
      <Fact
        label="confidence"
        value={isAssumed(limit) ? "none claimed" : `${formatShareDown(limit.confidence)} sure`}
        note={isAssumed(limit) ? "the scatter is assumed, not measured" : "that at least this share of runs made like these lasts longer"}
      />
      {limit.basis === undefined ? (
        <Fact
          label="method"
          value="shortest of n"
          note={`without assuming a shape, version ${limit.methodVersion}: (1 − C)^(1/n), Wilks 1941`}
        />
      ) : (
        <Fact label="method" value={methodTitle(limit.basis)} note={basisWords(limit.basis, limit.methodVersion)} />
      )}
      <Fact label="record" value={limit.evidenceSha.slice(0, 12)} note="fingerprint of the evidence" />
    </dl>
  );
}

function Cautions({ limit }: { limit: Limit }) {
  const { temperature } = useSettings();
  const { sun, air, power, powerOffSetting, ambientC } = limit.condition as Parameters<typeof cautionsFor>[0];
  return (
    <section aria-label="Cautions" className="print-keep mt-4 text-sm text-soft">
      <ul>
        {cautionsFor({ sun, air, power, powerOffSetting, ambientC }, temperature).map((words) => (
          <li key={words}>{words}</li>
        ))}
      </ul>
      <p className="mt-1">The maker's manual and local codes come first.</p>
    </section>
  );
}
