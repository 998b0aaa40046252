export type { Proposal } from "./assign.ts";
export { proposeTakes } from "./assign.ts";
export {
  equivalentFocalMm,
  fieldLeft,
  FULL_FRAME_MM,
  hfovDegOf,
  PORTRAIT_FROM_LANDSCAPE,
  renderingHours,
  storageGb,
} from "./calculators.ts";
export type { Forgotten, Reminder } from "./forgotten.ts";
export { forgottenIn } from "./forgotten.ts";
export { handlingOf } from "./handling.ts";
export { orderOfTakes } from "./order.ts";
export type { Locked, MoveKind, WalkMove, WalkPlan, WalkSetup } from "./plan.ts";
export { AFTERWARDS, AUTOMATIC, ELECTRONIC_MODES, LOCKED, MOVES, SENSOR_MODES, setupWords, SUPPORTS, WALKING } from "./plan.ts";
export type { Walk, WalkClip, WalkFinding, WalkTake } from "./session.ts";
export { walkOf } from "./session.ts";
export type { ControlCheck, MeasuredTake, OddTake, SetupRow } from "./summary.ts";
export { againstControl, checkControl, oddTakes, rowsOf } from "./summary.ts";
export { ALL_OFF, impossibleBecause, usualSetups } from "./usual.ts";
