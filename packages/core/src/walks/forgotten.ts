// What testers forget, said before the first step rather than after the last.

import type { WalkPlan } from "./plan.ts";
import { AUTOMATIC, LOCKED, nothingOn, WALKING } from "./plan.ts";

export const FORGOTTEN = [
  "no-moves",
  "no-setups",
  "no-control",
  "control-not-off",
  "one-take",
  "automatic-settings",
  "settings-not-said",
  "slow-shutter",
  "shutter-not-said",
  "unequal-crop",
  "bar-result",
  "two-bodies",
  "focal-not-said",
  "walker-not-said",
  "walking-with-tripod",
] as const;
export type Forgotten = (typeof FORGOTTEN)[number];

/** Locked settings whose automatic changes the picture from take to take. */
const MATTERS = LOCKED.filter((l) => l !== "mode");

export interface Reminder {
  code: Forgotten;
  /** What it is about: names of settings or setups. */
  about: readonly string[];
}

/** `bodies`: how many are carried together. */
export function forgottenIn(plan: WalkPlan, bodies = 1): Reminder[] {
  const control = plan.setups.find((s) => s.id === plan.controlId);
  const cropped = plan.setups.filter((s) => s.electronic !== "off" || s.afterwards !== "none");
  const automatic = MATTERS.filter((l) => plan.locked[l] === AUTOMATIC);
  const unsaid = MATTERS.filter((l) => plan.locked[l] === "");
  const walking = plan.moves.some((m) => WALKING.includes(m.kind));
  const slow = plan.shutterSec !== null && plan.rateHz !== null && plan.shutterSec * plan.rateHz > 0.505;
  const bars = plan.setups.filter((s) => s.support === "two-body bar");
  const found: [Forgotten, boolean, readonly string[]][] = [
    ["no-moves", plan.moves.length === 0, []],
    ["no-setups", plan.setups.length === 0, []],
    ["no-control", control === undefined && plan.setups.length > 0, []],
    ["control-not-off", control !== undefined && !nothingOn(control), [control?.name ?? ""]],
    ["one-take", plan.takesWanted < 2, []],
    ["automatic-settings", automatic.length > 0, automatic],
    ["settings-not-said", unsaid.length > 0, unsaid],
    ["slow-shutter", slow, []],
    ["shutter-not-said", plan.shutterSec === null || plan.rateHz === null, []],
    ["unequal-crop", cropped.length > 0 && cropped.length < plan.setups.length, cropped.map((s) => s.name)],
    ["bar-result", bars.length > 0, bars.map((s) => s.name)],
    ["two-bodies", bodies > 1, []],
    ["focal-not-said", plan.focalMm === null, []],
    ["walker-not-said", plan.walker === "", []],
    ["walking-with-tripod", walking && plan.setups.some((s) => s.support === "tripod"), []],
  ];
  return found.flatMap(([code, says, about]) => (says ? [{ code, about }] : []));
}
