// Which of two makes footfalls soft, a slow shutter or sharpening that recovers: both varied on one route, two by two.

import type { Density } from "../../statistics/index.ts";
import { densityOf, difference, mixture, quantileOf, sum } from "../../statistics/index.ts";
import type { WalkSetup } from "../plan.ts";
import { HELPS } from "./additions.ts";
import type { Interval } from "./pairs.ts";

/** A column's densities: slow or fast shutter × sharpening off or on. */
export interface Crossing {
  slowOff: Density;
  slowOn: Density;
  fastOff: Density;
  fastOn: Density;
}
/** Setup ids of four that differ in shutter and sharpening alone. */
export interface CrossingOf {
  slowOff: string;
  slowOn: string;
  fastOff: string;
  fastOn: string;
  slowSec: number;
  fastSec: number;
}
/** Every two shutter times with sharpening off and on at each, all else alike. */
export function crossingsOf(setups: readonly WalkSetup[]): CrossingOf[] {
  const like = (a: WalkSetup, b: WalkSetup): boolean => HELPS.every((h) => a[h] === b[h]);
  return setups.flatMap((slowOff) =>
    setups.flatMap((fastOff): CrossingOf[] => {
      const [slowSec, fastSec] = [slowOff.shutterSec ?? 0, fastOff.shutterSec ?? 0];
      if (slowOff.sharpening !== "off" || fastOff.sharpening !== "off" || !(fastSec > 0 && slowSec > fastSec) || !like(slowOff, fastOff))
        return [];
      const on = (sec: number): WalkSetup | undefined =>
        setups.find((s) => s.sharpening === "on" && s.shutterSec === sec && like(s, slowOff));
      const [slowOn, fastOn] = [on(slowSec), on(fastSec)];
      if (slowOn === undefined || fastOn === undefined) return [];
      return [{ slowOff: slowOff.id, slowOn: slowOn.id, fastOff: fastOff.id, fastOn: fastOn.id, slowSec, fastSec }];
    }),
  );
}

export type Effect = Interval & { middle: number; clear: boolean };
export interface CrossingEffects {
  /** Slow less fast. */
  shutter: Effect;
  /** On less off. */
  sharpening: Effect;
  /** What both together add beyond the sum of each. */
  interaction: Effect;
  says: "slow shutter" | "sharpening recovering" | "both, each by itself" | "both, only together" | "not separated";
}

/** Three effects hold together with 90 %. */
const TAIL = 0.0167;

/** `parts`: densities given one likeness of footfalls, with its weight; one part of weight 1 for a column of levels. */
export function crossingEffects(parts: readonly { weight: number; of: Crossing }[]): CrossingEffects {
  const effect = (pick: (c: Crossing) => Density): Effect =>
    effectOf(mixture(parts.map(({ weight, of }) => ({ weight, density: pick(of) }))));
  const shutter = effect((c) => halved(sum(difference(c.slowOff, c.fastOff), difference(c.slowOn, c.fastOn))));
  const sharpening = effect((c) => halved(sum(difference(c.slowOn, c.slowOff), difference(c.fastOn, c.fastOff))));
  const interaction = effect((c) => difference(difference(c.slowOn, c.slowOff), difference(c.fastOn, c.fastOff)));
  return { shutter, sharpening, interaction, says: saysOf(shutter, sharpening, interaction) };
}

function effectOf(density: Density): Effect {
  const [low, middle, high] = [quantileOf(density, TAIL), quantileOf(density, 0.5), quantileOf(density, 1 - TAIL)];
  return { low, middle, high, clear: low > 0 || high < 0 };
}

function saysOf(shutter: Effect, sharpening: Effect, interaction: Effect): CrossingEffects["says"] {
  if (interaction.clear) return interaction.low > 0 ? "both, only together" : "not separated";
  const [slow, sharp] = [shutter.low > 0, sharpening.low > 0];
  if (slow && sharp) return "both, each by itself";
  if (slow) return "slow shutter";
  return sharp ? "sharpening recovering" : "not separated";
}

/** Density of half the value: the same masses on half the step, laid on the old grid. */
function halved({ stepSize, first, mass }: Density): Density {
  const from = Math.floor(first / 2);
  const half = new Float64Array(Math.ceil((first + mass.length) / 2) - from + 1);
  mass.forEach((m, i) => {
    // An odd position lies between two points and is shared by them.
    const at = (first + i) / 2 - from;
    const left = Math.floor(at);
    half[left] = (half[left] as number) + m * (at === left ? 1 : 0.5);
    if (at !== left) half[left + 1] = (half[left + 1] as number) + 0.5 * m;
  });
  return densityOf(from, half, stepSize);
}
