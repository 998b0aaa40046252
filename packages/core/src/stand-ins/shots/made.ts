// Made pictures of a shutter-speed test: a made towpath, blurred by made hands as long as the shutter was open, with Exif as several invented cameras write it.
// For the demo, rehearsals and tests, with known truth; they say nothing about any real hands or camera.

import { nearestPlace } from "../../exposure/index.ts";
import type { HoldPlan, Sharpness, ShotBody } from "../../holds/index.ts";
import type { Luma } from "../../motion/index.ts";
import { randomFrom } from "../../statistics/index.ts";
import { towpath } from "../takes/scene.ts";
import type { ExifBlock, ExifValue } from "./exif.ts";
import { TAG } from "./exif.ts";
import type { MadeHands } from "./hands.ts";
import { madeTries } from "./hands.ts";

export interface MadeCamera {
  name: string;
  /** Of a file: its counter follows. */
  prefix: string;
  littleEndian: boolean;
  /** How the exposure time is written: as on the dial, as it was reckoned, or only in APEX. */
  time: "label" | "exact" | "apex";
}
export const MADE_CAMERAS: readonly MadeCamera[] = [
  { name: "Tern 4", prefix: "TRN_", littleEndian: true, time: "label" },
  { name: "Plover X", prefix: "PLV", littleEndian: false, time: "exact" },
  { name: "Avocet", prefix: "A00", littleEndian: true, time: "apex" },
];

export interface MadePicture {
  file: string;
  shot: ShotBody;
  /** Stops by which its blur is beyond what is kept at half size; below zero: kept. */
  margin: number;
  /** What an honest judge says. */
  truth: Sharpness;
  /** As it left the camera, or a part of it; four bytes a pixel. */
  draw: (part?: Area) => Drawn;
  exif: ExifBlock;
}

/** Of a picture, in its pixels. */
export interface Area {
  left: number;
  top: number;
  width: number;
  height: number;
}
interface Drawn {
  width: number;
  height: number;
  rgba: Uint8ClampedArray;
}
const WIDTH = 1200;
const HEIGHT = 800;
export const MADE_AREA: Area = { left: 0, top: 0, width: WIDTH, height: HEIGHT };
/** Blur that is just kept, in pixels. */
const LIMIT_PX = 2.2;
export const truthOf = (margin: number): Sharpness => (margin < -1 ? "sharp" : margin < 0 ? "usable" : margin < 1.2 ? "soft" : "lost");

/** Every try of the plan in the order of its card, as one camera keeps it. @param begunMs as the camera's clock says, in its own zone */
export function madePictures(
  plan: Pick<HoldPlan, "spans" | "stepStops" | "shotsEach" | "order" | "seed" | "focalMm" | "metered">,
  hands: MadeHands,
  { camera, begunMs }: { camera: MadeCamera; begunMs: number },
): MadePicture[] {
  const scene = withBoards(towpath(hands.seed, WIDTH));
  return madeTries(plan, hands).map(({ shot, margin }, i): MadePicture => {
    const file = `${camera.prefix}${String(1001 + i)}.JPG`;
    const iso = isoAt(shot, plan.metered);
    const seed = (hands.seed * 1009 + i) >>> 0;
    return {
      file,
      shot,
      margin,
      truth: truthOf(margin),
      draw: (part = MADE_AREA) => drawn(scene, part, { blurPx: Math.min(60, LIMIT_PX * 2 ** margin), noise: noiseAt(iso), seed }),
      exif: exifOf(camera, shot, { focalMm: plan.focalMm, iso, atMs: begunMs + 9000 * i }),
    };
  });
}

/** A board with fine things on it at the centre and towards each corner: something to look at, wherever it is looked. */
function withBoards(scene: Luma): Luma {
  const [left, top] = [(scene.width - WIDTH) / 2, (scene.height - HEIGHT) / 2];
  for (const [u, v] of [
    [0.5, 0.5],
    [0.12, 0.12],
    [0.88, 0.12],
    [0.12, 0.88],
    [0.88, 0.88],
  ] as const)
    board(scene, Math.round(left + u * WIDTH), Math.round(top + v * HEIGHT));
  return scene;
}
const BOARD = 56;
/** Spokes that meet in the middle, between bars that narrow from eight pixels to two. */
function board({ data, width }: Luma, cx: number, cy: number): void {
  for (let y = -BOARD; y <= BOARD; y++)
    for (let x = -BOARD; x <= BOARD; x++) {
      const r = Math.hypot(x, y);
      const bar = [8, 6, 4, 3, 2][Math.floor(((y + BOARD) * 5) / (2 * BOARD + 1))] ?? 2;
      const dark = r < 34 ? Math.floor((Math.atan2(y, x) / Math.PI + 1) * 16) % 2 === 0 : Math.floor((x + BOARD) / bar) % 2 === 0;
      data[(cy + y) * width + cx + x] = dark ? 38 : 216;
    }
}

const isoAt = ({ x }: ShotBody, metered: HoldPlan["metered"]): number => {
  const [iso, at] = metered === null ? [800, -6] : [metered.iso, metered.x];
  return Math.round(Math.min(12_800, Math.max(100, iso * 2 ** (at - x))));
};
/** Grey levels: shot noise grows with the root of the sensitivity. */
const noiseAt = (iso: number): number => 1.2 * Math.sqrt(iso / 400);

const PATH_STEPS = 12;
/** Its light summed over a bent path of that length, with noise. */
function drawn(scene: Luma, part: Area, { blurPx, noise, seed }: { blurPx: number; noise: number; seed: number }): Drawn {
  const random = randomFrom(seed);
  const [angle, bend] = [2 * Math.PI * random.next(), 0.6 * random.normal()];
  const [left, top] = [(scene.width - WIDTH) / 2 + part.left, (scene.height - HEIGHT) / 2 + part.top];
  const sum = new Float32Array(part.width * part.height);
  for (let k = 0; k < PATH_STEPS; k++) {
    const t = k / (PATH_STEPS - 1) - 0.5;
    const turn = angle + bend * t;
    add(sum, part, scene, left + blurPx * t * Math.cos(turn), top + blurPx * t * Math.sin(turn));
  }
  const rgba = new Uint8ClampedArray(4 * sum.length);
  for (let i = 0; i < sum.length; i++) {
    const grey = (sum[i] as number) / PATH_STEPS + noise * random.normal();
    rgba[4 * i] = 0.97 * grey;
    rgba[4 * i + 1] = grey;
    rgba[4 * i + 2] = 0.94 * grey;
    rgba[4 * i + 3] = 255;
  }
  return { width: part.width, height: part.height, rgba };
}
/** Between pixels, straight between the four around. */
function add(sum: Float32Array, part: Area, { data, width }: Luma, left: number, top: number): void {
  const [x0, y0] = [Math.floor(left), Math.floor(top)];
  const [fx, fy] = [left - x0, top - y0];
  for (let y = 0, i = 0; y < part.height; y++) {
    let at = (y0 + y) * width + x0;
    for (let x = 0; x < part.width; x++, at++, i++) {
      const up = (data[at] as number) * (1 - fx) + (data[at + 1] as number) * fx;
      const down = (data[at + width] as number) * (1 - fx) + (data[at + width + 1] as number) * fx;
      sum[i] = (sum[i] as number) + up * (1 - fy) + down * fy;
    }
  }
}

function exifOf({ name, littleEndian, time }: MadeCamera, { x }: ShotBody, of: { focalMm: number; iso: number; atMs: number }): ExifBlock {
  const at = new Date(of.atMs).toISOString();
  return {
    littleEndian,
    main: { [TAG.model]: name, [TAG.orientation]: { short: 1 } },
    taken: {
      ...timeTags(x, time),
      [TAG.iso]: { short: of.iso },
      [TAG.focal]: [Math.round(10 * of.focalMm), 10],
      [TAG.takenAt]: `${at.slice(0, 10).replaceAll("-", ":")} ${at.slice(11, 19)}`,
      [TAG.subSec]: at.slice(20, 23),
    },
  };
}
/** Rounded as dials print it; to the microsecond; or as its logarithm alone. */
function timeTags(x: number, how: MadeCamera["time"]): Record<number, ExifValue> {
  if (how === "apex") return { [TAG.shutterSpeed]: [Math.round(-1000 * x), 1000] };
  const place = 2 ** nearestPlace(x, "third");
  if (how === "exact") return { [TAG.exposureTime]: [Math.round(1e6 * place), 1_000_000] };
  return { [TAG.exposureTime]: place < 0.3 ? [10, Math.round(10 / place)] : [Math.round(10 * place), 10] };
}
