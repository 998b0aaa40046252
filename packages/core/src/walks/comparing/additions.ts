// What each help adds: from a setup to the one that has one help more. All gains of a move hold together; a help that makes a column worse
// fights with what was already on.

import { difference, quantileOf } from "../../statistics/index.ts";
import type { WalkSetup } from "../plan.ts";
import type { Interval, SessionLevel } from "./pairs.ts";
import { widened } from "./pairs.ts";

/** Parts of a setup that can be added one at a time. */
export const HELPS = ["lens", "sensor", "electronic", "horizon", "support", "afterwards"] as const;
export type Help = (typeof HELPS)[number];

export interface Addition {
  /** Setup ids. */
  before: string;
  after: string;
  help: Help;
}

const BARE: Readonly<Record<Help, unknown>> = {
  lens: false,
  sensor: "off",
  electronic: "off",
  horizon: false,
  support: "two hands",
  afterwards: "none",
};
const isOn = (s: WalkSetup, help: Help): boolean => s[help] !== BARE[help];

/** Every pair of setups of which the second has one help more and everything else alike; in the order of the plan. */
export function additionsOf(setups: readonly WalkSetup[]): Addition[] {
  return setups.flatMap((before) =>
    setups.flatMap((after) => {
      const changed = HELPS.filter((h) => before[h] !== after[h]);
      const [help] = changed;
      const alike = before.shutterSec === after.shutterSec && before.sharpening === after.sharpening;
      return alike && help !== undefined && changed.length === 1 && !isOn(before, help) && isOn(after, help)
        ? [{ before: before.id, after: after.id, help }]
        : [];
    }),
  );
}

/** How much of the log an addition takes off; negative: it adds. All `additions` of them hold together with 90 %. */
export function gainOf(before: SessionLevel, after: SessionLevel, additions: number): Interval & { log: number } {
  if (!(Number.isInteger(additions) && additions >= 1))
    throw new RangeError(`additions must be a whole number from 1 on, got ${additions}`);
  const gain = difference(before.density, after.density);
  return { log: quantileOf(gain, 0.5), ...widened(gain, 0.05 / additions, (before.position - after.position) * before.trendSd) };
}

/** The addition makes this column worse, among `columns` of `additions` asked about together. */
export function fights(before: SessionLevel, after: SessionLevel, additions: number, columns: number): boolean {
  const more = difference(after.density, before.density);
  return widened(more, 0.1 / (additions * columns), (after.position - before.position) * before.trendSd).low > 0;
}

/** Both helps together are steadier than each alone; both must hold, so neither needs a correction. */
export function beatsEach(both: SessionLevel, alone: readonly SessionLevel[]): boolean {
  return alone.every((one) => gainOf(one, both, 1).low > 0);
}
