// How gaps are read: the rule a protocol names, in words.

import type { ContinuityRule } from "../kit/index.ts";

/** A rule in words. */
export function describeRule({ poweredOff, bridgeBodyOnMs }: ContinuityRule): string {
  const off = poweredOff === "strict" ? "a powered-off gap ends the record" : "powered-off gaps are bridged";
  const on =
    bridgeBodyOnMs >= 86_400_000 ? "body-on gaps too" : `body-on gaps up to ${Math.round(bridgeBodyOnMs / 1000)} s in all are bridged`;
  return `${off}, ${on}`;
}
