// What the shots say: per setting a dependable time, between the settings the stops gained, at each time a keep rate, and what to work with.

import type { Belief, Gain, HoldClaim, HoldSettings, KeepRate, Ladder } from "../statistics/index.ts";
import { beliefOf, clopperPearson, gainInSession, keepRateAt, meanRates, sessionsClaim, wilson } from "../statistics/index.ts";
import { ADAPTIVE_EACH } from "./adaptive.ts";
import type { Classical } from "./classical.ts";
import { classicalOf } from "./classical.ts";
import type { HoldPlan, Setting } from "./plan.ts";
import { ruleOf, SETTINGS } from "./plan.ts";
import type { Hold } from "./session.ts";
import { missingShots } from "./session.ts";
import type { HoldShot } from "./shots.ts";
import { visitsOf } from "./shots.ts";
import type { Use } from "./uses.ts";
import { shotsSeen } from "./uses.ts";

export interface TimeRead {
  x: number;
  kept: number;
  shots: number;
  /** Wilson's 90 % bar, if shots were independent. */
  bar: { lower: number; upper: number } | null;
}
export interface SettingRead {
  setting: Setting;
  /** Of shots, asked to be kept at the dependable time. */
  share: number;
  ladder: Ladder;
  claim: HoldClaim;
  times: readonly TimeRead[];
  /** At the dependable time; null without one. */
  there: KeepRate | null;
  /** Keep rates as they are believed, a third of a stop apart, over the times shot; empty where no curve can be read. */
  curve: readonly { x: number; rate: number }[];
  classical: Classical | null;
  /** Shot at one time only: its keep rate, exact 90 % limits, if shots were independent. Null at none, and at two and more. */
  alone: { x: number; kept: number; shots: number; lower: number; upper: number } | null;
  /** Everything kept to one time, nothing from the next on: the shots do not say where between. */
  jump: { kept: number; lost: number } | null;
}
export type HeldBack = "unfinished" | "changed" | "kept-changed" | "adaptive";
export interface HoldRead {
  /** Judged shots that count, in the order they were taken. */
  shots: readonly HoldShot[];
  settings: readonly SettingRead[];
  gain: Gain | null;
  /** Times or the end may have been chosen by what was seen: everything is held back a little more. */
  heldBack: HeldBack | null;
  /** log2 of seconds; null where the reference needs what is not known. */
  rule: number | null;
  /** Where the maker's stops would put the time with it on, from the reference; null without claim or reference. */
  claimed: number | null;
}

/** What is asked of every claim of the room. Who stopped before the plan was shot may have stopped because of what was seen: that claims less. */
export const askedOf = (adaptive: boolean, share = 0.8): HoldSettings => ({ share, confidence: 0.9, adaptive });

/** Which of a test's shots are read: those of the card, or its pictures as one judge graded them, for one use. */
export interface Seen {
  shots: readonly HoldShot[];
  heldBack: HeldBack | null;
  /** Graded pictures that are not read: whether the stabiliser was off or on is not known of them. */
  unsaid: number;
  /** Pictures read whose grade was given, or changed, with their time and setting in view. */
  inView: number;
}
export function seenAtOnce(plan: HoldPlan, hold: Pick<Hold, "shots" | "chosenLate">): Seen {
  const shots = hold.shots.filter((s) => s.grade === "kept" || s.grade === "lost");
  return { shots, heldBack: heldBackOf(plan, shots, hold.chosenLate, false), unsaid: 0, inView: 0 };
}
export function seenInPictures(
  plan: HoldPlan,
  hold: Pick<Hold, "pictures" | "keptFrom" | "chosenLate" | "keptLate">,
  by: string,
  use: Use,
): Seen {
  const shots = shotsSeen(hold.pictures, by, hold.keptFrom[use]);
  const graded = hold.pictures.filter((p) => p.counts && p.grades.has(by));
  return {
    shots,
    heldBack: heldBackOf(plan, shots, hold.chosenLate, hold.keptLate),
    unsaid: graded.filter((p) => p.setting === null).length,
    inView: graded.filter((p) => p.setting !== null && p.grades.get(by)?.blind === false).length,
  };
}
/** From the pictures once a judge has graded all that count (whoever graded most), else from the card. */
export function seenUsually(plan: HoldPlan, hold: Hold): Seen & { by: string | null; use: Use | null } {
  const judge = hold.judges.find((j) => j.left === 0);
  if (judge === undefined) return { ...seenAtOnce(plan, hold), by: null, use: null };
  return { ...seenInPictures(plan, hold, judge.by, "half size"), by: judge.by, use: "half size" };
}

function heldBackOf(plan: HoldPlan, shots: readonly HoldShot[], changed: boolean, keptChanged: boolean): HeldBack | null {
  if (plan.order === "adaptive") return "adaptive";
  if (missingShots(plan, shots) > 0) return "unfinished";
  return changed ? "changed" : keptChanged ? "kept-changed" : null;
}

export const visitsRead = (plan: Pick<HoldPlan, "order">, shots: readonly HoldShot[], setting: Setting): Ladder =>
  visitsOf(shots, setting, plan.order === "adaptive" ? ADAPTIVE_EACH : undefined);

/** @param plan its reference, the maker's stops and the share asked */
export function readHold(plan: HoldPlan, { shots, heldBack }: Pick<Seen, "shots" | "heldBack">): HoldRead {
  const asked = askedOf(heldBack !== null, plan.share);
  const settings = SETTINGS.map((setting) => readSetting(setting, visitsRead(plan, shots, setting), asked)).filter(
    (s) => s.ladder.length > 0,
  );
  const [off, on] = SETTINGS.map((s) => settings.find((r) => r.setting === s));
  const own = off?.claim.interval ?? null;
  const rule = plan.reference === "off" ? middleOf(own) : ruleOf(plan);
  return {
    shots,
    settings,
    gain: off === undefined || on === undefined ? null : gainInSession(on.ladder, off.ladder, asked),
    heldBack,
    rule,
    claimed: rule === null || plan.claimStops === null ? null : rule + plan.claimStops,
  };
}
const middleOf = (sides: { low: number | null; high: number | null } | null): number | null =>
  sides?.low == null || sides.high === null ? null : (sides.low + sides.high) / 2;

function readSetting(setting: Setting, ladder: Ladder, asked: HoldSettings): SettingRead {
  const claim = sessionsClaim([ladder], asked);
  const xs = [...new Set(ladder.map((v) => v.x))].sort((a, b) => a - b);
  const times = xs.map((x): TimeRead => {
    const here = ladder.filter((v) => v.x === x);
    const [kept, shots] = [here.reduce((s, v) => s + v.kept, 0), here.reduce((s, v) => s + v.shots, 0)];
    return { x, kept, shots, bar: wilson(kept, shots, 0.9) };
  });
  const belief = ladder.length === 0 ? null : beliefOf([ladder], asked.share);
  return {
    setting,
    share: asked.share,
    ladder,
    claim,
    times,
    there: belief === null || claim.claim === null ? null : keepRateAt(belief, claim.claim),
    curve: belief === null || claim.interval === null ? [] : curveOver(belief, xs),
    classical: classicalOf(ladder, asked.share),
    alone: aloneAt(times),
    jump: jumpOf(times),
  };
}

function aloneAt([only, ...more]: readonly TimeRead[]): SettingRead["alone"] {
  if (only === undefined || more.length > 0 || only.shots === 0) return null;
  const { x, kept, shots } = only;
  const { lower, upper } = clopperPearson(kept, shots, 0.9);
  return { x, kept, shots, lower, upper };
}

/** @param times from fast to slow */
function jumpOf(times: readonly Pick<TimeRead, "x" | "kept" | "shots">[]): SettingRead["jump"] {
  const at = times.findIndex((t) => t.kept === 0);
  const [before, after] = [times[at - 1], times[at]];
  if (before === undefined || after === undefined) return null;
  const jumps = times.every((t, i) => t.kept === (i < at ? t.shots : 0));
  return jumps ? { kept: before.x, lost: after.x } : null;
}

function curveOver(belief: Belief, xs: readonly number[]): SettingRead["curve"] {
  const [from, to] = [Math.min(...xs), Math.max(...xs)];
  const places = Array.from({ length: Math.round(3 * (to - from)) + 1 }, (_, k) => from + k / 3);
  return meanRates(belief, places).map((rate, k) => ({ x: places[k] as number, rate }));
}
