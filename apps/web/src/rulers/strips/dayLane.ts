// What the day's ruler is given: lanes with their blocks, and the real runs behind them.

import type { Block, Span } from "@keep-rolling/core/planning";
import type { HeatTrace, RunFold } from "@keep-rolling/core/runs";

export interface DayLane {
  unitId: string;
  name: string;
  /** Lines beneath the name. */
  note: readonly string[];
  blocks: readonly Block[];
  outs: readonly Span[];
  tauMs: number;
}
export interface RealRun {
  fold: RunFold;
  trace: HeatTrace;
}

export interface DayRulerProps {
  fromMs: number;
  toMs: number;
  nowMs: number | null;
  lanes: readonly DayLane[];
  sun: readonly Span[];
  breaks: readonly Span[];
  /** The run a block became, by its slot or, beside the plan, its start. */
  realRun: (block: Block) => RealRun | null;
  clockOf: (ms: number) => string;
  sentence: (block: Block) => string;
  selected?: Block | null;
  onSelect?: (block: Block) => void;
  /** Null: nothing can be moved (print). */
  onMove?: (block: Block, startMs: number) => void;
  widthPx?: number;
}
