// The five places of a picture at which its sharpness is looked at.

export interface Place {
  name: string;
  u: number;
  v: number;
}
export const PLACES: readonly Place[] = [
  { name: "centre", u: 0.5, v: 0.5 },
  { name: "top left", u: 0.12, v: 0.12 },
  { name: "top right", u: 0.88, v: 0.12 },
  { name: "bottom left", u: 0.12, v: 0.88 },
  { name: "bottom right", u: 0.88, v: 0.88 },
];
/** Side of a square, in pixels of the original. */
export const SIDE_PX = 480;

const NEAR = 1e-4;
export const isSame = (a: { u: number; v: number }, b: { u: number; v: number }): boolean =>
  Math.abs(a.u - b.u) < NEAR && Math.abs(a.v - b.v) < NEAR;
/** Its name, or where it lies. */
export const placeName = (spot: { u: number; v: number }): string =>
  PLACES.find((p) => isSame(p, spot))?.name ?? `${Math.round(100 * spot.u)} % across, ${Math.round(100 * spot.v)} % down`;
