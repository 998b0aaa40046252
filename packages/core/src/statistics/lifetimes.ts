// Runtimes with censoring, as every estimator here takes them. Times are seconds (any positive unit works; results are in the same one).

export interface Lifetimes {
  /** Positive. */
  time: readonly number[];
  /** 1: the event; 0: right-censored, at least this long. */
  event: readonly (0 | 1)[];
}

/** What makes runs unusable for any law of log times; null: nothing. */
export type Unusable = "no-runs" | "time-not-positive";
export function unusable({ time }: Lifetimes): Unusable | null {
  return time.length === 0 ? "no-runs" : time.every((t) => t > 0 && Number.isFinite(t)) ? null : "time-not-positive";
}

/** `RangeError` for lengths that differ and times that are not positive. */
export function requireLifetimes({ time, event }: Lifetimes): void {
  if (time.length !== event.length) throw new RangeError(`time and event must be equally long, got ${time.length} and ${event.length}`);
  const bad = time.find((t) => !(t > 0 && Number.isFinite(t)));
  if (bad !== undefined) throw new RangeError(`time must be positive and finite, got ${bad}`);
}
