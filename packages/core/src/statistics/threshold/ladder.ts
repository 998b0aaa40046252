// Shots of one setting in one session: visits, what they add up to, and why no threshold can be read from some of them.

/** Shots taken in one go at one exposure; the same exposure visited twice is two visits. */
export interface Visit {
  /** log2 of the exact exposure time in seconds: slower is larger, one stop is one. */
  x: number;
  kept: number;
  shots: number;
}
export type Ladder = readonly Visit[];

export const HOLD_REFUSALS = [
  "no-shots",
  "one-rung",
  "too-few-shots",
  "none-kept",
  "rising",
  "ladder-starts-too-slow",
  "outside-the-ladder",
] as const;
export type HoldRefusal = (typeof HOLD_REFUSALS)[number];

const FEWEST_SHOTS = 8;
/** One-sided 5 %. */
const RISING_Z = 1.645;

/** Throws where a visit is not one. */
export function requireLadder(ladder: Ladder): void {
  for (const { x, kept, shots } of ladder) {
    if (!Number.isFinite(x)) throw new RangeError(`x must be the log2 of an exposure time in seconds, got ${x}`);
    if (!(Number.isInteger(kept) && Number.isInteger(shots) && kept >= 0 && shots >= kept))
      throw new RangeError(`kept of shots must be counts with kept <= shots, got ${kept} of ${shots}`);
  }
}

export const countOf = (ladder: Ladder): { kept: number; shots: number } => ({
  kept: ladder.reduce((s, v) => s + v.kept, 0),
  shots: ladder.reduce((s, v) => s + v.shots, 0),
});
export const fastestOf = (ladder: Ladder): number => ladder.reduce((m, v) => Math.min(m, v.x), Number.POSITIVE_INFINITY);
export const slowestOf = (ladder: Ladder): number => ladder.reduce((m, v) => Math.max(m, v.x), Number.NEGATIVE_INFINITY);
/** Exposures closer than this are one rung. */
export const SAME_RUNG = 1e-6;

/** Why nothing, or no claim, can be read; null when it can. What a fit alone can tell (it starts too slow) is not among them. */
export function refusalOf(ladder: Ladder): HoldRefusal | null {
  const { kept, shots } = countOf(ladder);
  if (shots === 0) return "no-shots";
  if (slowestOf(ladder) - fastestOf(ladder) < SAME_RUNG) return "one-rung";
  if (shots < FEWEST_SHOTS) return "too-few-shots";
  if (kept === 0) return "none-kept";
  return isRising(ladder) ? "rising" : null;
}

/** Kept more often at slower times, beyond chance: Cochran (1954) and Armitage (1955), the test for a trend in shares. */
export function isRising(ladder: Ladder): boolean {
  const { kept, shots } = countOf(ladder);
  const share = kept / shots;
  const centre = ladder.reduce((s, v) => s + v.shots * v.x, 0) / shots;
  const u = ladder.reduce((s, v) => s + (v.x - centre) * (v.kept - v.shots * share), 0);
  const variance = share * (1 - share) * ladder.reduce((s, v) => s + v.shots * (v.x - centre) ** 2, 0);
  return variance > 0 && u / Math.sqrt(variance) > RISING_Z;
}

/** The ladder without its lone success: the only keeper at the slowest exposure with a keeper. Null: there is no lone one. */
export function withoutLoneSuccess(ladder: Ladder): { ladder: Visit[]; x: number } | null {
  const x = slowestOf(ladder.filter((v) => v.kept > 0));
  const there = ladder.filter((v) => Math.abs(v.x - x) < SAME_RUNG);
  if (there.reduce((s, v) => s + v.kept, 0) !== 1) return null;
  const lone = there.find((v) => v.kept === 1);
  return {
    x,
    ladder: ladder.flatMap((v) => (v !== lone ? [v] : v.shots === 1 ? [] : [{ x: v.x, kept: 0, shots: v.shots - 1 }])),
  };
}
