// How far a device's wall clock is from the server's, by the shortest of a few round trips (the idea of Cristian, 1989,
// "Probabilistic clock synchronization"): offset = server - midpoint, error at most half the round trip. Between two such looks the
// stated error grows with what a clock may drift, and by all that wall and monotonic clock have come apart since.

/** One look. `wallMs`, `steadyMs`: the device's two clocks when the answer came. */
export interface ClockSample {
  /** Length of the round trip, by whichever of the two clocks says longer. */
  tripMs: number;
  serverMs: number;
  wallMs: number;
  steadyMs: number;
}
/** The best look so far: what a reading is reckoned from. */
export interface ClockAnchor {
  offsetMs: number;
  errMs: number;
  wallMs: number;
  steadyMs: number;
}
export interface ClockOffset {
  /** Server minus device, integer milliseconds. */
  offsetMs: number;
  /** The true offset lies within this; rounded up. */
  errMs: number;
}

/** A clock that was never compared may be anything: a thousand days. */
export const NEVER_COMPARED_ERR_MS = 86_400_000_000;
/** How far a quartz clock may run off, in parts per million. Common practice, no source; the watch crystals of phones stay well below. */
const DRIFT_PPM = 200;
/** Reading two clocks one after the other, each rounded. */
const READING_MS = 2;

/** The look with the shortest trip; null when there is none. */
export function estimateOffset(samples: readonly ClockSample[]): ClockAnchor | null {
  const usable = samples.filter((s) => s.tripMs >= 0);
  const best = usable.reduce<ClockSample | null>((b, s) => (b === null || s.tripMs < b.tripMs ? s : b), null);
  if (best === null) return null;
  const offsetMs = Math.round(best.serverMs - (best.wallMs - best.tripMs / 2));
  return { offsetMs, errMs: Math.ceil(best.tripMs / 2), wallMs: best.wallMs, steadyMs: best.steadyMs };
}

/** How far wall and monotonic clock have come apart since the anchor, followed from look to look. */
export interface Parting {
  lastMs: number;
  /** Steps seen one by one: a clock set back and a sleep must not hide each other in a sum. */
  stepsAbsMs: number;
  stepsMs: number;
}
export const TOGETHER: Parting = { lastMs: 0, stepsAbsMs: 0, stepsMs: 0 };
/** Up to this two looks differ by rounding and slow trimming, not by a step; a step this small may hide, so the error allows for it. */
const STEP_MS = 5;

const partedMs = (anchor: ClockAnchor, wallMs: number, steadyMs: number): number => wallMs - anchor.wallMs - (steadyMs - anchor.steadyMs);

export function followParting(parting: Parting, anchor: ClockAnchor, wallMs: number, steadyMs: number): Parting {
  const lastMs = partedMs(anchor, wallMs, steadyMs);
  const step = lastMs - parting.lastMs;
  if (Math.abs(step) <= STEP_MS) return { ...parting, lastMs };
  return { lastMs, stepsAbsMs: parting.stepsAbsMs + Math.abs(step), stepsMs: parting.stepsMs + step };
}

/**
 * Offset and honest error at a moment of the device; without an anchor the device's own time stands, its error unknown. Holds for
 * delays, drift, sleep and a wall clock that was set, as long as a look fell between sleep and setting: a clock set back while it
 * sleeps shows on neither clock.
 */
export function offsetAt(anchor: ClockAnchor | null, parting: Parting, wallMs: number, steadyMs: number): ClockOffset {
  if (anchor === null) return { offsetMs: 0, errMs: NEVER_COMPARED_ERR_MS };
  const { lastMs, stepsAbsMs, stepsMs } = followParting(parting, anchor, wallMs, steadyMs);
  const apartMs = stepsAbsMs + Math.abs(lastMs - stepsMs);
  const agedMs = Math.max(Math.abs(wallMs - anchor.wallMs), Math.abs(steadyMs - anchor.steadyMs));
  const errMs = anchor.errMs + Math.ceil(apartMs + (agedMs * DRIFT_PPM) / 1e6) + READING_MS + STEP_MS;
  return { offsetMs: anchor.offsetMs, errMs: Math.min(errMs, NEVER_COMPARED_ERR_MS) };
}

/** Wall time counts sleep, the monotonic clock may not: when they part by more than 250 ms, ask the server again. */
const CLOCKS_PART_MS = 250;
export function clocksParted(anchor: ClockAnchor, wallMs: number, steadyMs: number): boolean {
  return Math.abs(partedMs(anchor, wallMs, steadyMs)) > CLOCKS_PART_MS;
}
