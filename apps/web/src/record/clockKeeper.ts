// Keeps this device's clock compared with the server's. Framework-free: the two clocks and the way to ask are arguments, so the chaos
// tool runs the same code with clocks that jump, drift and sleep.

import type { ClockAnchor, ClockOffset, ClockSample, Parting } from "@keep-rolling/core/time";
import { clocksParted, estimateOffset, followParting, offsetAt, TOGETHER } from "@keep-rolling/core/time";

const SAMPLES = 5;

export interface Clocks {
  /** The device's wall clock, UTC milliseconds as it believes. */
  wallMs(): number;
  /** Monotonic; may stand still in sleep. */
  steadyMs(): number;
  /** The server's clock, or a rejection. */
  askServerMs(): Promise<number>;
}
export interface ClockKeeper {
  /** How far the device is off now, and how sure that is. */
  offset(): ClockOffset;
  /** Looks five times and keeps the best; without an answer the last look stays. True when it heard the server. */
  compare(): Promise<boolean>;
  /** Looks at both clocks; true when they have come apart: compare before the next line is drawn. Called each second. */
  parted(): boolean;
}

export function clockKeeper(clocks: Clocks): ClockKeeper {
  let anchor: ClockAnchor | null = null;
  let parting: Parting = TOGETHER;
  const follow = (): void => {
    if (anchor !== null) parting = followParting(parting, anchor, clocks.wallMs(), clocks.steadyMs());
  };
  const look = async (): Promise<ClockSample> => {
    const [sentWallMs, sentSteadyMs] = [clocks.wallMs(), clocks.steadyMs()];
    const serverMs = await clocks.askServerMs();
    // The wall first: if the device stalls between the two readings, the trip is the longer for it and the error covers it.
    const [wallMs, steadyMs] = [clocks.wallMs(), clocks.steadyMs()];
    // A device that slept on the way shows it on its wall clock only.
    return { tripMs: Math.max(steadyMs - sentSteadyMs, wallMs - sentWallMs), serverMs, wallMs, steadyMs };
  };
  return {
    offset: () => {
      follow();
      return offsetAt(anchor, parting, clocks.wallMs(), clocks.steadyMs());
    },
    compare: async () => {
      const samples: ClockSample[] = [];
      for (let i = 0; i < SAMPLES; i++) {
        const sample = await look().catch(() => null);
        if (sample === null) break;
        samples.push(sample);
      }
      // A look from before the clock was set says nothing of now.
      const valid = samples.filter((s) => !clocksParted({ offsetMs: 0, errMs: 0, ...s }, clocks.wallMs(), clocks.steadyMs()));
      const best = estimateOffset(valid);
      if (best === null) return false;
      [anchor, parting] = [best, TOGETHER];
      return true;
    },
    parted: () => {
      follow();
      return anchor !== null && clocksParted(anchor, clocks.wallMs(), clocks.steadyMs());
    },
  };
}
