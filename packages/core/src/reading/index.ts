export type { AmbientPoint, AmbientTime } from "./ambient.ts";
export { agreement } from "./ambient.ts";
export { SLOPES } from "./causes.ts";
export type { LevelledRun } from "./cellReport.ts";

export type { Calibration, Past } from "./chance.ts";
export { STATED, calibrate, chanceToReach, outlook, pastOf, timeOfChance } from "./chance.ts";
export { classicalBounds } from "./classical.ts";
export type { Effect } from "./effects.ts";
export { completion } from "./ends.ts";
export { endsWords } from "./endsWords.ts";
export type { CellLimit, LimitedCell } from "./limit.ts";
export { cellLimits, LIMIT_METHOD, LIMIT_VERSION, limitSettings } from "./limit.ts";
export { SHUTDOWN_STEP } from "./levelling.ts";
export { pathOf } from "./path.ts";
export type { NextCell, NextRun, RunsUntil } from "./nextRun.ts";
export { nextRuns, runsUntil } from "./nextRun.ts";
export type { Waterfall } from "./rating.ts";

export type { UnitRecords } from "./records.ts";
export { unitRecords } from "./records.ts";

export type { FigureReading } from "./cellFigures.ts";
export type { BatteryLimit } from "./shared.ts";
export { fewWords } from "./publishedTimesWords.ts";
export type { ChangeReading } from "./changes.ts";
export type { UnitQuestion } from "./shared.ts";
export type { FullCell, UnitReport } from "./unitReport.ts";
export { readUnit } from "./unitReport.ts";
export {
  beliefWords,
  causeWords,
  cautionWords,
  changeWords,
  costWords,
  daysWords,
  effectWords,
  effectsRefusal,
  hms,
  leftWords,
  levellingWords,
  likeOthersWords,
  methodWords,
  missingWords,
  ratingWords,
  recoveryWords,
  unsaidWords,
} from "./words.ts";
