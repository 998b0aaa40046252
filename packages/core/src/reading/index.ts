export type { AmbientTime } from "./ambient.ts";
export { agreement } from "./ambient.ts";
export { SLOPES } from "./causes.ts";
export type { LevelledRun } from "./cellReport.ts";

export type { Scatter } from "./chance.ts";
export { STATED, calibrate, chanceToReach, outlook, pastOf, timeOfChance } from "./chance.ts";
export type { Effect } from "./effects.ts";
export type { CellBound, LadderCell, Rung } from "./ladder.ts";
export { LADDER_SETTINGS, LADDER_VERSION, climb } from "./ladder.ts";
export { pathOf } from "./levelling.ts";
export type { NextCell, NextRun, RunsUntil } from "./nextRun.ts";
export { nextRuns, runsUntil } from "./nextRun.ts";
export type { Waterfall } from "./rating.ts";

export { unitRecords } from "./records.ts";

export type { AmbientPoint, ChangeReading, FigureReading, FullCell, UnitQuestion, UnitReport } from "./unitReport.ts";
export { pooledScatter, readUnit } from "./unitReport.ts";
export {
  RUNG_TITLE,
  beliefWords,
  causeWords,
  changeWords,
  effectWords,
  effectsRefusal,
  hms,
  levellingWords,
  methodWords,
  notHereWords,
  ratingWords,
  recoveryWords,
  unsaidWords,
} from "./words.ts";
