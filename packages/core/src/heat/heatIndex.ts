// How hot the tester's day feels. Source: US National Weather Service, heat index equation (Rothfusz, L. P. (1990), NWS Technical
// Attachment SR 90-23, with Steadman's simple form and the two adjustments published with it). Valid in the shade with light wind.

import { celsiusFromFahrenheit, fahrenheitFromCelsius } from "../format/index.ts";

/** Full sun can add up to this, °F (National Weather Service, from memory). */
export const FULL_SUN_F = 15;

/**
 * Heat index in °F from air temperature in °F and relative humidity in per cent (0 to 100). Below 80 °F of the simple form, which
 * already holds the average with the air temperature, that form stands; above it Rothfusz's regression with the dry (RH < 13,
 * 80 to 112 °F) and humid (RH > 85, 80 to 87 °F) adjustments. RangeError outside.
 */
export function heatIndexF(tempF: number, humidityPct: number): number {
  if (!Number.isFinite(tempF)) throw new RangeError(`tempF must be a finite number, got ${tempF}`);
  if (!(humidityPct >= 0 && humidityPct <= 100)) throw new RangeError(`humidityPct must lie in 0 to 100, got ${humidityPct}`);
  const simple = 0.5 * (tempF + 61 + 1.2 * (tempF - 68) + 0.094 * humidityPct);
  return simple < 80 ? simple : rothfusz(tempF, humidityPct) + adjustment(tempF, humidityPct);
}

function rothfusz(t: number, r: number): number {
  return (
    -42.379 +
    2.04901523 * t +
    10.14333127 * r -
    0.22475541 * t * r -
    6.83783e-3 * t * t -
    5.481717e-2 * r * r +
    1.22874e-3 * t * t * r +
    8.5282e-4 * t * r * r -
    1.99e-6 * t * t * r * r
  );
}

function adjustment(t: number, r: number): number {
  if (r < 13 && t >= 80 && t <= 112) return -((13 - r) / 4) * Math.sqrt((17 - Math.abs(t - 95)) / 17);
  if (r > 85 && t >= 80 && t <= 87) return ((r - 85) / 10) * ((87 - t) / 5);
  return 0;
}

/** The same in °C; `fullSun` adds what full sun may add. */
export function heatIndexC(tempC: number, humidityPct: number, fullSun = false): number {
  const shadeF = heatIndexF(fahrenheitFromCelsius(tempC), humidityPct);
  return celsiusFromFahrenheit(shadeF + (fullSun ? FULL_SUN_F : 0));
}

export const HEAT_LEVELS = ["none", "caution", "extreme caution", "danger", "extreme danger"] as const;
export type HeatLevel = (typeof HEAT_LEVELS)[number];

/** Lower bounds in °F of the levels the National Weather Service prints on its chart (from memory). */
const LEVEL_FROM_F: readonly (readonly [number, HeatLevel])[] = [
  [125, "extreme danger"],
  [103, "danger"],
  [90, "extreme caution"],
  [80, "caution"],
];

export function heatLevelOf(indexC: number): HeatLevel {
  const indexF = fahrenheitFromCelsius(indexC);
  return LEVEL_FROM_F.find(([fromF]) => indexF >= fromF - 1e-9)?.[1] ?? "none";
}

export interface BreakRule {
  /** Minutes in the shade after so many minutes of work; null: no work outdoors at all. */
  workMin: number;
  breakMin: number;
}

/**
 * Work and shade by level. Common practice, no source: our own cautious default, not a rule of any authority. At extreme danger
 * nothing is planned outdoors.
 */
export function breakRuleOf(level: HeatLevel): BreakRule | "no work" | null {
  if (level === "none") return null;
  if (level === "extreme danger") return "no work";
  return {
    caution: { workMin: 50, breakMin: 10 },
    "extreme caution": { workMin: 40, breakMin: 10 },
    danger: { workMin: 30, breakMin: 15 },
  }[level];
}

export const HEAT_ADVICE: Readonly<Record<HeatLevel, string>> = {
  none: "",
  caution: "Shade and water at hand.",
  "extreme caution": "Shade, water, breaks; not alone.",
  danger: "Heat exhaustion is likely: short spells, shade, water, never alone.",
  "extreme danger": "Heat stroke is likely: do not test outdoors.",
};
