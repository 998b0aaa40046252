// Which cells of a unit speak for one of them, and of which days the claim then speaks. Source: docs/methods/dependable-limit.md, step 1.

import type { LimitCell } from "./runs.ts";
import { daysOf, isShutdown, middleSec, shutdownsOf } from "./runs.ts";

/** From so many distinct days on a claim is made for new days. */
export const DAYS_FOR_NEW = 3;
const CELLS_MOST = 16;

export interface Pool {
  scope: "tested days" | "new days";
  /** The cell itself first. */
  cells: readonly LimitCell[];
}

export const distinctDays = (cell: LimitCell): number => Math.max(1, daysOf(cell).size);

/** `target` needs a shutdown; cells without one speak for nobody. */
export function poolOf(target: LimitCell, all: readonly LimitCell[]): Pool {
  const others = all.filter((c) => c !== target && shutdownsOf(c) > 0).sort((a, b) => shutdownsOf(b) - shutdownsOf(a));
  if (distinctDays(target) < DAYS_FOR_NEW) return { scope: "tested days", cells: [target, ...others].slice(0, CELLS_MOST) };
  const cells = [target];
  const days = new Set(daysOf(target));
  // Cells that share a day are no independent witnesses of how days scatter.
  for (const cell of others) {
    const mine = [...daysOf(cell)];
    if (distinctDays(cell) < DAYS_FOR_NEW || mine.some((d) => days.has(d)) || cells.length >= CELLS_MOST) continue;
    cells.push(cell);
    for (const day of mine) days.add(day);
  }
  return { scope: "new days", cells };
}

export const REFUSALS = ["no-shutdown", "single-run", "too-few-elsewhere", "scatters-widely"] as const;
export type Refusal = (typeof REFUSALS)[number];

/** The rest of a pool must have this many shutdowns, in this many cells, to speak for a cell with one. */
const ELSEWHERE = { shutdowns: 6, cells: 2 };
const WIDE = { scatter: 0.35, shutdowns: 5 };

/** Why the number computed for a cell is no claim; null: it is one. `scatter`: the cell's own, of log time. */
export function refusalOf({ cells }: Pool, scatter: number): Exclude<Refusal, "no-shutdown"> | null {
  const [target, ...rest] = cells as [LimitCell, ...LimitCell[]];
  const shortestSec = Math.min(...target.runs.filter(isShutdown).map(middleSec));
  if (target.runs.filter((r) => middleSec(r) >= shortestSec).length < 2) return "single-run";
  const own = shutdownsOf(target);
  const elsewhere = rest.reduce((sum, c) => sum + shutdownsOf(c), 0);
  if (own === 1 && (elsewhere < ELSEWHERE.shutdowns || rest.length < ELSEWHERE.cells)) return "too-few-elsewhere";
  return scatter > WIDE.scatter && own < WIDE.shutdowns ? "scatters-widely" : null;
}
