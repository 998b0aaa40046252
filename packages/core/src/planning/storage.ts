// Cards against bitrates. Decimal units throughout: 1 GB = 10^9 bytes, 1 MB/s = 10^6 bytes/s, 1 Mbit/s = 10^6 bit/s. Times are
// rounded down to the whole second: what is said to fit does fit.

import type { ModeSnapshot } from "../kit/index.ts";

function requirePositive(name: string, value: number): void {
  if (!(value > 0) || !Number.isFinite(value)) throw new RangeError(`${name} must be positive, got ${value}`);
}

/** GB per hour: Mbit/s x 3600 / 8 / 1000. 400 Mbit/s is 180 GB. */
export function gbPerHour(mbps: number): number {
  requirePositive("mbps", mbps);
  return (mbps * 3600) / 8000;
}

/** Milliseconds until `gb` are full, whole seconds down. 128 GB at 400 Mbit/s: 2560 s. */
export function msToFull(gb: number, mbps: number): number {
  requirePositive("gb", gb);
  requirePositive("mbps", mbps);
  return Math.floor((gb * 8000) / mbps + 1e-9) * 1000;
}

export type WriteVerdict = "fast enough" | "little to spare" | "too slow" | "speed not known";
/** Below this ratio of write speed to bitrate the margin is named. Common practice, no source. */
export const WRITE_MARGIN = 1.2;

/** Sustained write speed in MB/s against the bitrate. Exactly equal is little to spare, not too slow; a speed nobody gave rules nothing out. */
export function writeVerdict(writeMBps: number | null, mbps: number): WriteVerdict {
  if (writeMBps === null) return "speed not known";
  requirePositive("writeMBps", writeMBps);
  requirePositive("mbps", mbps);
  const ratio = (writeMBps * 8) / mbps;
  if (ratio < 1 - 1e-12) return "too slow";
  return ratio < WRITE_MARGIN ? "little to spare" : "fast enough";
}

/** Where a mode writes. `each`: places that fill one after the other (relay) or together (both). */
export interface Places {
  cards: number;
  recorder: boolean;
  /** "one", "together" (the first full ends it) or "in turn" (relay: they add up). */
  how: "one" | "together" | "in turn";
}

export function placesOf(target: ModeSnapshot["target"]): Places {
  switch (target) {
    case "slot 1":
    case "slot 2":
      return { cards: 1, recorder: false, how: "one" };
    case "both slots":
      return { cards: 2, recorder: false, how: "together" };
    case "relay":
      return { cards: 2, recorder: false, how: "in turn" };
    case "external recorder":
      return { cards: 0, recorder: true, how: "one" };
    case "slot and recorder":
      return { cards: 1, recorder: true, how: "together" };
  }
}

/** Room in GB for one unbroken recording, given the media in their places. */
export function roomGb(how: Places["how"], gb: readonly number[]): number {
  if (gb.length === 0) throw new RangeError("gb must name at least one medium, got none");
  return how === "in turn" ? gb.reduce((sum, g) => sum + g, 0) : Math.min(...gb);
}
