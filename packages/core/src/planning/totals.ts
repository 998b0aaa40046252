// Sums of a day: storage, energy, hours, and the list to pack. Rounded up: what is packed must be enough.

import type { Block, DayPlan } from "./dayTypes.ts";

export interface DayTotals {
  runs: number;
  /** GB of the runs still planned, to their latest expected ends, rounded up to the whole GB. */
  gb: number;
  /** Wh where known, rounded up. */
  wh: number;
  /** Runs whose energy is not known. */
  whUnknown: number;
  recordedMs: number;
  fromMs: number | null;
  toMs: number | null;
}

export function dayTotals(plan: Pick<DayPlan, "blocks">): DayTotals {
  const { blocks } = plan;
  const sum = (of: (b: Block) => number): number => blocks.reduce((total, b) => total + of(b), 0);
  return {
    runs: blocks.length,
    gb: Math.ceil(sum((b) => b.gb) - 1e-6),
    wh: Math.ceil(sum((b) => b.wh ?? 0) - 1e-6),
    whUnknown: blocks.filter((b) => b.wh === null).length,
    recordedMs: sum((b) => b.endHiMs - b.startMs),
    fromMs: blocks.length === 0 ? null : Math.min(...blocks.map((b) => b.startMs)),
    toMs: blocks.length === 0 ? null : Math.max(...blocks.map((b) => b.endHiMs)),
  };
}
