// Several walks of one kind laid beside each other: the same setups against each walk's own control. From three on there is a claim over walks.

import type { Comparison, SetupLevel } from "./comparing/compareSetups.ts";
import type { Change } from "./comparing/change.ts";
import { changeOf } from "./comparing/change.ts";
import type { OverWalks } from "./comparing/overWalks.ts";
import { overWalks } from "./comparing/overWalks.ts";
import { pairFrom } from "./moveComparison.ts";
import type { WalkPlan } from "./plan.ts";
import { setupWords } from "./plan.ts";

export interface ReadWalk {
  id: string;
  plan: WalkPlan;
  /** The day it was begun, as it is written. */
  day: string;
  shake: Comparison;
}

export interface SetupOverWalks {
  /** What is on, in words: names are the tester's own and may differ. */
  key: string;
  /** By walk, in order: the log against that walk's control with its 90 % interval; null: not walked there. */
  walks: readonly ({ log: number; low: number; high: number } | null)[];
  /** Null below three walks. */
  over: OverWalks | null;
  /** Between the first and the last of two walks or more that have it. */
  change: Change | null;
}
export interface SeveralWalks {
  setups: readonly SetupOverWalks[];
  /** What varied from walk to walk: days never become people, nor people days. */
  varied: "days" | "walkers" | "days and walkers" | "nothing named";
}

/** Walks of one kind of move, in the order of their days. */
export function severalWalks(walks: readonly ReadWalk[]): SeveralWalks {
  const keys = [...new Set(walks.flatMap((w) => w.plan.setups.filter((s) => s.id !== w.plan.controlId).map(setupWords)))];
  const setups = keys.map((key): SetupOverWalks => {
    const seen = walks.map((w) => levelsOf(w, key));
    const against = walks.map((w, i) => {
      const level = seen[i]?.setup;
      const pair = level === undefined || w.plan.controlId === null ? null : pairFrom(w.shake, level.id, w.plan.controlId);
      return pair === null ? null : { log: pair.log, low: pair.alone.low, high: pair.alone.high };
    });
    const over = overWalks(against.flatMap((a) => a ?? []));
    const known = seen.flatMap((s) => (s === null ? [] : [{ setup: s.setup.level, control: s.control?.level ?? null }]));
    const [first, last] = [known[0], known.at(-1)];
    const change = first === undefined || last === undefined || first === last ? null : changeOf(first, last);
    return { key, walks: against, over: over.ok ? over : null, change };
  });
  return { setups: setups.filter((s) => s.walks.some((w) => w !== null)), varied: variedOf(walks) };
}

function levelsOf({ plan, shake }: ReadWalk, key: string): { setup: SetupLevel; control: SetupLevel | undefined } | null {
  const ids = plan.setups.filter((s) => setupWords(s) === key && s.id !== plan.controlId).map((s) => s.id);
  const setup = shake.setups.find((s) => ids.includes(s.id));
  return setup === undefined ? null : { setup, control: shake.setups.find((s) => s.id === plan.controlId) };
}

function variedOf(walks: readonly ReadWalk[]): SeveralWalks["varied"] {
  const days = new Set(walks.map((w) => w.day)).size > 1;
  const walkers = new Set(walks.map((w) => w.plan.walker.trim().toUpperCase())).size > 1;
  if (days && walkers) return "days and walkers";
  return days ? "days" : walkers ? "walkers" : "nothing named";
}
