// Prices as they are read and typed: units, digits, and which way is dearer is never said by colour.

import type { Price, PriceCell } from "@keep-rolling/core/walks";

interface PriceWords {
  name: string;
  unit: string;
  /** From the stored value to what is shown, and back from what is typed. */
  per: number;
  digits: number;
}
export const PRICE_WORDS: Readonly<Record<Price, PriceWords>> = {
  "field kept": { name: "Field kept", unit: "% of the control's", per: 100, digits: 0 },
  "corner wobble": { name: "Bending at the corners", unit: "px of 640", per: 1, digits: 2 },
  "leap at pan start": { name: "Leap at the start of a pan", unit: "× its steady speed", per: 1, digits: 1 },
  "soft footfalls": { name: "Soft footfalls", unit: "in 100", per: 100, digits: 0 },
  roll: { name: "Roll", unit: "°", per: 1, digits: 2 },
  drift: { name: "Drift and swing", unit: "% of the width", per: 100, digits: 2 },
  detail: { name: "Softness of edges", unit: "px of 640", per: 1, digits: 2 },
  microphone: { name: "Microphone", unit: "dB over the control", per: 1, digits: 1 },
  "battery per hour": { name: "Battery", unit: "% an hour", per: 1, digits: 0 },
  rendering: { name: "Rendering", unit: "min a minute of clip", per: 1, digits: 1 },
  storage: { name: "Storage of copies", unit: "MB a minute", per: 1, digits: 0 },
  "kit weight": { name: "Weight carried", unit: "g", per: 1, digits: 0 },
  "set-up time": { name: "Setting up and balancing", unit: "min", per: 1, digits: 0 },
};

/** Empty where nothing is known: blank, not zero. */
export function priceWords(price: Price, { value, of }: PriceCell): string {
  if (value === null) return "";
  if (of !== null) return `${of.soft} of ${of.steps}`;
  const { per, digits } = PRICE_WORDS[price];
  return (value * per).toFixed(digits);
}

/** What was typed, in the stored unit; null for nothing, undefined for what is no number. */
export function readPrice(price: Price, typed: string): number | null | undefined {
  const text = typed.trim().replace(",", ".");
  if (text === "") return null;
  const value = Number(text) / PRICE_WORDS[price].per;
  return Number.isFinite(value) && Math.abs(value) <= 1_000_000 ? value : undefined;
}
