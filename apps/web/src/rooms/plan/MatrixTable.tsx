// One unit's matrix: modes in the order to test them, conditions across; wanted, done, evidence, or skipped with a reason.

import type { Kit } from "@keep-rolling/contract/kit";
import type { PlanDoc } from "@keep-rolling/contract/plan";
import { answerSentence } from "@keep-rolling/core/cells";
import { useState } from "react";
import { Link } from "react-router";
import type { CellState } from "../../shared/day/matrix.ts";
import type { SeenRun } from "../../record/runs.ts";
import { Button } from "../../shared/ui/parts.tsx";
import type { Place } from "./matrix.ts";
import { daysDoneWords } from "./words.ts";
import { advised, cellAt, columnsOf, stateAt } from "./matrix.ts";

interface Props {
  kit: Kit;
  plan: PlanDoc;
  unit: Kit["units"][number];
  protocolId: string;
  runs: readonly SeenRun[];
  states: readonly CellState[];
  onChange: (place: Place, more: { trials?: number; skip?: string | null }) => void;
}

export function MatrixTable({ kit, plan, unit, protocolId, runs, states, onChange }: Props) {
  const [added, setAdded] = useState<string[]>([]);
  const rows = advised(kit, unit.id, runs, states);
  const columns = columnsOf(kit, plan, unit.id, protocolId, added);
  const others = kit.conditions.filter((c) => !c.archived && !columns.some((k) => k.id === c.id));
  return (
    <section aria-labelledby={`matrix-${unit.id}`} className="hairline py-3">
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h2 id={`matrix-${unit.id}`}>{unit.name}</h2>
        <span className="text-sm text-soft">{`firmware ${unit.firmware}`}</span>
        <label className="ml-auto flex items-center gap-2 text-sm">
          Add a condition
          <select value="" onChange={(e) => setAdded([...added, e.target.value])}>
            <option value="">choose …</option>
            {others.map((c) => (
              <option key={c.id} value={c.id}>
                {c.name}
              </option>
            ))}
          </select>
        </label>
      </div>
      <div className="relative overflow-x-auto" tabIndex={0} role="region" aria-label={`Matrix of ${unit.name}`}>
        <table className="mt-1 w-full">
          <thead>
            <tr className="text-left align-bottom text-sm text-soft">
              <th scope="col" className="py-1 pr-4 font-normal">
                Mode, hottest first
              </th>
              {columns.map((c) => (
                <th key={c.id} scope="col" className="min-w-40 py-1 pr-4 font-normal">
                  {c.name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map(({ mode, advice }) => (
              <tr key={mode.id} className="hairline align-top">
                <th scope="row" className="max-w-72 py-2 pr-4 text-left font-normal">
                  <span className="font-semibold">{mode.name}</span>
                  <span className="block text-sm text-soft">{advice.why}</span>
                </th>
                {columns.map((c) => {
                  const place = { unitId: unit.id, modeId: mode.id, conditionId: c.id, protocolId };
                  return (
                    <MatrixCell
                      key={c.id}
                      label={`${unit.name}, ${mode.name}, ${c.name}`}
                      cell={cellAt(plan.cells, place)}
                      state={stateAt(states, place)}
                      onChange={(more) => onChange(place, more)}
                    />
                  );
                })}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {rows.length === 0 && <p className="text-soft">This model has no recording mode yet.</p>}
      {columns.length === 0 && rows.length > 0 && <p className="text-soft">Add a condition, then say how many trials are wanted.</p>}
    </section>
  );
}

interface CellProps {
  label: string;
  cell: { trials: number; skip: string | null } | undefined;
  state: CellState | undefined;
  onChange: (more: { trials?: number; skip?: string | null }) => void;
}

function MatrixCell({ label, cell, state, onChange }: CellProps) {
  const [skipping, setSkipping] = useState(false);
  const [reason, setReason] = useState("");
  const done = state?.counted.length ?? 0;
  if (cell?.skip != null)
    return (
      <td className="py-2 pr-4 text-sm text-soft">
        {`skipped: ${cell.skip}`}{" "}
        <Button
          tone="quiet"
          aria-label={`Test it after all: ${label}`}
          onClick={() => onChange({ skip: null, trials: Math.max(1, cell.trials) })}
        >
          test it
        </Button>
      </td>
    );
  return (
    <td className="py-2 pr-4 text-sm">
      <span className="flex items-center gap-2">
        <input
          type="number"
          min={0}
          max={50}
          aria-label={`Trials wanted: ${label}`}
          className="num w-16 px-2! py-1!"
          value={cell?.trials ?? 0}
          onChange={(e) => onChange({ trials: Math.min(50, Math.max(0, Math.trunc(Number(e.target.value)))) })}
        />
        <span className={done > 0 && done >= (cell?.trials ?? 0) ? "text-cool" : "text-soft"}>{`${done} done`}</span>
        {!skipping && (
          <Button tone="quiet" className="ml-auto" aria-label={`Skip with a reason: ${label}`} onClick={() => setSkipping(true)}>
            skip
          </Button>
        )}
      </span>
      {done > 0 && <span className="block text-soft">{daysDoneWords(state?.counted ?? [])}</span>}
      {state?.statement?.ok === true && (
        <Link className="block text-soft" to={`/heat/${state.cell.unitId}?cell=${state.statement.shortestRunId}`}>
          {answerSentence(state.statement)}
        </Link>
      )}
      {skipping && (
        <span className="mt-1 flex gap-1">
          <input
            aria-label={`Why it is skipped: ${label}`}
            className="w-28 px-2! py-1!"
            value={reason}
            onChange={(e) => setReason(e.target.value)}
          />
          <Button
            disabled={reason.trim().length < 3}
            onClick={() => {
              onChange({ skip: reason.trim() });
              setSkipping(false);
            }}
          >
            Skip
          </Button>
        </span>
      )}
    </td>
  );
}
