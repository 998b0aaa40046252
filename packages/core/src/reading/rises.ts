// Rises of a body towards a plateau in steps of its gauge, and how likely readings in whole steps make each. One term a boundary, not a reading: a boundary's
// error is shared by all readings, so a hundred equal ones say no more than two. Source: docs/methods/levelling.md.

import { phi } from "../statistics/index.ts";

export interface Rise {
  plateau: number;
  /** Effective start; the fast jump of the chip is in it. */
  start: number;
  tauSec: number;
  /** Share of the rise that comes four times as slowly. */
  slow: number;
  /** Of the time constant, in standard deviations of what was known before. */
  z: number;
  weight: number;
}
export const levelAt = ({ plateau, start, tauSec, slow }: Rise, sec: number): number =>
  plateau - (plateau - start) * ((1 - slow) * Math.exp(-sec / tauSec) + slow * Math.exp(-sec / (4 * tauSec)));

/** When it reaches a level below its plateau and above where it stands at `fromSec`. */
export function timeAt(rise: Rise, level: number, fromSec: number): number {
  const { plateau, start, tauSec, slow } = rise;
  if (slow === 0) return -tauSec * Math.log((plateau - level) / (plateau - start));
  // The level climbs ever more slowly, so Newton's steps come nearer from the left and never pass it.
  let sec = fromSec;
  for (let i = 0; i < NEWTON_MOST; i++) {
    const step = (level - levelAt(rise, sec)) / slopeAt(rise, sec);
    sec += step;
    if (step < SEC_EXACT) break;
  }
  return sec;
}
const [NEWTON_MOST, SEC_EXACT] = [60, 1e-6];
const slopeAt = ({ plateau, start, tauSec, slow }: Rise, sec: number): number =>
  ((plateau - start) / tauSec) * ((1 - slow) * Math.exp(-sec / tauSec) + (slow / 4) * Math.exp(-sec / (4 * tauSec)));

/** Boundary `step` was crossed after `afterSec` (null: not known) and by `bySec`. */
export interface Boundary {
  step: number;
  afterSec: number | null;
  bySec: number;
}
export interface Seen {
  crossed: Boundary[];
  /** The next boundary was not crossed by the last reading. */
  open: { step: number; bySec: number };
  endSec: number;
  top: number;
}

/** Errors: of a boundary on the gauge, of the shutdown's level, and of the moment of a mark. */
const [EDGE_SD, MARK_SEC] = [0.12, 20];
/** Where the body shuts down on its gauge, and how sharply that is known. */
export const [END_STEP, END_SD] = [10, 0.2];

/** Before `cutSec` the fast part still rises: what was crossed by then was crossed some time before it. */
export function boundariesOf(readings: readonly { sec: number; step: number }[], cutSec: number, endSec: number): Seen {
  const top = readings.reduce((most, r) => Math.max(most, r.step), 0);
  const crossed: Boundary[] = [];
  for (let step = 1; step <= top; step++) {
    const i = readings.findIndex((r) => r.step >= step);
    const [by, before] = [readings[i] as { sec: number }, readings[i - 1]];
    const afterSec = before === undefined || before.sec < cutSec ? null : before.sec;
    const bySec = Math.max(by.sec, cutSec);
    const last = crossed.at(-1);
    // Of those crossed together without a time before, only the highest says anything.
    if (last !== undefined && last.bySec === bySec && last.afterSec === null && afterSec === null) crossed.pop();
    crossed.push({ step, afterSec, bySec });
  }
  return { crossed, open: { step: top + 1, bySec: readings.at(-1)?.sec ?? endSec }, endSec, top };
}

/** P(the boundary was crossed by then). */
const crossedBy = (rise: Rise, step: number, sec: number): number => phi((levelAt(rise, sec) - step) / EDGE_SD);
export const notCrossed = (rise: Rise, { step, bySec }: Seen["open"]): number => 1 - crossedBy(rise, step, bySec - MARK_SEC);
export const notEnded = (rise: Rise, endSec: number): number => phi((END_STEP - levelAt(rise, endSec)) / END_SD);
export function termOf(rise: Rise, { step, afterSec, bySec }: Boundary): number {
  const by = crossedBy(rise, step, bySec + MARK_SEC);
  return afterSec === null ? by : Math.max(0, by - crossedBy(rise, step, afterSec - MARK_SEC));
}

/** How far the rise passes outside what each boundary allows, in its errors. */
export function distanceOutside(seen: Seen, rise: Rise): number[] {
  const beyond = (over: number, sd: number): number => Math.max(0, over) / sd;
  return [
    ...seen.crossed.map(({ step, afterSec, bySec }) =>
      Math.max(
        beyond(step - levelAt(rise, bySec + MARK_SEC), EDGE_SD),
        afterSec === null ? 0 : beyond(levelAt(rise, afterSec - MARK_SEC) - step, EDGE_SD),
      ),
    ),
    beyond(levelAt(rise, seen.open.bySec - MARK_SEC) - seen.open.step, EDGE_SD),
    beyond(levelAt(rise, seen.endSec) - END_STEP, END_SD),
  ];
}

/** Of the grid of plateaus. */
export const PLATEAU_STEP = 0.2;
const [PLATEAU_MOST, PLATEAU_BELOW_TOP] = [16, 0.3];
const STARTS = Array.from({ length: 41 }, (_, i) => -4 + 0.3 * i);
const TAU_NODES = [-2, -4 / 3, -2 / 3, 0, 2 / 3, 4 / 3, 2];
const SLOW = [
  [0, 0.6],
  [0.1, 0.25],
  [0.2, 0.15],
] as const;
/** From the 90 % range of a lognormal to its standard deviation. */
const RANGE_SDS = 3.29;

/** What is left of the way to the plateau at the moments that count, for one time constant and slow part. */
interface Fading {
  by: Float64Array;
  /** NaN: not known. */
  after: Float64Array;
  open: number;
  end: number;
}
function fadingOf({ crossed, open, endSec }: Seen, tauSec: number, slow: number): Fading {
  const left = (sec: number): number => (1 - slow) * Math.exp(-sec / tauSec) + slow * Math.exp(-sec / (4 * tauSec));
  return {
    by: Float64Array.from(crossed, (b) => left(b.bySec + MARK_SEC)),
    after: Float64Array.from(crossed, (b) => (b.afterSec === null ? Number.NaN : left(b.afterSec - MARK_SEC))),
    open: left(open.bySec - MARK_SEC),
    end: left(endSec),
  };
}

/** Given up, 0, as soon as it falls far below `least`. */
function likelihood({ crossed, open }: Seen, fading: Fading, plateau: number, start: number, least: number): number {
  const way = plateau - start;
  let product = phi((open.step - plateau + way * fading.open) / EDGE_SD) * phi((END_STEP - plateau + way * fading.end) / END_SD);
  for (let i = crossed.length - 1; i >= 0; i--) {
    if (product < least) return 0;
    const { step } = crossed[i] as Boundary;
    const by = phi((plateau - way * (fading.by[i] as number) - step) / EDGE_SD);
    const after = fading.after[i] as number;
    product *= Number.isNaN(after) ? by : Math.max(0, by - phi((plateau - way * after - step) / EDGE_SD));
  }
  return product;
}

/** Starts outside make one boundary alone less likely than `least`: P(normal < -c) is below exp(-c²/2). */
function startsWithin({ crossed, open }: Seen, fading: Fading, plateau: number, least: number): { from: number; to: number } {
  const c = EDGE_SD * Math.sqrt(-2 * Math.log(Math.min(1, least)));
  // From what is seen of the way, how long it is at most and at least.
  let [most, fewest] = [Number.POSITIVE_INFINITY, (plateau - open.step - c) / fading.open];
  crossed.forEach(({ step }, i) => {
    most = Math.min(most, (plateau - step + c) / (fading.by[i] as number));
    const after = fading.after[i] as number;
    if (!Number.isNaN(after)) fewest = Math.max(fewest, (plateau - step - c) / after);
  });
  return { from: plateau - most, to: plateau - fewest };
}

const NEGLIGIBLE = 1e-4;

/** Every rise of the grid that the readings leave likely, weights summing to 1, and the likeliest. */
export function weighedRises(seen: Seen, tauMin: { lo: number; hi: number }): { rises: Rise[]; best: Rise } {
  const [middle, sd] = [Math.log(60 * Math.sqrt(tauMin.lo * tauMin.hi)), Math.log(tauMin.hi / tauMin.lo) / RANGE_SDS];
  const all: Rise[] = [];
  let best: Rise = { plateau: END_STEP, start: 0, tauSec: Math.exp(middle), slow: 0, z: 0, weight: 0 };
  for (const z of TAU_NODES)
    for (const [slow, share] of SLOW) {
      const tauSec = Math.exp(middle + sd * z);
      const before = share * Math.exp(-0.5 * z * z);
      const fading = fadingOf(seen, tauSec, slow);
      for (let plateau = seen.top - PLATEAU_BELOW_TOP + PLATEAU_STEP / 2; plateau < PLATEAU_MOST; plateau += PLATEAU_STEP) {
        const { from, to } = startsWithin(seen, fading, plateau, (1e-6 * best.weight) / before);
        for (const start of STARTS) {
          if (start < from) continue;
          if (start > to || start >= plateau) break;
          const weight = before * likelihood(seen, fading, plateau, start, (1e-6 * best.weight) / before);
          if (weight < NEGLIGIBLE * best.weight || weight === 0) continue;
          const rise = { plateau, start, tauSec, slow, z, weight };
          all.push(rise);
          if (weight > best.weight) best = rise;
        }
      }
    }
  const kept = all.filter((r) => r.weight > NEGLIGIBLE * best.weight);
  const sum = kept.reduce((s, r) => s + r.weight, 0);
  return { rises: kept.map((r) => ({ ...r, weight: r.weight / sum })), best };
}
