// Cautions, shown where the work is planned and done. They never block it; the maker's manual and local codes come first.

import type { TemperatureUnit } from "@keep-rolling/core/format";
import { fahrenheitFromCelsius } from "@keep-rolling/core/format";
import type { ConditionSnapshot } from "@keep-rolling/core/kit";

export function cautionsFor(
  c: Pick<ConditionSnapshot, "sun" | "air" | "power" | "powerOffSetting" | "ambientC">,
  unit: TemperatureUnit,
): string[] {
  const all: string[] = [];
  if (c.powerOffSetting !== "normal") {
    all.push(
      `The body may get too hot to hold (bare metal: about ${degrees(48, unit)} for ten minutes, ${degrees(51, unit)} for one). Tripod, let it cool before handling, keep children away.`,
    );
  }
  if (c.sun === "direct") all.push("Never aim at the sun. For yourself: shade, water, breaks, and not alone.");
  if (c.sun !== "none" && c.power === "dummy or mains")
    all.push("Mains outdoors: through a residual-current device, kept dry, by the maker's instructions.");
  if (c.ambientC >= 30 && c.sun !== "direct") all.push("Hot place: shade, water, breaks for whoever watches the camera.");
  all.push("Smell, smoke, swelling or hissing: stop, move away, never open or charge a hot or swollen battery.");
  all.push("Never force the heat: no ovens, no closed cars, no covered vents.");
  return all;
}

/** One line for the console while it rolls. */
export function rollingCaution(c: ConditionSnapshot, unit: TemperatureUnit): string {
  return c.powerOffSetting === "normal"
    ? "Hot body: leave it on the tripod, let it cool before handling."
    : `High power-off setting: the body may pass ${degrees(48, unit)}. Tripod, let it cool before handling.`;
}

/** Whole degrees, down: a caution comes early rather than late. */
const degrees = (c: number, unit: TemperatureUnit): string => `${unit === "C" ? c : Math.floor(fahrenheitFromCelsius(c))} °${unit}`;
