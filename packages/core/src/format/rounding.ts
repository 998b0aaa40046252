// Rounding against ourselves: limits, shares and confidence go down, p values go up.

/** Largest multiple of 10^-digits that is <= value. A value already on the grid stays (guarded against binary noise of 1e-9). */
export function roundDown(value: number, digits: number): number {
  const scale = 10 ** digits;
  return Math.floor(value * scale + 1e-9) / scale;
}

/** A share as whole per cent, rounded down: 0.6309 is "63 %". */
export const formatShareDown = (share: number): string => `${roundDown(share * 100, 0)} %`;
