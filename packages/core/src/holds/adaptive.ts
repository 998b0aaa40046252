// A test whose next time is chosen by what was seen: off and on in turn, two shots with a fresh grip, until the limit is known well enough.

import { nextExposure, sessionsClaim } from "../statistics/index.ts";
import type { HoldPlan, PlannedVisit, Setting } from "./plan.ts";
import { SETTINGS } from "./plan.ts";
import type { HoldShot } from "./shots.ts";
import { visitsOf } from "./shots.ts";

/** Shots of one visit. */
export const ADAPTIVE_EACH = 2;
const SAME = 1e-6;

export type AdaptiveNext =
  /** `n`: which shot of the visit, from 1. `repeats`: the single one kept there counts only once it is repeated. */
  (PlannedVisit & { done: false; n: number; repeats: boolean }) | { done: true };

/** @param plan begun for each setting at the fastest time of its span */
export function adaptiveNext(plan: Pick<HoldPlan, "spans" | "share">, shots: readonly HoldShot[]): AdaptiveNext {
  const counted = shots.filter((s) => s.grade !== "bad");
  const last = counted.at(-1);
  // A visit begun is ended before anything else.
  if (last !== undefined && tailOf(counted, last) % ADAPTIVE_EACH !== 0)
    return { done: false, setting: last.setting, x: last.x, n: ADAPTIVE_EACH, repeats: false };
  const wanted = SETTINGS.filter((s) => plan.spans[s] !== null);
  const turns = [...wanted].sort((a, b) => shotsOf(counted, a) - shotsOf(counted, b));
  for (const setting of turns) {
    const visit = wantedVisit(plan, counted, setting);
    if (visit !== null) return { done: false, setting, n: 1, ...visit };
  }
  return { done: true };
}

const shotsOf = (shots: readonly HoldShot[], setting: Setting): number => shots.filter((s) => s.setting === setting).length;

/** How many shots at the end were taken as the last one was. */
function tailOf(shots: readonly HoldShot[], last: HoldShot): number {
  let n = 0;
  for (let i = shots.length - 1; i >= 0; i--, n++) {
    const shot = shots[i] as HoldShot;
    if (shot.setting !== last.setting || Math.abs(shot.x - last.x) > SAME) break;
  }
  return n;
}

function wantedVisit(plan: Pick<HoldPlan, "spans" | "share">, shots: readonly HoldShot[], setting: Setting) {
  const visits = visitsOf(shots, setting, ADAPTIVE_EACH);
  const settings = { share: plan.share, confidence: 0.9, adaptive: true, start: plan.spans[setting]?.fastest ?? 0 };
  const next = nextExposure(visits, settings);
  if (!next.done) return { x: next.x, repeats: false };
  if (next.why === "shots-enough") return null;
  const [lone] = sessionsClaim([visits], settings).lone;
  return lone === undefined ? null : { x: lone, repeats: true };
}
