// One unit's heat along the day, for a planner that asks often: the ledger's recursion kept at the end of every powered interval.
// Intervals of one unit do not overlap here; heat/ledger.ts is the general form and its check.

import type { HeatInterval } from "../heat/index.ts";

export class HeatLine {
  private readonly intervals: HeatInterval[];
  private ends: { toMs: number; heat: number }[] = [];

  constructor(
    intervals: readonly HeatInterval[],
    private readonly tauMs: number,
  ) {
    this.intervals = [...intervals].sort((a, b) => a.fromMs - b.fromMs);
    this.walk();
  }

  add(interval: HeatInterval): void {
    this.intervals.push(interval);
    this.intervals.sort((a, b) => a.fromMs - b.fromMs);
    this.walk();
  }

  /** Share of the shutdown rise at a moment when nothing runs. */
  at(ms: number): number {
    for (let i = this.ends.length - 1; i >= 0; i--) {
      const end = this.ends[i];
      if (end !== undefined && end.toMs <= ms) return end.heat * Math.exp((end.toMs - ms) / this.tauMs);
    }
    return 0;
  }

  /** At the end of a run from `startMs` that lasts `ms`. */
  after(startMs: number, ms: number, plateau: number, shutdown: boolean): number {
    if (shutdown) return 1;
    return Math.min(1, plateau + (this.at(startMs) - plateau) * Math.exp(-ms / this.tauMs));
  }

  private walk(): void {
    this.ends = [];
    for (const i of this.intervals) {
      const heat = this.after(i.fromMs, i.toMs - i.fromMs, i.plateau, i.shutdown);
      this.ends.push({ toMs: i.toMs, heat });
    }
  }
}
