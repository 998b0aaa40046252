// A shutter-speed test as its facts say: the plan, the shots with what was said of each, its pictures, and which shot is to be taken next.

import type { Fact } from "../facts/index.ts";
import { ADAPTIVE_EACH, adaptiveNext } from "./adaptive.ts";
import type { CardMatch } from "./cardMatch.ts";
import { withCard } from "./cardMatch.ts";
import type { HoldPicture, PictureBody, SharpnessBody } from "./pictures.ts";
import { judgesOf, picturesOf } from "./pictures.ts";
import type { HoldPlan, PlannedVisit, StoredPlan } from "./plan.ts";
import { planOf, plannedVisits } from "./plan.ts";
import type { HoldShot, ShotBody } from "./shots.ts";
import type { KeptFrom } from "./uses.ts";
import { USUALLY_KEPT } from "./uses.ts";

export interface HoldPlanBody {
  hold: StoredPlan;
}
export interface KeptFromBody {
  keptFrom: KeptFrom;
}

export interface Hold {
  plan: HoldPlan | null;
  /** The times, the number of shots or the share asked were changed once something had been judged: they may have been chosen by what was seen. */
  chosenLate: boolean;
  /** As the card says, in the order they were taken. */
  shots: readonly HoldShot[];
  /** Null: nothing is left to shoot. `n`: which shot of it, from 1. */
  next: (PlannedVisit & { n: number; repeats: boolean }) | null;
  /** Shots of the card still planned; null: an adaptive test has no number. */
  left: number | null;
  /** In the order they were taken. */
  pictures: readonly HoldPicture[];
  /** Times at which the card and the pictures differ in number. */
  unequal: CardMatch["unequal"];
  judges: readonly { by: string; graded: number; left: number }[];
  keptFrom: KeptFrom;
  /** What counts as kept was changed once pictures were graded. */
  keptLate: boolean;
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

const timesIn = (plan: StoredPlan | undefined): string => {
  if (plan === undefined) return "";
  const { spans, stepStops, shotsEach, order, share } = planOf(plan);
  return JSON.stringify([spans, stepStops, shotsEach, order === "adaptive", share]);
};

export function holdOf(fold: { effective: readonly Fact[] }): Hold {
  const of = <Body>(kind: string): (Fact & { body: Body })[] =>
    fold.effective.filter((f) => f.kind === kind && !("foreign" in f)) as unknown as (Fact & { body: Body })[];
  const plans = of<HoldPlanBody>("holdPlan");
  const stored = plans.at(-1)?.body.hold;
  const plan = stored === undefined ? null : planOf(stored);
  const shots = of<ShotBody>("shot").map((f): HoldShot => ({ ...f.body, id: f.id, atMs: f.atMs }));
  const grades = of<SharpnessBody>("sharpness");
  const planned = plan === null ? [] : plannedVisits(plan).map((v) => v.x);
  const dropped = plan === null ? [] : picturesOf({ focalMm: plan.focalMm, planned }, of<PictureBody>("picture"), grades);
  const { pictures, unequal } = withCard(dropped, shots);
  const kept = of<KeptFromBody>("keptFrom");
  const judged = [...shots.filter((s) => s.grade === "kept" || s.grade === "lost"), ...grades];
  return {
    plan,
    chosenLate: plans.some(
      (p, i) => i > 0 && timesIn(p.body.hold) !== timesIn(plans[i - 1]?.body.hold) && judged.some((j) => j.atMs <= p.atMs),
    ),
    shots,
    ...(plan === null ? { next: null, left: 0 } : nextOf(plan, shots)),
    pictures,
    unequal,
    judges: judgesOf(pictures),
    keptFrom: kept.at(-1)?.body.keptFrom ?? USUALLY_KEPT,
    keptLate: kept.some((k) => grades.some((g) => g.atMs <= k.atMs)),
  };
}

function nextOf(plan: HoldPlan, shots: readonly HoldShot[]): Pick<Hold, "next" | "left"> {
  if (plan.order === "adaptive") {
    const next = adaptiveNext(plan, shots);
    return { left: next.done ? 0 : null, next: next.done ? null : next };
  }
  const open = progressOf(plan, shots).find((w) => w.done < plan.shotsEach);
  return {
    left: missingShots(plan, shots),
    next: open === undefined ? null : { ...open.visit, n: open.done + 1, repeats: false },
  };
}
/** Shots at each time before another one comes. */
export const eachOf = (plan: Pick<HoldPlan, "order" | "shotsEach">): number => (plan.order === "adaptive" ? ADAPTIVE_EACH : plan.shotsEach);
