// A frame's brightness, and the pyramid of halves every step of the measurement reads.
// Pixel centres lie at whole numbers; a pixel X of one level is centred on 2X + 0.5 of the level below it.

/** Brightness 0 to 255 (a Y plane as it was coded, no range stretched), row by row. */
export interface Luma {
  width: number;
  height: number;
  data: Float32Array;
}

/** Level 0 is the frame itself; each further level halves both sides by a 2 × 2 mean, an odd last row or column left out. */
export type Pyramid = readonly Luma[];

export const LEVELS = 4;

export const emptyLuma = (width: number, height: number): Luma => ({ width, height, data: new Float32Array(width * height) });

/** Buffers for the pyramid of a frame of this size, filled by `fillPyramid`. */
export function emptyPyramid(width: number, height: number, luma = emptyLuma): Luma[] {
  const levels = [luma(width, height)];
  for (let l = 1; l < LEVELS; l++) levels.push(luma(Math.max(1, width >> l), Math.max(1, height >> l)));
  return levels;
}

/** Level 0 is given; the others are computed from it in place. */
export function fillPyramid(levels: Pyramid, half = halve): void {
  for (let l = 1; l < levels.length; l++) half(levels[l - 1] as Luma, levels[l] as Luma);
}

export function halve(from: Luma, to: Luma): void {
  const { data: a, width } = from;
  const { data: b } = to;
  let at = 0;
  for (let y = 0; y < to.height; y++) {
    let i = 2 * y * width;
    for (let x = 0; x < to.width; x++, i += 2)
      b[at++] = 0.25 * ((a[i] as number) + (a[i + 1] as number) + (a[i + width] as number) + (a[i + width + 1] as number));
  }
}
