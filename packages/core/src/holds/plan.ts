// A shutter-speed test as planned: one lens at one focal length, one stance, exposure times with the stabiliser off and on, shots at each.

import type { Metered, Reference } from "../exposure/index.ts";
import { onePixelRule, ruleOfThumb } from "../exposure/index.ts";
import { randomFrom } from "../statistics/index.ts";

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
/** "balanced": off and on in turn at each time. "shuffled": setting and time by chance. "adaptive": each next time is chosen by what was seen. */
export const ORDERS = ["balanced", "shuffled", "adaptive"] as const;
export type Order = (typeof ORDERS)[number];
export const LIGHTS = ["not said", "daylight", "lamps, 50 Hz", "lamps, 60 Hz"] as const;
export type Light = (typeof LIGHTS)[number];
/** Whether a shot is kept is said on the card as it is taken, or from the pictures afterwards. */
export const JUDGED = ["at once", "from pictures"] as const;
export type Judged = (typeof JUDGED)[number];
/** One stop, half a stop, a third. */
export const STEPS = [1, 0.5, 1 / 3] as const;

export interface ExposureSpan {
  /** log2 of seconds on the dial, both ends shot. */
  fastest: number;
  slowest: number;
}
export interface SensorPixels {
  widthMm: number;
  heightMm: number;
  /** Of its pictures. */
  pixelsWide: number;
}
/** What plans of the first version do not say. */
export interface LaterSaid {
  order: Order;
  /** Of a shuffled order. */
  seed: number;
  judged: Judged;
  /** Of shots to be kept at the dependable time. */
  share: number;
  light: Light;
  subjectMoves: boolean;
  /** Null: brightness is kept by other means. */
  metered: Metered | null;
  /** "fixed": sensitivity and aperture stay, and faster pictures are darker. */
  brightness: "equal" | "fixed";
  sensor: SensorPixels | null;
}
export interface HoldPlan extends LaterSaid {
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
  /** Null: not shot. Adaptive: begun at the fastest; the slowest is not used. */
  spans: Readonly<Record<Setting, ExposureSpan | null>>;
  stepStops: (typeof STEPS)[number];
  shotsEach: number;
}
export type StoredPlan = Omit<HoldPlan, keyof LaterSaid> & { [K in keyof LaterSaid]?: LaterSaid[K] | undefined };

export const USUALLY: LaterSaid = {
  order: "balanced",
  seed: 1,
  judged: "at once",
  share: 0.8,
  light: "not said",
  subjectMoves: false,
  metered: null,
  brightness: "equal",
  sensor: null,
};
export const planOf = (stored: StoredPlan): HoldPlan => {
  const said = Object.fromEntries(Object.entries(stored).filter(([, v]) => v !== undefined));
  return { ...USUALLY, ...said } as HoldPlan;
};

export interface PlannedVisit {
  setting: Setting;
  x: number;
}

/** Exposure times of a span from the fastest, on the dial. */
export function timesOf({ fastest, slowest }: ExposureSpan, stepStops: number): number[] {
  return Array.from({ length: Math.max(0, Math.floor((slowest - fastest) / stepStops + 1e-9) + 1) }, (_, i) => fastest + i * stepStops);
}

type Visited = Pick<HoldPlan, "spans" | "stepStops"> & Partial<Pick<HoldPlan, "order" | "seed">>;

/** Off and on in turn, which first changes from time to time, so that tiring falls on both alike; or all of it shuffled. None of an adaptive plan. */
export function plannedVisits({ spans, stepStops, order = "balanced", seed = 1 }: Visited): PlannedVisit[] {
  if (order === "adaptive") return [];
  const [off, on] = SETTINGS.map((s) => (spans[s] === null ? [] : timesOf(spans[s], stepStops))) as [number[], number[]];
  const inTurn = Array.from({ length: Math.max(off.length, on.length) }, (_, i) => {
    const pair = [
      ...(off[i] === undefined ? [] : [{ setting: "off" as const, x: off[i] }]),
      ...(on[i] === undefined ? [] : [{ setting: "on" as const, x: on[i] }]),
    ];
    return i % 2 === 0 ? pair : pair.reverse();
  }).flat();
  return order === "shuffled" ? shuffled(inTurn, seed) : inTurn;
}

/** Fisher and Yates, by a seed: the same plan has the same order on every device. */
export function shuffled<T>(list: readonly T[], seed: number): T[] {
  const random = randomFrom(seed);
  const all = [...list];
  for (let i = all.length - 1; i > 0; i--) {
    const j = random.int(0, i);
    [all[i], all[j]] = [all[j] as T, all[i] as T];
  }
  return all;
}

/** log2 of seconds; null where it needs what is not known. "off" is not known before it is measured. */
export function ruleOf({ reference, focalMm, equivalentMm, sensor }: Pick<HoldPlan, "reference" | "focalMm" | "equivalentMm" | "sensor">) {
  if (reference !== "one-pixel") return ruleOfThumb(reference, { focalMm, equivalentMm });
  return sensor === null ? null : onePixelRule(sensor, focalMm, sensor.pixelsWide);
}

/** Two stops faster than the rule of thumb to two slower with it off; from the rule to five slower with it on. On whole stops. */
export function usualSpans(
  lens: Pick<HoldPlan, "focalMm" | "equivalentMm"> & { sensor?: SensorPixels | null },
  reference: Reference,
): HoldPlan["spans"] {
  const rule = Math.floor(ruleOf({ ...lens, sensor: lens.sensor ?? null, reference }) ?? ruleOfThumb("1/actual", lens) ?? -6);
  return { off: { fastest: rule - 2, slowest: rule + 2 }, on: { fastest: rule, slowest: rule + 5 } };
}
