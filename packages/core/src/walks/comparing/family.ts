// How sure one pair must be so that all pairs of a family hold together with 90 %.

/** Two-sided normal level of the studentised-range point at 90 %, by number of setups (infinite degrees of freedom; Tukey 1949). */
const LEVELS = [0.1, 0.0402, 0.022, 0.0139, 0.00963, 0.00708, 0.00544, 0.0043, 0.0035];
export const MOST_SETUPS = LEVELS.length + 1;

/** Two-sided level for each pair among `setups`, 2 to 10. */
export function familyLevel(setups: number): number {
  const level = LEVELS[setups - 2];
  if (level === undefined) throw new RangeError(`setups must be a whole number from 2 to ${MOST_SETUPS}, got ${setups}`);
  return level;
}
