// All shutter-speed tests of one bench as a table: per lens, stance and pair of hands down to which time, with all their sessions.

import type { Gain, HoldClaim } from "../statistics/index.ts";
import { gainInSession, gainOverSessions, sessionsClaim } from "../statistics/index.ts";
import type { HoldPlan, Setting } from "./plan.ts";
import { askedOf, visitsOf } from "./reading.ts";
import type { HoldShot } from "./session.ts";
import { missingShots } from "./session.ts";

export interface ShotSession {
  id: string;
  plan: HoldPlan;
  shots: readonly HoldShot[];
}
export interface HandsRow {
  lensName: string;
  focalMm: number;
  stance: HoldPlan["stance"];
  by: string;
  sessionIds: readonly string[];
  /** Null: never shot so. */
  claims: Readonly<Record<Setting, HoldClaim | null>>;
  /** Of sessions in which both were shot and both can be read; null without one. */
  gain: Gain | null;
}

const keyOf = ({ lensName, focalMm, stance, by }: HoldPlan): string =>
  JSON.stringify([lensName.trim().toLowerCase(), focalMm, stance, by.trim().toUpperCase()]);

/** In the order of lens, focal length, stance, hands. Sessions without a counted shot are left out. */
export function handsTable(sessions: readonly ShotSession[]): HandsRow[] {
  const groups = new Map<string, ShotSession[]>();
  for (const s of sessions.filter((one) => one.shots.some((shot) => shot.grade !== "bad")))
    groups.set(keyOf(s.plan), [...(groups.get(keyOf(s.plan)) ?? []), s]);
  return [...groups.entries()].sort(([a], [b]) => (a < b ? -1 : 1)).map(([, of]) => rowOf(of));
}

function rowOf(sessions: readonly ShotSession[]): HandsRow {
  const asked = askedOf(sessions.some((s) => missingShots(s.plan, s.shots) > 0));
  const ladders = (setting: Setting) => sessions.map((s) => visitsOf(s.shots, setting)).filter((l) => l.length > 0);
  const claim = (setting: Setting): HoldClaim | null => (ladders(setting).length === 0 ? null : sessionsClaim(ladders(setting), asked));
  const pairs = sessions
    .map((s) => ({ on: visitsOf(s.shots, "on"), off: visitsOf(s.shots, "off") }))
    .filter((p) => p.on.length > 0 && p.off.length > 0);
  const read = pairs.filter((p) => gainInSession(p.on, p.off, asked).ok);
  const [first] = sessions;
  if (first === undefined) throw new RangeError("sessions must not be empty");
  const { lensName, focalMm, stance, by } = first.plan;
  const [none] = pairs;
  return {
    lensName,
    focalMm,
    stance,
    by,
    sessionIds: sessions.map((s) => s.id),
    claims: { off: claim("off"), on: claim("on") },
    gain: read.length > 0 ? gainOverSessions(read, asked) : none === undefined ? null : gainInSession(none.on, none.off, asked),
  };
}
