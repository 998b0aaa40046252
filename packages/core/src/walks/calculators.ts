// Small sums a walking test needs beside it. Common practice in the trade, no source.

/**
 * Full equivalent focal length, mm: focal × sensor × read-out × electronic × delivery. Each factor is the width of the wider field over the
 * narrower; 1 for none. RangeError for a factor that is not above 0.
 */
export function equivalentFocalMm(
  focalMm: number,
  factors: { sensor: number; readout: number; electronic: number; delivery: number },
): number {
  for (const [name, value] of Object.entries({ focalMm, ...factors }))
    if (!(value > 0)) throw new RangeError(`${name} must be above 0, got ${value}`);
  return focalMm * factors.sensor * factors.readout * factors.electronic * factors.delivery;
}

/** Width of a full frame, mm. */
export const FULL_FRAME_MM = 36;

/** Horizontal field of view, degrees, of a rectilinear lens. */
export const hfovDegOf = (equivalentMm: number): number => (2 * Math.atan(FULL_FRAME_MM / 2 / equivalentMm) * 180) / Math.PI;

/** A portrait picture cut from a landscape one keeps 9/16 of its height as width: the factor of delivery. */
export const PORTRAIT_FROM_LANDSCAPE = (16 / 9) ** 2;

/** Share of the width left after a crop by a factor, and after another on top. */
export const fieldLeft = (...factors: readonly number[]): number => 1 / factors.reduce((a, b) => a * b, 1);

/** Hours of rendering for so many seconds of clips, at minutes a minute. */
export const renderingHours = (clipSec: number, minutesAMinute: number): number => (clipSec / 3600) * minutesAMinute;

/** Decimal gigabytes of copies: seconds at Mbit/s, so many copies. */
export const storageGb = (clipSec: number, mbps: number, copies: number): number => (clipSec * mbps * copies) / 8 / 1000;
