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
  /** The body compared; null: not said. */
  unitId: string | null;
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
  /** What else differed between those two, known of both; days left out. */
  changeBeside: readonly Factor[];
}
const FACTORS = ["days", "walkers", "bodies", "lenses", "focal lengths"] as const;
export type Factor = (typeof FACTORS)[number];
export interface SeveralWalks {
  setups: readonly SetupOverWalks[];
  /** What varied from walk to walk: days never become people, nor people days. Together they cannot be separated. */
  varied: readonly Factor[];
  /** What is the same as far as it is known, and not said of every walk: it may have varied too. */
  unsaid: readonly Factor[];
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
    const known = seen.flatMap((s, i) =>
      s === null ? [] : [{ setup: s.setup.level, control: s.control?.level ?? null, walk: walks[i] as ReadWalk }],
    );
    const [first, last] = [known[0], known.at(-1)];
    const two = first === undefined || last === undefined || first === last ? null : { first, last };
    return {
      key,
      walks: against,
      over: over.ok ? over : null,
      change: two === null ? null : changeOf(two.first, two.last),
      changeBeside: two === null ? [] : variedIn([two.first.walk, two.last.walk]).varied.filter((f) => f !== "days"),
    };
  });
  return { setups: setups.filter((s) => s.walks.some((w) => w !== null)), ...variedIn(walks) };
}

function levelsOf({ plan, shake }: ReadWalk, key: string): { setup: SetupLevel; control: SetupLevel | undefined } | null {
  const ids = plan.setups.filter((s) => setupWords(s) === key && s.id !== plan.controlId).map((s) => s.id);
  const setup = shake.setups.find((s) => ids.includes(s.id));
  return setup === undefined ? null : { setup, control: shake.setups.find((s) => s.id === plan.controlId) };
}

const named = (text: string): string | null => (text.trim() === "" ? null : text.trim().toLowerCase());
/** Of a walk; null: not said. */
const SAID: Readonly<Record<Factor, (w: ReadWalk) => string | null>> = {
  days: (w) => w.day,
  walkers: (w) => named(w.plan.walker),
  bodies: (w) => w.unitId,
  lenses: (w) => named(w.plan.lensName),
  "focal lengths": ({ plan: { focalMm } }) => (focalMm === null ? null : String(focalMm)),
};

/** What nobody said is not known to be the same. */
function variedIn(walks: readonly ReadWalk[]): Pick<SeveralWalks, "varied" | "unsaid"> {
  const said = (f: Factor) => walks.map(SAID[f]);
  const varied = FACTORS.filter((f) => new Set(said(f).filter((v) => v !== null)).size > 1);
  const unsaid = walks.length < 2 ? [] : FACTORS.filter((f) => !varied.includes(f) && said(f).includes(null));
  return { varied, unsaid };
}
