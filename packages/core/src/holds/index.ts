export type { ExposureSpan, HoldPlan, Setting } from "./plan.ts";
export { plannedVisits, SETTINGS, STANCES, usualSpans } from "./plan.ts";
export type { HandsRow, ShotSession } from "./handsTable.ts";
export { handsTable } from "./handsTable.ts";
export type { HoldRead, SettingRead } from "./reading.ts";
export { readHold } from "./reading.ts";
export type { Grade, Hold, HoldPlanBody, ShotBody } from "./session.ts";
export { GRADES, holdOf } from "./session.ts";
