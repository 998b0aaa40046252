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
import { Button, Loading, Note, PageHead, Trouble } from "../../shared/ui/parts.tsx";
import { CellStrips } from "./CellStrips.tsx";
import type { ClaimLevels, HeatCell } from "./cells.ts";
import { sortedCells, statedCell } from "./cells.ts";
import type { Answerable, QuestionName } from "./questions/ask.ts";
import { answeredBy, GROUPS, QUESTIONS } from "./questions/ask.ts";
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
  const others = full === null || report === null ? [] : answeredBy(question, full, report.cells);
  const choose = (runId: string): void => setParams((p) => withParam(p, "cell", runId));
  return (
    <>
      <PageHead title={`${unit?.name ?? ""}: ${headOf(question)}`} sub={subLine(all)}>
        <div className="flex flex-wrap items-baseline gap-x-2 gap-y-1 text-soft">
          <InlineSelect
            label="Unit"
            value={unitId}
            options={(kit?.units ?? []).filter((u) => !u.archived).map((u) => [u.id, u.name])}
            onChange={(value) => void navigate(`/heat/${value}/${question}`)}
          />
          until
          <InlineSelect
            label="Until"
            value={endpoint}
            options={ENDS.map(([end, , words]) => [end, words] as const)}
            onChange={(value) => {
              const word = ENDS.find(([end]) => end === value)?.[1] ?? "heat";
              setParams((p) => withParam(p, "end", word === "heat" ? null : word));
            }}
          />
          for
          <InlineSelect
            label="Wanted for"
            value={String(typedLevels.share)}
            options={SHARES}
            onChange={(value) => setLevels({ ...typedLevels, share: Number(value) })}
          />
          <InlineSelect
            label="How sure"
            value={String(typedLevels.confidence)}
            options={SURE}
            onChange={(value) => setLevels({ ...typedLevels, confidence: Number(value) })}
          />
        </div>
      </PageHead>
      {cells.length === 0 || chosen === undefined ? (
        <p>
          No run of this unit yet. <Link to={`/roll?unit=${unitId}`}>Start one</Link>.
        </p>
      ) : (
        <>
          <div className="grid gap-x-9 gap-y-6 xl:grid-cols-[minmax(0,1.75fr)_minmax(0,1fr)]">
            <div className="min-w-0 xl:order-2">
              <Questions unitId={unitId} chosen={question} search={search} />
              <section
                key={`${chosen.key} ${endpoint} ${question}`}
                aria-labelledby="answer"
                aria-busy={stale}
                className="min-w-0 print-keep"
              >
                {trouble !== null && (
                  <Note tone="alert" live>{`The statistics could not be read: ${trouble}. What needs none is shown.`}</Note>
                )}
                <AnswerOf
                  question={question}
                  given={{ cell: chosen, runs, endpoint, levels }}
                  full={full}
                  report={report}
                  failed={trouble !== null}
                >
                  <AnsweredBy others={others} cells={cells} onChoose={choose} />
                </AnswerOf>
              </section>
            </div>
            <div className="min-w-0 space-y-3">
              <CellStrips endpoint={endpoint} cells={cells} bounds={boundsOf(report)} chosenKey={chosen.key} onChoose={choose} />
              <Legend endpoint={endpoint} witnesses={all.map((r) => r.trace.witness)} outside={cells.some((c) => c.outside.length > 0)} />
            </div>
          </div>
          <RunsTable cells={cells} />
        </>
      )}
    </>
  );
}

/** The modes and conditions that can answer what this one cannot, one press away. */
function AnsweredBy({
  others,
  cells,
  onChoose,
}: {
  others: readonly FullCell[];
  cells: readonly HeatCell[];
  onChoose: (runId: string) => void;
}) {
  if (others.length === 0) return null;
  return (
    <div className="no-print mt-4">
      <p>{others.length === 1 ? "This one can answer it:" : "These can answer it:"}</p>
      <ul className="flex flex-wrap gap-2 pt-2">
        {others.map((c) => (
          <li key={c.key}>
            <Button onClick={() => onChoose(cells.find((x) => x.key === c.key)?.rows[0]?.run.id ?? "")}>
              {`${c.setup.mode.name}, ${c.setup.condition.name}, firmware ${c.setup.unit.firmware}`}
            </Button>
          </li>
        ))}
      </ul>
    </div>
  );
}

const answersTo = (report: UnitReport, endpoint: Endpoint, { share, confidence }: ClaimLevels): boolean =>
  report.endpoint === endpoint && report.levels.share === share && report.levels.confidence === confidence;

const headOf = (question: QuestionName): string => QUESTIONS.find(([name]) => name === question)?.[2] ?? "";

const boundsOf = (report: UnitReport | null): ReadonlyMap<string, number> =>
  new Map((report?.cells ?? []).flatMap((c) => (c.limit.ok ? [[c.key, c.limit.lowerMs] as const] : [])));

const shortOf = (question: QuestionName): string => QUESTIONS.find(([name]) => name === question)?.[1] ?? "";

/** Three lines of links; on a phone one list, so that the answer is in view. */
function Questions({ unitId, chosen, search }: { unitId: string; chosen: QuestionName; search: string }) {
  const navigate = useNavigate();
  const to = (name: string): string => `/heat/${unitId}/${name}${search}`;
  return (
    <nav aria-label="Questions" className="no-print mb-4">
      <dl className="border-b border-rule max-sm:hidden">
        {GROUPS.map(([group, names]) => (
          <div key={group} className="hairline grid grid-cols-[5rem_1fr] py-1.5">
            <dt className="text-soft">{group}</dt>
            <dd className="flex flex-wrap gap-x-4 gap-y-0.5">
              {names.map((name) => (
                <Link
                  key={name}
                  to={to(name)}
                  aria-current={name === chosen ? "page" : undefined}
                  className={name === chosen ? "border-b-4 border-here font-semibold no-underline" : ""}
                >
                  {shortOf(name)}
                </Link>
              ))}
            </dd>
          </div>
        ))}
      </dl>
      <select aria-label="Question" className="w-full sm:hidden" value={chosen} onChange={(event) => void navigate(to(event.target.value))}>
        {GROUPS.map(([group, names]) => (
          <optgroup key={group} label={group}>
            {names.map((name) => (
              <option key={name} value={name}>
                {shortOf(name)}
              </option>
            ))}
          </optgroup>
        ))}
      </select>
    </nav>
  );
}

interface AnswerOfProps {
  question: QuestionName;
  given: Omit<Answerable, "full" | "report">;
  full: FullCell | null;
  report: UnitReport | null;
  /** The worker could not answer, which is said above. */
  failed: boolean;
  /** What follows the answer. */
  children: ReactNode;
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

function AnswerOf({ question, given, full, report, failed, children }: AnswerOfProps) {
  if (question === "lasts")
    return (
      <>
        <Lasts {...given} full={full} failed={failed} />
        {children}
      </>
    );
  if (full === null || report === null) return failed ? null : <Loading what="the runs' statistics" />;
  const Chosen = ANSWERS[question];
  return (
    <>
      <Chosen {...given} full={full} report={report} />
      {children}
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
  const unsaid = ended.filter((r) => r.fold.end?.cause === "unknown").length;
  return `${ended.length === 1 ? "1 finished run" : `${ended.length} finished runs`}, ${heat} ended by heat${unsaid > 0 ? `, of ${unsaid} nobody said` : ""}`;
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

/** A choice inside a sentence. */
function InlineSelect({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: string;
  options: readonly (readonly [string, string])[];
  onChange: (value: string) => void;
}) {
  return (
    <select aria-label={label} className="inline-select" value={value} onChange={(event) => onChange(event.target.value)}>
      {options.map(([key, words]) => (
        <option key={key} value={key}>
          {words}
        </option>
      ))}
    </select>
  );
}
