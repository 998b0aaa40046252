// Where the ticks of a minutes ruler lie, and how far it reaches.

const STEPS_MIN = [1, 2, 5, 10, 15, 20, 30, 60, 120, 240, 480, 960];

/** Ticks of a minutes ruler: labelled ones at most `most`, and halves between. */
export function minuteTicks(maxMs: number, most: number): { labelled: number[]; between: number[] } {
  const step = (STEPS_MIN.find((m) => maxMs / (m * 60_000) <= most) ?? 1920) * 60_000;
  const labelled = Array.from({ length: Math.floor(maxMs / step + 1e-9) + 1 }, (_, i) => i * step);
  const between = labelled.map((ms) => ms + step / 2).filter((ms) => ms < maxMs);
  return { labelled, between };
}

/** The right end of a shared ruler: a little beyond the longest thing on it. */
export const rulerEnd = (...lengthsMs: readonly number[]): number => Math.max(10 * 60_000, 1.06 * Math.max(0, ...lengthsMs));
