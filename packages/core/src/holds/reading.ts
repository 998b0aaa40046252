// What the shots say: per setting a dependable time, between the settings the stops gained, at each time a keep rate, and what to work with.

import { ruleOfThumb } from "../exposure/index.ts";
import type { Gain, HoldClaim, HoldSettings, KeepRate, Ladder, Visit } from "../statistics/index.ts";
import { beliefOf, gainInSession, keepRateAt, sessionsClaim, wilson } from "../statistics/index.ts";
import type { HoldPlan, Setting } from "./plan.ts";
import { SETTINGS } from "./plan.ts";
import type { HoldShot } from "./session.ts";
import { missingShots } from "./session.ts";

/** Shots taken in one go: the same setting and time, nothing else between. A bad try is not counted and ends nothing. */
export function visitsOf(shots: readonly HoldShot[], setting: Setting): Visit[] {
  const visits: Visit[] = [];
  let last: HoldShot | null = null;
  for (const shot of shots) {
    if (shot.grade === "bad") continue;
    const again = last !== null && last.setting === shot.setting && last.x === shot.x;
    last = shot;
    if (shot.setting !== setting) continue;
    const visit = again ? visits.at(-1) : undefined;
    if (visit === undefined) visits.push({ x: shot.x, kept: shot.grade === "kept" ? 1 : 0, shots: 1 });
    else {
      visit.shots++;
      visit.kept += shot.grade === "kept" ? 1 : 0;
    }
  }
  return visits;
}

export interface TimeRead {
  x: number;
  kept: number;
  shots: number;
  /** Wilson's 90 % bar, if shots were independent. */
  bar: { lower: number; upper: number } | null;
}
export interface SettingRead {
  setting: Setting;
  ladder: Ladder;
  claim: HoldClaim;
  times: readonly TimeRead[];
  /** At the dependable time; null without one. */
  there: KeepRate | null;
}
export interface HoldRead {
  settings: readonly SettingRead[];
  gain: Gain | null;
  /** Shots of the plan are missing: everything is held back a little more. */
  unfinished: boolean;
  /** log2 of seconds; null where the reference needs what is not known. */
  rule: number | null;
  /** Where the maker's stops would put the time with it on, from the reference; null without claim or reference. */
  claimed: number | null;
}

/** What is asked of every claim of the room. Who stopped before the plan was shot may have stopped because of what was seen: that claims less. */
export const askedOf = (unfinished: boolean): HoldSettings => ({ share: 0.8, confidence: 0.9, adaptive: unfinished });

/** @param plan its reference and the maker's stops */
export function readHold(plan: HoldPlan, shots: readonly HoldShot[]): HoldRead {
  const unfinished = missingShots(plan, shots) > 0;
  const asked = askedOf(unfinished);
  const settings = SETTINGS.map((setting) => readSetting(setting, visitsOf(shots, setting), asked)).filter((s) => s.ladder.length > 0);
  const [off, on] = SETTINGS.map((s) => settings.find((r) => r.setting === s));
  const own = off?.claim.interval ?? null;
  const rule = plan.reference === "off" ? middleOf(own) : ruleOfThumb(plan.reference, plan);
  return {
    settings,
    gain: off === undefined || on === undefined ? null : gainInSession(on.ladder, off.ladder, asked),
    unfinished,
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
  return { setting, ladder, claim, times, there: claim.claim === null ? null : keepRateAt(beliefOf([ladder], asked.share), claim.claim) };
}
