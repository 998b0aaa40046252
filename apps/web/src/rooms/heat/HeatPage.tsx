// Heat: how long each mode of this unit lasts, by condition. Strips on one ruler, the answer as a sentence, the reasons beneath.

import { kitApi } from "../../shared/kit/api.ts";
import type { Endpoint } from "@keep-rolling/core/runs";
import type { FullCell, UnitReport } from "@keep-rolling/core/reading";
import type { ReactNode } from "react";
import { useDeferredValue, useMemo, useState } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import { sentenceOf } from "../../shared/api/api.ts";
import type { SeenRun } from "../../record/runs.ts";
import { useEnded, useRuns } from "../../record/runs.ts";
import { Legend } from "../../rulers/strips/Legend.tsx";
import { SelectField } from "../../shared/ui/fields.tsx";
import { Button, Loading, Note, PageHead, Trouble } from "../../shared/ui/parts.tsx";
import { CellStrips } from "./CellStrips.tsx";
import type { ClaimLevels, HeatCell } from "./cells.ts";
import { sortedCells, statedCell } from "./cells.ts";
import type { Answerable, QuestionName } from "./questions/ask.ts";
import { QUESTIONS } from "./questions/ask.ts";
import { Changed } from "./questions/Changed.tsx";
import { First } from "./questions/First.tsx";
import { Lasts } from "./questions/Lasts.tsx";
import { Levelled } from "./questions/Levelled.tsx";
import { Next } from "./questions/Next.tsx";
import { Rating } from "./questions/Rating.tsx";
import { Recovering } from "./questions/Recovering.tsx";
import { Temperature } from "./questions/Temperature.tsx";
import { Warned } from "./questions/Warned.tsx";
import { Why } from "./questions/Why.tsx";
import { RunsTable } from "./RunsTable.tsx";
import { useReport } from "./useReport.ts";

export function HeatPage() {
  const { unitId, question } = useParams();
  const kit = kitApi.useKitQuery();
  if (kit.data === undefined)
    return kit.error === undefined ? (
      <Loading what="the kit" />
    ) : (
      <Trouble sentence={sentenceOf(kit.error)} retry={() => void kit.refetch()} />
    );
  const units = kit.data.units.filter((u) => !u.archived);
  const unit = units.find((u) => u.id === unitId) ?? units.find((u) => u.bench !== "rehearsal") ?? units[0];
  if (unit === undefined) {
    return (
      <>
        <PageHead title="Heat" />
        <p>
          No unit in the kit yet. <Link to="/kit">Add one</Link>, or <Link to="/roll?rehearse=1">rehearse</Link>.
        </p>
      </>
    );
  }
  return <UnitHeat key={unit.id} unitId={unit.id} question={QUESTIONS.find(([name]) => name === question)?.[0] ?? "lasts"} />;
}

const ENDS: readonly (readonly [Endpoint, string, string])[] = [
  ["shutdown", "heat", "heat shutdown"],
  ["firstWarning", "warning", "first warning"],
  ["batteryEmpty", "battery", "empty battery"],
];

function UnitHeat({ unitId, question }: { unitId: string; question: QuestionName }) {
  const { data: kit } = kitApi.useKitQuery();
  const query = useRuns({ unit: unitId });
  const all = useEnded(query.runs);
  const [params, setParams] = useSearchParams();
  const navigate = useNavigate();
  const endpoint = ENDS.find(([, word]) => word === params.get("end"))?.[0] ?? "shutdown";
  const [typedLevels, setLevels] = useState<ClaimLevels>({ share: 0.9, confidence: 0.9 });
  // The field shows a new choice at once; what follows from it is drawn when it is ready.
  const levels = useDeferredValue(typedLevels);
  const sorted = useMemo(() => sortedCells(all, kit, endpoint), [all, kit, endpoint]);
  const cells = useMemo(() => sorted.map((cell) => statedCell(cell, levels)), [sorted, levels]);
  const unit = kit?.units.find((u) => u.id === unitId);
  const [kept, setKept] = useState<string | null>(null);
  const chosen =
    cells.find((c) => c.rows.some((r) => r.run.id === params.get("cell"))) ?? cells.find((c) => c.key === kept) ?? bestKnown(cells, unit);
  // A cell shown first stays: striking one of its runs out must not turn the page to another.
  if (kept === null && chosen !== undefined) setKept(chosen.key);
  const clockId = chosen?.setup.clockId;
  // Runs of a rehearsal never meet real ones: a reading is of one clock.
  const runs = useMemo(() => all.filter((r) => r.fold.setup?.clockId === clockId), [all, clockId]);
  const { answer, stale, trouble } = useReport(runs, kit, endpoint, levels);
  // A limit for another share, confidence or end must never stand under the words of this one, not for a moment.
  const report = answer !== null && answersTo(answer, endpoint, levels) ? answer : null;
  if (query.isLoading) return <Loading what="the runs" />;
  if (query.error !== undefined && all.length === 0)
    return <Trouble sentence={sentenceOf(query.error)} retry={() => void query.refetch()} />;
  const full = report?.cells.find((c) => c.key === chosen?.key) ?? null;
  const search = params.size === 0 ? "" : `?${params.toString()}`;
  return (
    <>
      <PageHead title={`${unit?.name ?? ""}: ${headOf(question)}`} sub={subLine(all)}>
        <SelectField
          label="Unit"
          value={unitId}
          options={(kit?.units ?? []).filter((u) => !u.archived).map((u) => [u.id, u.name])}
          onChange={(event) => void navigate(`/heat/${event.target.value}/${question}`)}
        />
        <SelectField
          label="Until"
          value={endpoint}
          options={ENDS.map(([end, , words]) => [end, words] as const)}
          onChange={(event) => {
            const word = ENDS.find(([end]) => end === event.target.value)?.[1] ?? "heat";
            setParams((p) => withParam(p, "end", word === "heat" ? null : word));
          }}
        />
        <LevelFields levels={typedLevels} onChange={setLevels} />
      </PageHead>
      {cells.length === 0 || chosen === undefined ? (
        <p>
          No run of this unit yet. <Link to={`/roll?unit=${unitId}`}>Start one</Link>.
        </p>
      ) : (
        <>
          <Questions unitId={unitId} chosen={question} search={search} />
          <div className="grid gap-x-9 gap-y-6 xl:grid-cols-[minmax(0,1.35fr)_minmax(0,1fr)]">
            <div className="min-w-0 space-y-3">
              <CellStrips
                endpoint={endpoint}
                cells={cells}
                bounds={boundsOf(report)}
                chosenKey={chosen.key}
                onChoose={(runId) => setParams((p) => withParam(p, "cell", runId))}
              />
              <Legend endpoint={endpoint} witnesses={all.map((r) => r.trace.witness)} outside={cells.some((c) => c.outside.length > 0)} />
            </div>
            <section
              key={`${chosen.key} ${endpoint} ${question}`}
              aria-labelledby="answer"
              aria-busy={stale}
              className="min-w-0 print-keep"
            >
              {trouble !== null && (
                <Note tone="alert" live>{`The statistics could not be read: ${trouble}. What needs none is shown.`}</Note>
              )}
              <AnswerOf question={question} given={{ cell: chosen, runs, endpoint, levels }} full={full} report={report} />
            </section>
          </div>
          <RunsTable cells={cells} />
        </>
      )}
    </>
  );
}

const answersTo = (report: UnitReport, endpoint: Endpoint, { share, confidence }: ClaimLevels): boolean =>
  report.endpoint === endpoint && report.levels.share === share && report.levels.confidence === confidence;

const headOf = (question: QuestionName): string =>
  (QUESTIONS.find(([name]) => name === question)?.[1] ?? "").replace("?", "").toLowerCase();

const boundsOf = (report: UnitReport | null): ReadonlyMap<string, number> =>
  new Map((report?.cells ?? []).flatMap((c) => (c.limit.ok ? [[c.key, c.limit.lowerMs] as const] : [])));

function Questions({ unitId, chosen, search }: { unitId: string; chosen: QuestionName; search: string }) {
  return (
    <nav aria-label="Questions" className="no-print mb-4 flex flex-wrap gap-x-5 gap-y-1 border-b border-rule pb-2">
      {QUESTIONS.map(([name, words]) => (
        <Link
          key={name}
          to={`/heat/${unitId}/${name}${search}`}
          aria-current={name === chosen ? "page" : undefined}
          className={name === chosen ? "border-b-4 border-here font-semibold no-underline" : "text-soft"}
        >
          {words}
        </Link>
      ))}
    </nav>
  );
}

interface AnswerOfProps {
  question: QuestionName;
  given: Omit<Answerable, "full" | "report">;
  full: FullCell | null;
  report: UnitReport | null;
}

const ANSWERS: Readonly<Record<Exclude<QuestionName, "lasts">, (a: Answerable) => ReactNode>> = {
  why: Why,
  temperature: Temperature,
  levelled: Levelled,
  recovery: Recovering,
  warning: Warned,
  rating: Rating,
  first: First,
  next: Next,
  change: Changed,
};

function AnswerOf({ question, given, full, report }: AnswerOfProps) {
  if (question === "lasts") return <Lasts {...given} full={full} />;
  if (full === null || report === null) return <Loading what="the runs' statistics" />;
  const Chosen = ANSWERS[question];
  return (
    <>
      <Chosen {...given} full={full} report={report} />
      <p className="no-print mt-4">
        <Button onClick={() => print()}>Print</Button>
      </p>
    </>
  );
}

function withParam(params: URLSearchParams, key: string, value: string | null): URLSearchParams {
  const next = new URLSearchParams(params);
  if (value === null) next.delete(key);
  else next.set(key, value);
  return next;
}

/** The cell with most counted runs, on the firmware the unit runs now if there is one. */
function bestKnown(cells: readonly HeatCell[], unit: { firmware: string } | undefined): HeatCell | undefined {
  const rank = (c: HeatCell): number => c.reading.runs.counted.length + (c.setup.unit.firmware === unit?.firmware ? 1e6 : 0);
  return cells.reduce<HeatCell | undefined>((best, c) => (best === undefined || rank(c) > rank(best) ? c : best), undefined);
}

function subLine(runs: readonly SeenRun[]): string {
  const ended = runs.filter((r) => r.fold.state === "ended");
  const heat = ended.filter((r) => r.fold.end?.cause === "thermal shutdown").length;
  return `${ended.length === 1 ? "1 finished run" : `${ended.length} finished runs`}, ${heat} ended by heat · strips share one ruler`;
}

const SHARES = [
  ["0.5", "half of runs"],
  ["0.8", "8 of 10 runs"],
  ["0.9", "9 of 10 runs"],
  ["0.95", "95 of 100 runs"],
] as const;
const SURE = [
  ["0.8", "80 % sure"],
  ["0.9", "90 % sure"],
  ["0.95", "95 % sure"],
] as const;

function LevelFields({ levels, onChange }: { levels: ClaimLevels; onChange: (levels: ClaimLevels) => void }) {
  return (
    <>
      <SelectField
        label="Wanted for"
        value={String(levels.share)}
        options={SHARES}
        onChange={(e) => onChange({ ...levels, share: Number(e.target.value) })}
      />
      <SelectField
        label="Confidence"
        value={String(levels.confidence)}
        options={SURE}
        onChange={(e) => onChange({ ...levels, confidence: Number(e.target.value) })}
      />
    </>
  );
}
