// Frames of a made take: each row at its own moment, the exposure as the mean of several moments, then what softens and what disturbs.

import type { Luma } from "../../motion/index.ts";
import { blurred } from "../../motion/index.ts";
import { randomFrom } from "../../statistics/index.ts";
import { towpath } from "./scene.ts";
import type { Pose } from "./shake.ts";
import type { MadeTake } from "./take.ts";
import { poseOf } from "./take.ts";
import { bentBy, intoScene, subjectAt } from "./view.ts";

export interface Renderer {
  /** Draws frame `n` into `to` (of the take's size), grey 16 to 235. */
  draw: (n: number, to: Luma) => void;
}

/** One renderer a take: the scene is made once. */
export function rendererOf(take: MadeTake): Renderer {
  const scene = towpath(take.sceneSeed, take.width, take.contrast);
  const subject = take.subjectFrac > 0 ? towpath(take.sceneSeed + 5, take.width, 1) : null;
  const poseAt = poseOf(take);
  return {
    draw: (n, to) => {
      to.data.fill(0);
      for (let m = 0; m < take.moments; m++) expose(take, scene, subject, poseAt, n, (m + 0.5) / take.moments - 0.5, to);
      finish(take, n, to);
    },
  };
}

function expose(take: MadeTake, scene: Luma, subject: Luma | null, poseAt: (sec: number) => Pose, n: number, part: number, to: Luma): void {
  const { width: w, height: h } = take;
  const [cx, cy] = [(w - 1) / 2, (h - 1) / 2];
  const out = to.data;
  for (let y = 0; y < h; y++) {
    const sec = n / take.rateHz + (y / (h - 1) - 0.5) * take.readoutSec + part * take.shutterSec;
    const pose = poseAt(sec);
    const py = (y - cy) / w;
    // Near things fill the lower half when there is depth at all.
    const depth = take.parallax > 0 && py > 0.06 ? 1 + take.parallax : 1;
    const view = intoScene(take, { ...pose, x: pose.x * depth, y: pose.y * depth });
    const bend = bentBy(take, sec);
    for (let x = 0, i = y * w; x < w; x++, i++) {
      const px = (x - cx) / w;
      const k = 1 + bend * (px * px + py * py);
      const sx = view.x + view.a * px * k - view.b * py * k;
      const sy = view.y + view.b * px * k + view.a * py * k;
      const moved = subject === null ? false : subjectAt(take, sec, px, py);
      out[i] =
        (out[i] as number) +
        (moved === false ? sampled(scene, sx * w, sy * w) : sampled(subject as Luma, (px - moved) * w, py * w)) / take.moments;
    }
  }
}

/** Bilinear about the scene's middle, its border repeated. */
function sampled({ width: w, height: h, data }: Luma, x: number, y: number): number {
  const qx = Math.min(w - 1.001, Math.max(0, x + (w - 1) / 2));
  const qy = Math.min(h - 1.001, Math.max(0, y + (h - 1) / 2));
  const x0 = qx | 0;
  const y0 = qy | 0;
  const fx = qx - x0;
  const fy = qy - y0;
  const i = y0 * w + x0;
  const top = (data[i] as number) * (1 - fx) + (data[i + 1] as number) * fx;
  return top * (1 - fy) + ((data[i + w] as number) * (1 - fx) + (data[i + w + 1] as number) * fx) * fy;
}

function finish(take: MadeTake, n: number, to: Luma): void {
  const sec = n / take.rateHz;
  const soft = softnessAt(take, sec) * (take.width / 640);
  if (soft > 0.05) to.data.set(blurred(to, soft).data);
  const gain = take.light * 2 ** take.exposure.reduce((stops, e) => stops + (sec >= e.atSec ? e.stops : 0), 0);
  const grain = noiseTable();
  const start = Math.imul(take.seed * 7919 + n, 0x9e3779b1) >>> 0;
  // Gain in linear light, through the display's power law.
  const lift = gain ** (1 / 2.4);
  for (let i = 0; i < to.data.length; i++) {
    const v = 16 + ((to.data[i] as number) - 16) * lift + take.noise * (grain[(start + i * 7) % grain.length] as number);
    to.data[i] = Math.round(Math.min(235, Math.max(16, v)));
  }
}

let table: Float32Array | null = null;
/** A long table of normal deviates, of a prime length so that rows never meet the same ones. */
function noiseTable(): Float32Array {
  if (table !== null) return table;
  const random = randomFrom(977);
  table = Float32Array.from({ length: 131_071 }, () => random.normal());
  return table;
}

const KNOCK_SOFT_SEC = 0.1;
export function softnessAt(take: MadeTake, sec: number): number {
  const knock = take.bumps.reduce((sum, b) => sum + (sec >= b.atSec && sec < b.atSec + KNOCK_SOFT_SEC ? b.softPx640 ** 2 : 0), 0);
  return Math.sqrt(take.softPx640 ** 2 + knock);
}
