// All shutter-speed tests of one bench as a table: per lens, stance and pair of hands down to which time, with all their sessions.

import type { Gain, HoldClaim } from "../statistics/index.ts";
import { gainInSession, gainOverSessions, gainUnpaired, sessionsClaim } from "../statistics/index.ts";
import type { HoldPlan, Setting } from "./plan.ts";
import { STANCES } from "./plan.ts";
import type { Seen } from "./reading.ts";
import { askedOf, visitsRead } from "./reading.ts";
import type { Use } from "./uses.ts";

export interface ShotSession extends Seen {
  id: string;
  /** The body; null: not said. */
  unitId: string | null;
  plan: HoldPlan;
  /** What the pictures were judged for; null: said at once on the card. */
  use: Use | null;
}
export interface HandsRow {
  lensName: string;
  focalMm: number;
  stance: HoldPlan["stance"];
  by: string;
  unitId: string | null;
  equivalentMm: number | null;
  share: number;
  use: Use | null;
  sessionIds: readonly string[];
  /** Graded pictures left out, and grades not given blind: of all its sessions, as in Seen. */
  unsaid: number;
  inView: number;
  /** Null: no judged shot counts there. */
  claims: Readonly<Record<Setting, HoldClaim | null>>;
  /** Of sessions in which both were shot and both can be read; null without one. */
  gain: Gain | null;
}

/** One lens, focal length, stance, body and pair of hands. Hands or a body nobody named are not known to be the same: they stand alone. */
function keyOf({ id, unitId, plan, use }: ShotSession): string {
  const hands = plan.by.trim().toUpperCase();
  const alone = hands === "" || unitId === null ? id : "";
  return JSON.stringify([plan.lensName.trim().toLowerCase(), plan.focalMm, plan.stance, hands, unitId ?? "", plan.share, use, alone]);
}

/** In the order of lens, focal length, stance, hands. Sessions without a counted shot are left out. */
export function handsTable(sessions: readonly ShotSession[]): HandsRow[] {
  const groups = new Map<string, ShotSession[]>();
  for (const s of sessions.filter((one) => one.shots.length > 0)) groups.set(keyOf(s), [...(groups.get(keyOf(s)) ?? []), s]);
  return [...groups.entries()]
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .map(([, of]) => rowOf(of))
    .sort(inOrder);
}
/** Of what is the same to the reader the key decides. */
const inOrder = (a: HandsRow, b: HandsRow): number =>
  inWords(a.lensName.trim(), b.lensName.trim()) ||
  a.focalMm - b.focalMm ||
  STANCES.indexOf(a.stance) - STANCES.indexOf(b.stance) ||
  inWords(a.by.trim(), b.by.trim());
const inWords = (a: string, b: string): number => a.localeCompare(b, "en", { sensitivity: "base", numeric: true });

const askedIn = (sessions: readonly ShotSession[]) =>
  askedOf(
    sessions.some((s) => s.heldBack !== null),
    sessions[0]?.plan.share,
  );
const laddersIn = (sessions: readonly ShotSession[], setting: Setting) =>
  sessions.map((s) => visitsRead(s.plan, s.shots, setting)).filter((l) => l.length > 0);

/** Stops by which the one is slower than the other at one setting: two pairs of hands, two stances, two lenses, shot on different days. */
export const rowsApart = (one: readonly ShotSession[], other: readonly ShotSession[], setting: Setting): Gain =>
  gainUnpaired(laddersIn(one, setting), laddersIn(other, setting), askedIn([...one, ...other]));

function rowOf(sessions: readonly ShotSession[]): HandsRow {
  const asked = askedIn(sessions);
  const ladders = (setting: Setting) => laddersIn(sessions, setting);
  const claim = (setting: Setting): HoldClaim | null => (ladders(setting).length === 0 ? null : sessionsClaim(ladders(setting), asked));
  const pairs = sessions
    .map((s) => ({ on: visitsRead(s.plan, s.shots, "on"), off: visitsRead(s.plan, s.shots, "off") }))
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
    unitId: first.unitId,
    equivalentMm: first.plan.equivalentMm,
    share: first.plan.share,
    use: first.use,
    sessionIds: sessions.map((s) => s.id),
    unsaid: sessions.reduce((sum, s) => sum + s.unsaid, 0),
    inView: sessions.reduce((sum, s) => sum + s.inView, 0),
    claims: { off: claim("off"), on: claim("on") },
    gain: read.length > 0 ? gainOverSessions(read, asked) : none === undefined ? null : gainInSession(none.on, none.off, asked),
  };
}
