// In too little light: raise the sensitivity, or hold longer and take several? Told with the tester's own limit of sensitivity.

import type { KeepRate, Ladder } from "../statistics/index.ts";
import { beliefOf, keepRateAt } from "../statistics/index.ts";

export interface DimLight {
  /** What the light asks for at this sensitivity: log2 of seconds. */
  x: number;
  iso: number;
  /** Above it the tester does not like the picture. */
  isoTolerated: number;
}
export type IsoOrSlower =
  /** The hands hold what the light asks for. */
  | { kind: "as-it-is" }
  /** Up to this sensitivity the time is dependable, and it is tolerated. */
  | { kind: "raise"; iso: number; stops: number; x: number }
  /** Even at the tolerated sensitivity the time is slower than dependable: so often kept there, so many to take. */
  | { kind: "both"; x: number; iso: number; there: KeepRate }
  /** And that time lies beyond what was shot. */
  | { kind: "unknown"; x: number; iso: number };

const OUT = 1e-6;

/** @param claim the dependable time, log2 of seconds. @param ladder what it was found from */
export function isoOrSlower(claim: number, ladder: Ladder, share: number, { x, iso, isoTolerated }: DimLight): IsoOrSlower {
  if (!(iso > 0 && isoTolerated > 0)) throw new RangeError(`iso and isoTolerated must be above zero, got ${iso} and ${isoTolerated}`);
  // On the dial, and never towards the hands: the time at the next faster third, what is asked of the sensitivity at the next higher.
  const held = Math.floor(3 * claim + OUT) / 3;
  if (x <= held + OUT) return { kind: "as-it-is" };
  const wanted = Math.ceil(3 * (x - held) - OUT) / 3;
  const most = Math.max(0, Math.log2(isoTolerated / iso));
  if (wanted <= most + OUT) return { kind: "raise", iso: iso * 2 ** wanted, stops: wanted, x: held };
  const slower = Math.ceil(3 * (x - most) - OUT) / 3;
  const at = { x: slower, iso: iso * 2 ** most };
  const slowest = ladder.reduce((m, v) => Math.max(m, v.x), Number.NEGATIVE_INFINITY);
  return slower > slowest + OUT
    ? { kind: "unknown", ...at }
    : { kind: "both", ...at, there: keepRateAt(beliefOf([ladder], share), slower) };
}
