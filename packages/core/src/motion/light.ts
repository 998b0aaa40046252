// How bright the picture is, in stops, and where its exposure steps.

import type { Luma } from "./luma.ts";

/** Ends of the coded range (ITU-R BT.709, 8 bit, narrow range). Few cameras' curves are known, so stops are those of a display's 2.4 power law (BT.1886). */
export interface CodeRange {
  black: number;
  white: number;
}
export const NARROW: CodeRange = { black: 16, white: 235 };
export const FULL: CodeRange = { black: 0, white: 255 };
const POWER = 2.4;

/** Light of a grey level from 0 to 255 and beyond, through a table of sixteenths: a power for every pixel costs more than the motion does. */
const PER_LEVEL = 16;
function lightTable({ black, white }: CodeRange): Float64Array {
  return Float64Array.from({ length: 257 * PER_LEVEL }, (_, i) => Math.max(0, (i / PER_LEVEL - black) / (white - black)) ** POWER);
}
const tables = new Map<CodeRange, Float64Array>();
function tableOf(range: CodeRange): Float64Array {
  const known = tables.get(range) ?? lightTable(range);
  tables.set(range, known);
  return known;
}

export interface FrameLight {
  /** Mean light of the frame, stops below full white: 0 or less. */
  stops: number;
  /** Share of pixels at or above white. */
  clippedFrac: number;
  /** Share of pixels at or below black. */
  crushedFrac: number;
}

/** Of every fourth pixel each way. */
export function frameLight({ width, height, data }: Luma, range: CodeRange): FrameLight {
  const table = tableOf(range);
  let [n, sum, clipped, crushed] = [0, 0, 0, 0];
  for (let y = 1; y < height; y += 4)
    for (let x = 1; x < width; x += 4) {
      const v = data[y * width + x] as number;
      n++;
      const at = Math.min(256 * PER_LEVEL - 1, Math.max(0, v * PER_LEVEL));
      const low = Math.floor(at);
      sum += (table[low] as number) + (at - low) * ((table[low + 1] as number) - (table[low] as number));
      if (v >= range.white - 1) clipped++;
      if (v <= range.black + 1) crushed++;
    }
  return { stops: Math.log2(Math.max(sum / n, 1e-5)), clippedFrac: clipped / n, crushedFrac: crushed / n };
}

/**
 * Stops by which `to` is brighter than `from` where both show the same: the median over shared pixels, `to` shifted by (dx, dy) of its own px.
 * Pixels near black or white in either say nothing. Null with fewer than 100 that do.
 */
export function gainStops(from: Luma, to: Luma, dx: number, dy: number, range: CodeRange): number | null {
  const [sx, sy] = [Math.round(dx), Math.round(dy)];
  const [low, high] = [range.black + 12, range.white - 12];
  // Every second pixel each way.
  const found = new Float64Array(((from.width + 1) >> 1) * ((from.height + 1) >> 1));
  let n = 0;
  for (let y = Math.max(0, -sy); y < Math.min(from.height, from.height - sy); y += 2)
    for (let x = Math.max(0, -sx); x < Math.min(from.width, from.width - sx); x += 2) {
      const a = from.data[y * from.width + x] as number;
      const b = to.data[(y + sy) * from.width + x + sx] as number;
      if (a > low && a < high && b > low && b < high) found[n++] = (b - range.black) / (a - range.black);
    }
  if (n < 100) return null;
  const order = found.subarray(0, n).sort();
  return POWER * Math.log2(order[n >> 1] as number);
}

export interface ExposureStep {
  /** The frame after which the light has changed. */
  frame: number;
  stops: number;
}

const STEP_STOPS = 0.1;

/** Changes of more than 0.1 stop within two frames. `gains[i]` from frame i to i + 1, null where unknown. */
export function exposureSteps(gains: readonly (number | null)[]): ExposureStep[] {
  const steps: ExposureStep[] = [];
  for (let i = 0; i < gains.length; i++) {
    const two = (gains[i] ?? 0) + (gains[i + 1] ?? 0);
    if (Math.abs(gains[i] ?? 0) <= STEP_STOPS / 4 || Math.abs(two) <= STEP_STOPS) continue;
    let [last, stops] = [i, gains[i] ?? 0];
    // One step goes on as long as it goes the same way.
    while (last + 1 < gains.length && (gains[last + 1] ?? 0) * stops > 0 && Math.abs(gains[last + 1] ?? 0) > STEP_STOPS / 4)
      stops += gains[++last] ?? 0;
    if (Math.abs(stops) > STEP_STOPS) steps.push({ frame: i + 1, stops });
    i = last;
  }
  return steps;
}
