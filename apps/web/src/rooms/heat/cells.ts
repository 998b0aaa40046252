// What the heat page shows for one unit: its cells in the order of their modes, each with its statement and rows.

import type { WithTime } from "@keep-rolling/core/kit";
import { namesTime, ratedOf } from "@keep-rolling/core/kit";
import type { Eligible } from "@keep-rolling/core/cells";
import type { Exclusion } from "@keep-rolling/core/cells";
import type { Kit } from "@keep-rolling/contract/kit";
import type { CandidateRun, CellReading, Statement } from "@keep-rolling/core/cells";
import { eligible, groupCells, stateEligible, warningUnknown, withLeftOut } from "@keep-rolling/core/cells";
import type { Endpoint, StartBody } from "@keep-rolling/core/runs";
import type { SeenRun } from "../../record/runs.ts";

export interface HeatRow {
  run: SeenRun;
  leftOut: Exclusion | null;
  /** The statement if this left-out run counted; null when it has no time. */
  would: Statement | null;
  /** Nobody recorded whether it warned: of the first warning no time is known, not even a least one. */
  warningUnknown: boolean;
}
export interface HeatCell {
  key: string;
  setup: StartBody;
  rows: HeatRow[];
  reading: CellReading;
  rated: WithTime<Kit["figures"][number]> | null;
  /** Other testers' figures of the mode. */
  outside: readonly WithTime<Kit["figures"][number]>[];
  clockKind: "real" | "rehearsal" | "demo";
}
export interface ClaimLevels {
  share: number;
  confidence: number;
}

/** A cell with its runs and which of them count; what is asked of them is not in it. */
export interface SortedCell extends Omit<HeatCell, "rows" | "reading"> {
  endpoint: Endpoint;
  mine: readonly SeenRun[];
  runs: Eligible;
}

export const candidateOf = (run: SeenRun): CandidateRun => ({
  runId: run.id,
  fold: run.fold,
  struck: run.row?.struck ?? null,
  warningUnmarked: run.unmarked.length > 0,
});

export const heatCells = (runs: readonly SeenRun[], kit: Kit | undefined, endpoint: Endpoint, levels: ClaimLevels): HeatCell[] =>
  sortedCells(runs, kit, endpoint).map((cell) => statedCell(cell, levels));

export function statedCell({ mine, runs, endpoint, ...cell }: SortedCell, levels: ClaimLevels): HeatCell {
  const rows = mine.map((run): HeatRow => {
    const left = runs.leftOut.find((l) => l.runId === run.id);
    const said = warningUnknown(candidateOf(run));
    return {
      run,
      warningUnknown: said,
      leftOut: left?.because ?? null,
      would: left?.wouldBe == null ? null : withLeftOut(runs, run.id, endpoint, levels),
    };
  });
  return { ...cell, rows, reading: stateEligible(runs, endpoint, levels) };
}

export function sortedCells(runs: readonly SeenRun[], kit: Kit | undefined, endpoint: Endpoint): SortedCell[] {
  const candidates = runs.map(candidateOf);
  const byId = new Map(runs.map((r) => [r.id, r]));
  const cells = groupCells(candidates).map((cell): SortedCell => {
    const mine = cell.runs.flatMap((r) => byId.get(r.runId) ?? []).sort((a, b) => (a.fold.startMs ?? 0) - (b.fold.startMs ?? 0));
    const figures = (kit?.figures ?? []).filter((f) => f.modeId === cell.setup.mode.id && !f.archived);
    const rated = ratedOf(figures, cell.setup.mode.id);
    const outside = figures.filter(namesTime).filter((f) => f.kind === "outside");
    const { key, setup } = cell;
    return {
      key,
      setup,
      endpoint,
      mine,
      runs: eligible(cell.runs, endpoint),
      rated,
      outside,
      clockKind: mine[0]?.row?.clockKind ?? "real",
    };
  });
  return cells.sort((a, b) => order(a).localeCompare(order(b)));
}

/** Modes together, then conditions from cool to hot; rehearsals after the rest. */
const order = (c: SortedCell): string =>
  `${c.clockKind} ${c.setup.mode.name} ${String(c.setup.condition.ambientC + 100)} ${c.setup.condition.name} ${c.setup.unit.firmware}`;
