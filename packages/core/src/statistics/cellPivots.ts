// The pivot for cells that share one scatter and have each a middle of their own. As `pivot.ts`, but as the pool itself is made: a drawn cell
// in which nothing reached the endpoint says nothing about the scatter, so it is left out of that draw's fit, and only its own bound misses it.

import type { Random } from "./random.ts";
import type { LifeLaw } from "./lifeLikelihood.ts";
import { estimateCells } from "./cellEstimate.ts";
import type { NoFit } from "./lifeModel.ts";
import { lawQuantile } from "./lifeModel.ts";
import type { Lifetimes } from "./lifetimes.ts";
import { pivotAt, UNFITTABLE_MOST } from "./pivot.ts";

export interface CellSample extends Lifetimes {
  /** As in `PivotRequest`. */
  cutAt: readonly number[];
}
export interface CellPivots {
  ok: true;
  sigma: number;
  draws: number;
  cells: { log: number; pivots: number[]; missed: number }[];
}
export type CellPivotResult = CellPivots | { ok: false; reason: NoFit["reason"] };

/** Every cell needs an event. `p`: the share that has failed by the bounded quantile. */
export function cellPivots(cells: readonly CellSample[], law: LifeLaw, p: number, draws: number, random: Random): CellPivotResult {
  const fit = estimateCells(cells, law);
  if (fit === null) return { ok: false, reason: "no-maximum" };
  const z = lawQuantile(law, p);
  const out = fit.middles.map((middle) => ({ log: middle + z * fit.sigma, pivots: [] as number[], missed: 0 }));
  for (let d = 0; d < draws; d++) {
    const drawn = cells.map((c, i) => drawCell(c, law, fit.middles[i] ?? 0, fit.sigma, random));
    const kept = drawn.flatMap((c, i) => (c.event.includes(1) ? [i] : []));
    const again = estimateCells(
      kept.map((i) => drawn[i] as CellSample),
      law,
    );
    let at = 0;
    out.forEach((cell, i) => {
      const here = kept[at] === i ? at++ : -1;
      if (here < 0 || again === null) cell.missed++;
      else cell.pivots.push(((again.middles[here] ?? 0) + z * again.sigma - cell.log) / again.sigma);
    });
  }
  for (const cell of out) cell.pivots.sort((a, b) => a - b);
  return { ok: true, sigma: fit.sigma, draws, cells: out };
}

/** Lower bound of cell `i`; null when more than a fifth of the draws could not speak for it. */
export function cellPivotLower(p: CellPivots, i: number, confidence: number): number | null {
  const cell = p.cells[i];
  if (cell === undefined) throw new RangeError(`i must name a cell, got ${i}`);
  if (cell.missed > UNFITTABLE_MOST * p.draws) return null;
  return Math.exp(cell.log - pivotAt(cell.pivots, confidence) * p.sigma);
}

function drawCell({ cutAt }: CellSample, law: LifeLaw, middle: number, sigma: number, random: Random): CellSample {
  const time: number[] = [];
  const event: (0 | 1)[] = [];
  for (const cut of cutAt) {
    const t = Math.exp(middle + sigma * lawNoise(law, random));
    time.push(Math.min(t, cut));
    event.push(t <= cut ? 1 : 0);
  }
  return { time, event, cutAt };
}

/** One draw of the standardised law. */
export const lawNoise = (law: LifeLaw, random: Random): number =>
  law === "weibull" ? Math.log(-Math.log(1 - random.next())) : random.normal();
