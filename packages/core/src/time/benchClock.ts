// The bench clock: appended pieces (wallMs, clockMs, rate). Real time is the identity. Nothing else knows about rates.

export interface ClockSegment {
  wallMs: number;
  clockMs: number;
  rate: number;
}

export const MAX_RATE = 120;

/** Bench time at a wall time. Before the first piece the clock stands; no pieces at all: real time. Integer milliseconds. */
export function clockAt(segments: readonly ClockSegment[], wallMs: number): number {
  const first = segments[0];
  if (first === undefined) return Math.round(wallMs);
  const segment = segments.findLast((s) => s.wallMs <= wallMs);
  if (segment === undefined) return Math.round(first.clockMs);
  return Math.round(segment.clockMs + (wallMs - segment.wallMs) * segment.rate);
}

/** The rate in force at a wall time; 1 for the real clock, 0 before a bench clock's first piece. */
export function rateAt(segments: readonly ClockSegment[], wallMs: number): number {
  if (segments.length === 0) return 1;
  return segments.findLast((s) => s.wallMs <= wallMs)?.rate ?? 0;
}

/**
 * The piece that changes the rate from `wallMs` on; `skipMs` >= 0 sets the clock ahead, nothing sets it back. A wall clock that
 * stepped back is held at the last piece, so bench time never runs backwards. `rate` in [0, 120].
 */
export function nextSegment(segments: readonly ClockSegment[], wallMs: number, rate: number, skipMs = 0): ClockSegment {
  if (!(rate >= 0 && rate <= MAX_RATE)) throw new RangeError(`rate must be in [0, ${MAX_RATE}], got ${rate}`);
  if (!(skipMs >= 0)) throw new RangeError(`skipMs must be >= 0, got ${skipMs}`);
  const last = segments.at(-1);
  const at = last === undefined ? wallMs : Math.max(wallMs, last.wallMs);
  return { wallMs: at, clockMs: clockAt(segments, at) + skipMs, rate };
}
