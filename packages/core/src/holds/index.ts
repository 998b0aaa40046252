export type { ExposureSpan, HoldPlan } from "./plan.ts";
export { plannedVisits, SETTINGS, STANCES, usualSpans } from "./plan.ts";
export type { HoldRead, SettingRead } from "./reading.ts";
export { readHold } from "./reading.ts";
export type { Grade, Hold, HoldPlanBody, ShotBody } from "./session.ts";
export { GRADES, holdOf } from "./session.ts";
