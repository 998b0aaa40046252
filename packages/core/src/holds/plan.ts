// A shutter-speed test as planned: one lens at one focal length, one stance, exposure times with the stabiliser off and on, shots at each.

import type { Reference } from "../exposure/index.ts";
import { ruleOfThumb } from "../exposure/index.ts";

export const STANCES = [
  "eye at the finder",
  "elbows in, at the finder",
  "hand under the lens",
  "leaning",
  "kneeling",
  "monopod",
  "arm's length",
] as const;
export type Stance = (typeof STANCES)[number];
export const SETTINGS = ["off", "on"] as const;
export type Setting = (typeof SETTINGS)[number];

export interface ExposureSpan {
  /** log2 of seconds on the dial, both ends shot. */
  fastest: number;
  slowest: number;
}
export interface HoldPlan {
  lensName: string;
  focalMm: number;
  /** Null: the sensor is not known. */
  equivalentMm: number | null;
  stance: Stance;
  /** Who holds it, initials. */
  by: string;
  /** Wind, cold, tired, coffee: what else these hands stood in. */
  state: string;
  reference: Reference;
  /** The maker's stops; null: none stated. */
  claimStops: number | null;
  /** Null: not shot. */
  spans: Readonly<Record<Setting, ExposureSpan | null>>;
  stepStops: 1 | 0.5;
  shotsEach: number;
}

export interface PlannedVisit {
  setting: Setting;
  x: number;
}

/** Exposure times of a span from the fastest, on the dial. */
export function timesOf({ fastest, slowest }: ExposureSpan, stepStops: number): number[] {
  return Array.from({ length: Math.max(0, Math.floor((slowest - fastest) / stepStops + 1e-9) + 1) }, (_, i) => fastest + i * stepStops);
}

/** Off and on in turn, which first changes from time to time: tiring falls on both alike. */
export function plannedVisits({ spans, stepStops }: Pick<HoldPlan, "spans" | "stepStops">): PlannedVisit[] {
  const [off, on] = SETTINGS.map((s) => (spans[s] === null ? [] : timesOf(spans[s], stepStops))) as [number[], number[]];
  return Array.from({ length: Math.max(off.length, on.length) }, (_, i) => {
    const pair = [
      ...(off[i] === undefined ? [] : [{ setting: "off" as const, x: off[i] }]),
      ...(on[i] === undefined ? [] : [{ setting: "on" as const, x: on[i] }]),
    ];
    return i % 2 === 0 ? pair : pair.reverse();
  }).flat();
}

/** Two stops faster than the rule of thumb to two slower with it off; from the rule to five slower with it on. On whole stops. */
export function usualSpans(lens: { focalMm: number; equivalentMm: number | null }, reference: Reference): HoldPlan["spans"] {
  const rule = Math.floor(ruleOfThumb(reference, lens) ?? ruleOfThumb("1/actual", lens) ?? -6);
  return { off: { fastest: rule - 2, slowest: rule + 2 }, on: { fastest: rule, slowest: rule + 5 } };
}
