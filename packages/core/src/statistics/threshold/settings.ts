// What is asked of a threshold, and the levels at which the profile was found by simulation to hold.

import { normalQuantile } from "../distributions.ts";

export interface HoldSettings {
  /** Of the shots kept at the dependable time; .8 is proven. */
  share: number;
  /** .9 is proven. */
  confidence: number;
  /** Any exposure was chosen, or the ladder ended, after seeing results of this session. */
  adaptive: boolean;
}

/** One-sided level for the claim, in normal units: calibrated, not 1.28, so that the worst world covers. */
export const claimZ = ({ confidence, adaptive }: HoldSettings): number => ((adaptive ? 1.65 : 1.47) * normalQuantile(confidence)) / 1.2816;
export const intervalZ = ({ confidence, adaptive }: HoldSettings): number =>
  ((adaptive ? 2.1 : 1.75) * normalQuantile((1 + confidence) / 2)) / 1.6449;
