// Lamps on the mains brighten and dim at twice its frequency. How much the light of a whole exposure varies with the moment it begins.

export const MAINS_HZ = [50, 60] as const;
export type MainsHz = (typeof MAINS_HZ)[number];

/**
 * Stops between the brightest and the darkest picture at one exposure time, for a lamp that goes down to nothing (the worst there is): its light is
 * 1 + cos, whose mean over a time t is 1 +- |sin(pi f t) / (pi f t)| (the Fourier transform of a rectangle; textbook).
 * @param seconds the exposure, above zero
 */
export function flickerStops(seconds: number, mains: MainsHz): number {
  if (!(seconds > 0)) throw new RangeError(`seconds must be above zero, got ${seconds}`);
  const turn = Math.PI * 2 * mains * seconds;
  const share = Math.abs(Math.sin(turn) / turn);
  return share >= 1 - 1e-9 ? Number.POSITIVE_INFINITY : Math.log2((1 + share) / (1 - share));
}
