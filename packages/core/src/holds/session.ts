// A shutter-speed test as its facts say: the plan, the shots with what was said of each, and which is to be taken next.

import type { Fact } from "../facts/index.ts";
import type { HoldPlan, PlannedVisit, Setting } from "./plan.ts";
import { plannedVisits } from "./plan.ts";

export const GRADES = ["kept", "lost", "bad"] as const;
/** Of a shot as seen at once: "bad" says that the try itself went wrong, and is not counted. */
export type Grade = (typeof GRADES)[number];
export interface HoldPlanBody {
  hold: HoldPlan;
}
export interface ShotBody {
  setting: Setting;
  /** log2 of the exact exposure time in seconds, by its place on the dial. */
  x: number;
  grade: Grade;
}
export interface HoldShot extends ShotBody {
  id: string;
  atMs: number;
}

export interface Hold {
  plan: HoldPlan | null;
  /** In the order they were taken. */
  shots: readonly HoldShot[];
  /** Null: nothing is left to shoot. `n`: which shot of it, from 1. */
  next: (PlannedVisit & { n: number }) | null;
  /** Shots still planned. */
  left: number;
}

const SAME = 1e-6;
/** Every planned visit with how many of its shots are there. */
const progressOf = (plan: HoldPlan, shots: readonly ShotBody[]) =>
  plannedVisits(plan).map((visit) => ({
    visit,
    done: shots.filter((s) => s.grade !== "bad" && s.setting === visit.setting && Math.abs(s.x - visit.x) < SAME).length,
  }));
/** Shots of the plan that are not there yet. */
export const missingShots = (plan: HoldPlan, shots: readonly ShotBody[]): number =>
  progressOf(plan, shots).reduce((sum, w) => sum + Math.max(0, plan.shotsEach - w.done), 0);

export function holdOf(fold: { effective: readonly Fact[] }): Hold {
  const of = <Body>(kind: string): (Fact & { body: Body })[] =>
    fold.effective.filter((f) => f.kind === kind && !("foreign" in f)) as unknown as (Fact & { body: Body })[];
  const plan = of<HoldPlanBody>("holdPlan").at(-1)?.body.hold ?? null;
  const shots = of<ShotBody>("shot").map((f): HoldShot => ({ ...f.body, id: f.id, atMs: f.atMs }));
  const each = plan?.shotsEach ?? 0;
  const open = plan === null ? undefined : progressOf(plan, shots).find((w) => w.done < each);
  return {
    plan,
    shots,
    next: open === undefined ? null : { ...open.visit, n: open.done + 1 },
    left: plan === null ? 0 : missingShots(plan, shots),
  };
}
