// How gaps are read: the rule a protocol names, in words.

import type { ContinuityRule } from "../kit/index.ts";
import type { GapPower } from "./vocabulary.ts";

/** What one gap does to the record by the rule, said at once while it is open. */
export function gapEffect({ poweredOff, bridgeBodyOnMs }: ContinuityRule, power: GapPower): string {
  if (power === "off")
    return poweredOff === "strict"
      ? "Powered off: by this protocol the record ends here, as at least so long; what follows counts as a warm start."
      : "Powered off: by this protocol such gaps are bridged, and the time goes on adding up.";
  if (bridgeBodyOnMs >= 86_400_000) return "Body on: by this protocol the time goes on adding up, however long it takes.";
  return `Body on: by this protocol up to ${Math.round(bridgeBodyOnMs / 1000)} s of such gaps in all are bridged; with more the record ends here, as at least so long.`;
}

/** A rule in words. */
export function describeRule({ poweredOff, bridgeBodyOnMs }: ContinuityRule): string {
  const off = poweredOff === "strict" ? "a powered-off gap ends the record" : "powered-off gaps are bridged";
  const on =
    bridgeBodyOnMs >= 86_400_000 ? "body-on gaps too" : `body-on gaps up to ${Math.round(bridgeBodyOnMs / 1000)} s in all are bridged`;
  return `${off}, ${on}`;
}
