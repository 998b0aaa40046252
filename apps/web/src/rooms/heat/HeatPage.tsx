// Heat: how long each mode of this unit lasts, by condition. Strips on one ruler, the answer as a sentence, the reasons beneath.

import type { Endpoint } from "@keep-rolling/core/runs";
import { useMemo, useState } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import { api, sentenceOf } from "../../api/api.ts";
import type { SeenRun } from "../../app/runs.ts";
import { useRuns } from "../../app/runs.ts";
import { Legend } from "../../rulers/Legend.tsx";
import { SelectField } from "../../ui/fields.tsx";
import { Loading, PageHead, Trouble } from "../../ui/parts.tsx";
import { Answer } from "./Answer.tsx";
import { CellStrips } from "./CellStrips.tsx";
import type { Asked } from "./cells.ts";
import { heatCells } from "./cells.ts";
import { RunsTable } from "./RunsTable.tsx";

export function HeatPage() {
  const { unitId } = useParams();
  const kit = api.useKitQuery();
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
  return <UnitHeat key={unit.id} unitId={unit.id} />;
}

function UnitHeat({ unitId }: { unitId: string }) {
  const { data: kit } = api.useKitQuery();
  const query = useRuns({ unit: unitId });
  const [params, setParams] = useSearchParams();
  const navigate = useNavigate();
  const endpoint: Endpoint = params.get("end") === "warning" ? "firstWarning" : "shutdown";
  const [asked, setAsked] = useState<Asked>({ share: 0.9, confidence: 0.9 });
  const cells = useMemo(() => heatCells(query.runs, kit, endpoint, asked), [query.runs, kit, endpoint, asked]);
  const unit = kit?.units.find((u) => u.id === unitId);
  if (query.isLoading) return <Loading what="the runs" />;
  if (query.error !== undefined && query.runs.length === 0)
    return <Trouble sentence={sentenceOf(query.error)} retry={() => void query.refetch()} />;
  const chosen = cells.find((c) => c.rows.some((r) => r.run.id === params.get("cell"))) ?? mostCounted(cells);
  return (
    <>
      <PageHead title={`${unit?.name ?? ""}: how long it records`} sub={subLine(query.runs)}>
        <SelectField
          label="Unit"
          value={unitId}
          options={(kit?.units ?? []).filter((u) => !u.archived).map((u) => [u.id, u.name])}
          onChange={(event) => void navigate(`/heat/${event.target.value}`)}
        />
        <SelectField
          label="Until"
          value={endpoint}
          options={[
            ["shutdown", "heat shutdown"],
            ["firstWarning", "first warning"],
          ]}
          onChange={(event) => setParams((p) => withParam(p, "end", event.target.value === "firstWarning" ? "warning" : null))}
        />
        <AskedFields asked={asked} onChange={setAsked} />
      </PageHead>
      {cells.length === 0 || chosen === undefined ? (
        <p>
          No run of this unit yet. <Link to={`/roll?unit=${unitId}`}>Start one</Link>.
        </p>
      ) : (
        <>
          <div className="grid gap-x-9 gap-y-6 xl:grid-cols-[minmax(0,1.9fr)_minmax(0,1fr)]">
            <div className="min-w-0 space-y-3">
              <CellStrips cells={cells} chosenKey={chosen.key} onChoose={(runId) => setParams((p) => withParam(p, "cell", runId))} />
              <Legend witnesses={query.runs.map((r) => r.trace.witness)} />
            </div>
            <Answer key={`${chosen.key} ${endpoint}`} cell={chosen} endpoint={endpoint} asked={asked} />
          </div>
          <RunsTable cells={cells} />
        </>
      )}
    </>
  );
}

function withParam(params: URLSearchParams, key: string, value: string | null): URLSearchParams {
  const next = new URLSearchParams(params);
  if (value === null) next.delete(key);
  else next.set(key, value);
  return next;
}

const mostCounted = <C extends { reading: { runs: { counted: readonly unknown[] } } }>(cells: readonly C[]): C | undefined =>
  cells.reduce<C | undefined>(
    (best, c) => (best === undefined || c.reading.runs.counted.length > best.reading.runs.counted.length ? c : best),
    undefined,
  );

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

function AskedFields({ asked, onChange }: { asked: Asked; onChange: (asked: Asked) => void }) {
  return (
    <>
      <SelectField
        label="Wanted for"
        value={String(asked.share)}
        options={SHARES}
        onChange={(e) => onChange({ ...asked, share: Number(e.target.value) })}
      />
      <SelectField
        label="Confidence"
        value={String(asked.confidence)}
        options={SURE}
        onChange={(e) => onChange({ ...asked, confidence: Number(e.target.value) })}
      />
    </>
  );
}
