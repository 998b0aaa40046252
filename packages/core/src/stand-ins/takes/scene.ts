// A made towpath: water, far bank, boathouse, boats and grass, with texture at every size. Larger than any picture of it.

import type { Luma } from "../../motion/index.ts";
import { randomFrom } from "../../statistics/index.ts";

/** The scene is this many widths of the picture across, and as high as it is wide in shares of 9/16. */
export const SCENE_WIDTHS = 2.2;

/** Brightness of a scene for pictures `pictureWidth` px wide. The same seed draws the same towpath at any size. */
export function towpath(seed: number, pictureWidth: number, contrast = 1): Luma {
  const width = Math.round(SCENE_WIDTHS * pictureWidth);
  const height = Math.round((width * 10) / 16);
  const image: Luma = { width, height, data: new Float32Array(width * height) };
  ground(image, seed);
  furnish(image, seed, pictureWidth);
  for (let i = 0; i < image.data.length; i++) image.data[i] = 120 + contrast * ((image.data[i] as number) - 120);
  return image;
}

const OCTAVES = [0, 1, 2, 3];
/** Sky, far bank, water and path by height, each with value noise of four octaves. */
function ground(image: Luma, seed: number): void {
  const { width, height, data } = image;
  const tables = OCTAVES.map((k) => noiseTable(seed + 17 * k));
  const scales = OCTAVES.map((k) => (14 * 2 ** k) / height);
  // Water is drawn out sideways; across a picture each way of lying on the tables comes again in every row.
  const across = new Map([1, 4].map((stretch) => [stretch, scales.map((scale) => cellsOf(width, scale, stretch))] as const));
  const row = new Float64Array(width);
  for (let y = 0; y < height; y++) {
    const v = y / height;
    const [level, depth, stretch] = v < 0.36 ? [178, 10, 1] : v < 0.46 ? [92, 34, 1] : v < 0.7 ? [124, 22, 4] : [104, 36, 1];
    row.fill(0);
    for (const k of OCTAVES)
      addNoise(row, tables[k] as Float32Array, (across.get(stretch) as Cells[])[k] as Cells, y * (scales[k] as number), 1.5 ** k);
    for (let x = 0; x < width; x++) data[y * width + x] = level + depth * (row[x] as number);
  }
}

const TABLE = 256;
function noiseTable(seed: number): Float32Array {
  const random = randomFrom(seed >>> 0);
  return Float32Array.from({ length: TABLE * TABLE }, () => 2 * random.next() - 1);
}

/** For every pixel of a row: between which columns of the table it lies, and how far. The table repeats; places are never negative. */
interface Cells {
  from: Int32Array;
  to: Int32Array;
  share: Float64Array;
}
function cellsOf(width: number, scale: number, stretch: number): Cells {
  const cells = { from: new Int32Array(width), to: new Int32Array(width), share: new Float64Array(width) };
  for (let i = 0; i < width; i++) {
    const x = (i * scale) / stretch;
    const x0 = Math.floor(x);
    cells.from[i] = x0 % TABLE;
    cells.to[i] = (x0 + 1) % TABLE;
    cells.share[i] = smooth(x - x0);
  }
  return cells;
}

/** Value noise along one row of the picture, at height `y` of the table. */
function addNoise(row: Float64Array, table: Float32Array, { from, to, share }: Cells, y: number, divisor: number): void {
  const y0 = Math.floor(y);
  const fy = smooth(y - y0);
  const [upper, lower] = [(y0 % TABLE) * TABLE, ((y0 + 1) % TABLE) * TABLE];
  for (let x = 0; x < row.length; x++) {
    const [a, b, fx] = [from[x] as number, to[x] as number, share[x] as number];
    const top = (table[upper + a] as number) * (1 - fx) + (table[upper + b] as number) * fx;
    const bottom = (table[lower + a] as number) * (1 - fx) + (table[lower + b] as number) * fx;
    row[x] = (row[x] as number) + (top * (1 - fy) + bottom * fy) / divisor;
  }
}

const smooth = (t: number): number => t * t * (3 - 2 * t);

/** Boathouses with doors and planks, moored boats, posts, tufts and stones. */
function furnish(image: Luma, seed: number, unit: number): void {
  const random = randomFrom((seed ^ 0x5bd1e995) >>> 0);
  const { width, height } = image;
  const box = (x: number, y: number, w: number, h: number, grey: number): void => fillRect(image, x, y, w, h, grey);
  for (let i = 0; i < 7; i++) {
    const [w, x] = [unit * (0.16 + 0.12 * random.next()), width * random.next()];
    const [h, base] = [w * 0.62, height * (0.44 + 0.03 * random.next())];
    const grey = 60 + 90 * random.next();
    box(x, base - h, w, h, grey);
    for (let k = 0; k < 9; k++) box(x + (k * w) / 9, base - h, unit * 0.002, h, grey - 18);
    box(x + 0.3 * w, base - 0.55 * h, 0.24 * w, 0.55 * h, 32);
    for (let k = 0; k < 3; k++) box(x + (0.08 + 0.3 * k) * w, base - 0.85 * h, 0.1 * w, 0.14 * h, 205);
  }
  for (let i = 0; i < 16; i++) {
    const [x, y, w] = [width * random.next(), height * (0.5 + 0.17 * random.next()), unit * (0.1 + 0.15 * random.next())];
    box(x, y, w, w * 0.07, 40 + 170 * random.next());
    for (let k = 0; k < 5; k++) box(x + ((k + 0.5) * w) / 5, y - w * 0.05, unit * 0.003, w * 0.14, 30);
  }
  for (let i = 0; i < 420; i++) {
    const [x, y] = [width * random.next(), height * (0.02 + 0.96 * random.next())];
    const size = unit * (0.004 + 0.016 * random.next());
    box(x, y, size * (0.4 + random.next()), size, 30 + 200 * random.next());
  }
}

function fillRect({ width, height, data }: Luma, x: number, y: number, w: number, h: number, grey: number): void {
  // Edges in part: whole-pixel edges would make a scene that no lens could draw.
  const [x0, x1, y0, y1] = [Math.max(0, x), Math.min(width, x + w), Math.max(0, y), Math.min(height, y + h)];
  for (let j = Math.floor(y0); j < y1; j++) {
    const part = Math.min(j + 1, y1) - Math.max(j, y0);
    for (let i = Math.floor(x0); i < x1; i++) {
      const share = part * (Math.min(i + 1, x1) - Math.max(i, x0));
      data[j * width + i] = (data[j * width + i] as number) * (1 - share) + grey * share;
    }
  }
}
