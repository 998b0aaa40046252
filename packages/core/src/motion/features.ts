// Points worth following: in each cell of a grid the one whose surroundings differ in every direction.
// Shi and Tomasi (1994): the smaller eigenvalue of the structure tensor.

import type { Luma } from "./luma.ts";

const GRID_LONG = 16;
const GRID_SHORT = 9;
/** The tensor is summed over this many pixels a side. */
const BLOCK = 10;
/** Least eigenvalue of the mean tensor, grey² per pixel². */
export const LEAST_TEXTURE = 0.3;

export interface Features {
  count: number;
  /** Centres, in pixels of the level searched; between whole pixels, as a block of even size is. */
  x: Float64Array;
  y: Float64Array;
  /** Which cell of the grid each lies in, 0 to columns × rows − 1. */
  cell: Int32Array;
  columns: number;
  rows: number;
}

/** Room for the features of a frame of this size: more cells along its longer side. */
export function noFeatures(width: number, height: number): Features {
  const [columns, rows] = width >= height ? [GRID_LONG, GRID_SHORT] : [GRID_SHORT, GRID_LONG];
  const n = columns * rows;
  return { count: 0, x: new Float64Array(n), y: new Float64Array(n), cell: new Int32Array(n), columns, rows };
}

/** Finds features in frames of one size; buffers are kept between frames. */
export function featureFinder(width: number, height: number): (image: Luma) => Features {
  const found = noFeatures(width, height);
  const { columns, rows } = found;
  const sums = [0, 1, 2].map(() => new Float64Array(width * height)) as [Float64Array, Float64Array, Float64Array];
  return (image) => {
    blockTensor(image, sums);
    found.count = 0;
    for (let r = 0; r < rows; r++) for (let c = 0; c < columns; c++) bestOfCell(found, sums, width, height, c, r);
    return found;
  };
}

/** Sums of gx², gxgy, gy² over the block that ends at each pixel (rows y − 9 … y, columns x − 9 … x), as running sums. */
function blockTensor(image: Luma, [xx, xy, yy]: readonly [Float64Array, Float64Array, Float64Array]): void {
  const { width: w, height: h, data } = image;
  // Summed-area tables: one pass, and every block by four look-ups.
  for (let x = 0; x < w; x++) xx[x] = xy[x] = yy[x] = 0;
  for (let y = 1; y < h; y++) {
    const at = y * w;
    const edgeRow = y === h - 1;
    let sxx = 0;
    let sxy = 0;
    let syy = 0;
    xx[at] = xx[at - w] as number;
    xy[at] = xy[at - w] as number;
    yy[at] = yy[at - w] as number;
    for (let x = 1; x < w; x++) {
      const i = at + x;
      if (!edgeRow && x < w - 1) {
        const gx = ((data[i + 1] as number) - (data[i - 1] as number)) / 2;
        const gy = ((data[i + w] as number) - (data[i - w] as number)) / 2;
        sxx += gx * gx;
        sxy += gx * gy;
        syy += gy * gy;
      }
      xx[i] = (xx[i - w] as number) + sxx;
      xy[i] = (xy[i - w] as number) + sxy;
      yy[i] = (yy[i - w] as number) + syy;
    }
  }
}

function bestOfCell(
  found: Features,
  [xx, xy, yy]: readonly [Float64Array, Float64Array, Float64Array],
  w: number,
  h: number,
  c: number,
  r: number,
): void {
  const [x0, x1] = [Math.max(BLOCK, Math.floor((c * w) / found.columns)), Math.floor(((c + 1) * w) / found.columns)];
  const [y0, y1] = [Math.max(BLOCK, Math.floor((r * h) / found.rows)), Math.floor(((r + 1) * h) / found.rows)];
  let best = LEAST_TEXTURE;
  let [bx, by] = [-1, -1];
  for (let y = y0; y < y1; y++)
    for (let x = x0; x < x1; x++) {
      const i = y * w + x;
      const up = i - BLOCK * w;
      const sxx = (xx[i] as number) - (xx[up] as number) - (xx[i - BLOCK] as number) + (xx[up - BLOCK] as number);
      const syy = (yy[i] as number) - (yy[up] as number) - (yy[i - BLOCK] as number) + (yy[up - BLOCK] as number);
      // The smaller eigenvalue is never above the smaller diagonal: most pixels end here.
      if (sxx < best * 100 || syy < best * 100) continue;
      const sxy = (xy[i] as number) - (xy[up] as number) - (xy[i - BLOCK] as number) + (xy[up - BLOCK] as number);
      const half = (sxx + syy) / 2;
      const least = (half - Math.sqrt(((sxx - syy) / 2) ** 2 + sxy * sxy)) / (BLOCK * BLOCK);
      if (least > best) [best, bx, by] = [least, x, y];
    }
  if (bx < 0) return;
  // The block holds pixels bx − 9 … bx: its centre lies 4.5 before its end.
  found.x[found.count] = bx - (BLOCK - 1) / 2;
  found.y[found.count] = by - (BLOCK - 1) / 2;
  found.cell[found.count++] = r * found.columns + c;
}
