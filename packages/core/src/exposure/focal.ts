// Focal lengths as they would be on a picture of 36 × 24 mm, and the rules of thumb that start from them.

const DIAGONAL_MM = Math.hypot(36, 24);

export interface Sensor {
  widthMm: number;
  heightMm: number;
}
/** By the diagonal, as for stills; by the width, as for 16:9 video. */
export const cropByDiagonal = ({ widthMm, heightMm }: Sensor): number => DIAGONAL_MM / Math.hypot(widthMm, heightMm);
export const cropByWidth = ({ widthMm }: Sensor): number => 36 / widthMm;
/** Stops by which the same f-number gathers less light in all. */
export const apertureStopsOf = (crop: number): number => 2 * Math.log2(crop);

export const REFERENCES = ["1/equivalent", "1/actual", "1/twice-equivalent", "1/twice-actual", "one-pixel", "off"] as const;
/** What stops gained are counted from: a rule of thumb, one pixel of blur on this sensor, or these hands with it off. */
export type Reference = (typeof REFERENCES)[number];

export interface Lens {
  focalMm: number;
  /** Null: the sensor is not known. */
  equivalentMm: number | null;
}
/** log2 of seconds; null where what it needs is not known. "off" and "one-pixel" are not rules of the lens alone. */
export function ruleOfThumb(reference: Reference, { focalMm, equivalentMm }: Lens): number | null {
  switch (reference) {
    case "1/actual":
      return -Math.log2(focalMm);
    case "1/twice-actual":
      return -Math.log2(2 * focalMm);
    case "1/equivalent":
      return equivalentMm === null ? null : -Math.log2(equivalentMm);
    case "1/twice-equivalent":
      return equivalentMm === null ? null : -Math.log2(2 * equivalentMm);
    case "one-pixel":
    case "off":
      return null;
  }
}
/** A hand's turning as these rules presume it: 1/equivalent focal is a blur of about 1/1500 of the diagonal. Common practice, no source. */
const PRESUMED_BLUR = 1 / 1500;
/** The time in which the same turning blurs one pixel. @param pixelsWide of the picture */
export function onePixelRule({ widthMm, heightMm }: Sensor, focalMm: number, pixelsWide: number): number {
  const equivalent = focalMm * cropByDiagonal({ widthMm, heightMm });
  const pixelOfDiagonal = widthMm / pixelsWide / Math.hypot(widthMm, heightMm);
  return -Math.log2(equivalent) + Math.log2(pixelOfDiagonal / PRESUMED_BLUR);
}
