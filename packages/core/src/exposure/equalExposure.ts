// What to set at each exposure time so that the picture stays as bright: sensitivity first, then the aperture, then filters from the bag, in thirds of a stop.

import { nearestPlace } from "./series.ts";

/** What was metered once, and how far each of the three can go. */
export interface Metered {
  /** log2 of seconds. */
  x: number;
  iso: number;
  fNumber: number;
  isoLeast: number;
  isoMost: number;
  /** The smallest f-number, and the largest one is ready to use. */
  fWidest: number;
  fNarrowest: number;
  /** Stops each filter of the bag takes. */
  filters: readonly number[];
}
export interface ToSet {
  iso: number;
  fNumber: number;
  /** Stops of each filter to put on; empty: none. */
  filters: readonly number[];
  /** Stops by which the picture is too bright; below zero: too dark. */
  tooBright: number;
}

const clamp = (v: number, low: number, high: number): number => Math.min(high, Math.max(low, v));
const third = (stops: number): number => nearestPlace(stops, "third");
/** Beyond this two pictures are seen to differ. */
export const SEEN_STOPS = 1 / 3 + 1e-6;

/** With as little in front of the lens as keeps it as bright. @param x log2 of seconds to be shot at */
export function equalExposure(m: Metered, x: number): ToSet {
  requireRange("iso", m.isoLeast, m.iso, m.isoMost);
  requireRange("fNumber", m.fWidest, m.fNumber, m.fNarrowest);
  const away = third(x - m.x);
  let best = without(m, away, []);
  for (const filters of setsOf(m.filters)) {
    const next = without(m, away, filters);
    if (Math.abs(next.tooBright) < Math.abs(best.tooBright) - SAME) best = next;
  }
  return best;
}

const SAME = 1e-6;
/** @param away stops of light to be taken away; below zero: to be added */
function without(m: Metered, away: number, filters: readonly number[]): ToSet {
  const wanted = away - sumOf(filters);
  const isoStops = clamp(-wanted, Math.log2(m.isoLeast / m.iso), Math.log2(m.isoMost / m.iso));
  const left = wanted + isoStops;
  const fStops = clamp(left, 2 * Math.log2(m.fWidest / m.fNumber), 2 * Math.log2(m.fNarrowest / m.fNumber));
  return { iso: m.iso * 2 ** isoStops, fNumber: m.fNumber * 2 ** (fStops / 2), filters, tooBright: left - fStops };
}
const sumOf = (stops: readonly number[]): number => stops.reduce((s, f) => s + f, 0);

function requireRange(name: string, least: number, value: number, most: number): void {
  if (!(least > 0 && least <= value && value <= most))
    throw new RangeError(`${name} must lie within its limits above zero, got ${value} in ${least} to ${most}`);
}

const MOST_FILTERS = 10;
/** Every way to put filters of the bag together, the weakest first, of equals the fewest; the strongest of each first. */
function setsOf(bag: readonly number[]): number[][] {
  const own = bag.slice(0, MOST_FILTERS);
  return Array.from({ length: 2 ** own.length - 1 }, (_, set) => own.filter((_f, i) => ((set + 1) >> i) & 1).sort((a, b) => b - a)).sort(
    (a, b) => sumOf(a) - sumOf(b) || a.length - b.length,
  );
}

const F_NUMBERS =
  "0.7 0.8 0.9 1 1.1 1.2 1.4 1.6 1.8 2 2.2 2.5 2.8 3.2 3.5 4 4.5 5 5.6 6.3 7.1 8 9 10 11 13 14 16 18 20 22 25 29 32 36 40 45 51 57 64".split(
    " ",
  );
const ISOS =
  "25 32 40 50 64 80 100 125 160 200 250 320 400 500 640 800 1000 1250 1600 2000 2500 3200 4000 5000 6400 8000 10000 12800 16000 20000 25600 32000 40000 51200 64000 80000 102400".split(
    " ",
  );
/** As dials print them, in thirds: from memory. The value itself beyond the dial. */
export const fNumberLabel = (f: number): string => F_NUMBERS[Math.round(6 * Math.log2(f)) + 3] ?? f.toPrecision(2);
export const isoLabel = (iso: number): string => ISOS[Math.round(3 * Math.log2(iso / 25))] ?? String(Math.round(iso));
