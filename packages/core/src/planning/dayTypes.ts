// What the planner of a day is asked and what it answers. All times are milliseconds on the bench clock of the day's units; what a run
// lasts is recorded time, a few planned swaps added.

import type { HeatInterval } from "../heat/index.ts";
import type { CellSetup } from "../kit/index.ts";
import type { Expected } from "./earlier.ts";
import type { EndsAhead, Flag, PlannedEnd } from "./ends.ts";
import type { KitItem, ModelTraits } from "../kit/index.ts";
import type { Need } from "./media.ts";
import type { Span } from "./spans.ts";

export interface DayUnit {
  id: string;
  name: string;
  traits: ModelTraits;
  /** Out of service. */
  outs: readonly Span[];
  /** Powered intervals on record, until now. */
  heat: readonly HeatInterval[];
  tauMs: number;
}
export interface WantedRun {
  slot: string;
  unitId: string;
  cellId: string;
  setup: CellSetup;
  heat: Expected;
  /** Of the mode on this unit, the hungriest of its runs; null when none told. */
  watts: number | null;
  /** Where the block was dragged; null: the planner chooses. */
  pinMs: number | null;
  /** A card the tester chose; null: the smallest that lasts. */
  cardId: string | null;
  /** Card swaps planned where the card would end it. */
  swaps: boolean;
}
/** A run that was really started: from a block, or beside the plan (slot null). */
export interface RunUnderway {
  slot: string | null;
  unitId: string;
  cellId: string;
  setup: CellSetup;
  heat: Expected;
  startMs: number;
  /** Null: it still rolls. */
  endMs: number | null;
}
export interface DayRules {
  /** Hands on the camera before a start. */
  prepMs: number;
  /** One card swap, body on. */
  swapMs: number;
  /** Expected ends and swaps of different units stay this far apart. */
  guardMs: number;
  /** Until a used card is copied and empty again. */
  turnoverMs: number;
  chargers: number;
  /** Planned starts fall on this grid. */
  gridMs: number;
}
export const DEFAULT_RULES: DayRules = {
  prepMs: 5 * 60_000,
  swapMs: 15_000,
  guardMs: 5 * 60_000,
  turnoverMs: 15 * 60_000,
  chargers: 1,
  gridMs: 5 * 60_000,
};

export interface DayRequest {
  fromMs: number;
  toMs: number;
  /** During the day: nothing starts before. Null: planned ahead. */
  nowMs: number | null;
  units: readonly DayUnit[];
  /** In the order wanted; units are interleaved, the order within a unit is kept where sun and time allow. */
  wantedRuns: readonly WantedRun[];
  stock: readonly KitItem[];
  /** When there is direct sun; a condition in direct sun runs within one window. */
  sun: readonly Span[];
  /** The tester is in the shade: no start, no swap, no expected end. */
  breaks: readonly Span[];
  underway: readonly RunUnderway[];
  rules: DayRules;
}

export interface Block {
  slot: string | null;
  unitId: string;
  cellId: string;
  setup: CellSetup;
  state: "planned" | "rolling" | "ended";
  startMs: number;
  /** When it is expected to end; an ended run has all three equal. */
  endLoMs: number;
  endMidMs: number;
  endHiMs: number;
  endKind: PlannedEnd["kind"];
  ahead: EndsAhead;
  swapsAtMs: readonly number[];
  needs: readonly Need[];
  /** Storage until the latest expected end, GB. */
  gb: number;
  /** Energy until the latest expected end; null when the watts are not known. */
  wh: number | null;
  batteriesNeeded: number | null;
  heatAtStart: number;
  /** Share of the shutdown rise at the latest expected end. */
  heatAtEnd: number;
  warm: boolean;
  /** The unit rests until then. */
  restUntilMs: number;
  pinned: boolean;
  flags: readonly Flag[];
}

export const WHY_NOT = [
  "the day is too short",
  "the times of sun are full or too short",
  "no time of sun is said for this day",
  "the unit is out of service",
  "the unit is not cold and free in time",
  "the tester is not free in time",
  "cards, batteries or supplies are not free in time",
  "the kit does not allow it",
] as const;
export interface NotPlaced {
  slot: string;
  unitId: string;
  cellId: string;
  because: (typeof WHY_NOT)[number];
  /** More, for the kit's reasons; else empty. */
  detail: string;
}
export interface DayPlan {
  blocks: Block[];
  notPlaced: NotPlaced[];
  packing: Need[];
}
