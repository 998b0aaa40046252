// How far a device's wall clock is from the server's, by the shortest of a few round trips (the idea of Cristian, 1989,
// "Probabilistic clock synchronization"): offset = server - midpoint, error at most half the round trip.

export interface ClockSample {
  sentMs: number;
  serverMs: number;
  receivedMs: number;
}
export interface ClockOffset {
  offsetMs: number;
  errMs: number;
}

/** Null when no sample is usable (none, or the device clock stepped back in every one). Integer milliseconds, error rounded up. */
export function estimateOffset(samples: readonly ClockSample[]): ClockOffset | null {
  const usable = samples.filter((s) => s.receivedMs >= s.sentMs);
  const best = usable.reduce<ClockSample | null>((b, s) => (b === null || s.receivedMs - s.sentMs < b.receivedMs - b.sentMs ? s : b), null);
  if (best === null) return null;
  const tripMs = best.receivedMs - best.sentMs;
  return { offsetMs: Math.round(best.serverMs - (best.sentMs + tripMs / 2)), errMs: Math.ceil(tripMs / 2) };
}

/** Wall time counts sleep, the monotonic clock may not: when they part by more than 250 ms, ask the server again. */
export const CLOCKS_PART_MS = 250;
export function clocksParted(wallDeltaMs: number, monotonicDeltaMs: number): boolean {
  return Math.abs(wallDeltaMs - monotonicDeltaMs) > CLOCKS_PART_MS;
}
