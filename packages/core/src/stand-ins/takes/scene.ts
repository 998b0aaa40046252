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

/** Sky, far bank, water and path by height, each with value noise of four octaves. */
function ground(image: Luma, seed: number): void {
  const { width, height, data } = image;
  const tables = [0, 1, 2, 3].map((k) => noiseTable(seed + 17 * k));
  for (let y = 0; y < height; y++) {
    const v = y / height;
    const [level, depth, stretch] = v < 0.36 ? [178, 10, 1] : v < 0.46 ? [92, 34, 1] : v < 0.7 ? [124, 22, 4] : [104, 36, 1];
    for (let x = 0; x < width; x++) {
      let sum = 0;
      for (const [k, table] of tables.entries()) {
        const scale = (14 * 2 ** k) / height;
        sum += valueNoise(table, (x * scale) / stretch, y * scale) / 1.5 ** k;
      }
      data[y * width + x] = level + depth * sum;
    }
  }
}

const TABLE = 256;
function noiseTable(seed: number): Float32Array {
  const random = randomFrom(seed >>> 0);
  return Float32Array.from({ length: TABLE * TABLE }, () => 2 * random.next() - 1);
}

function valueNoise(table: Float32Array, x: number, y: number): number {
  const x0 = Math.floor(x);
  const y0 = Math.floor(y);
  const [fx, fy] = [smooth(x - x0), smooth(y - y0)];
  const top = entry(table, x0, y0) * (1 - fx) + entry(table, x0 + 1, y0) * fx;
  return top * (1 - fy) + (entry(table, x0, y0 + 1) * (1 - fx) + entry(table, x0 + 1, y0 + 1) * fx) * fy;
}

const smooth = (t: number): number => t * t * (3 - 2 * t);
/** The table repeats; places are never negative. */
const entry = (table: Float32Array, i: number, j: number): number => table[(j % TABLE) * TABLE + (i % TABLE)] as number;

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
