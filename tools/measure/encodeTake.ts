// Made takes as files, through an encoder as a camera has one.

import { execFileSync } from "node:child_process";
import type { MadeTake } from "@keep-rolling/core/stand-ins/takes";
import { rendererOf } from "@keep-rolling/core/stand-ins/takes";

/** The kinds of clip the measurement is accepted on. */
export const KINDS: Readonly<Record<string, Partial<MadeTake>>> = {
  none: {},
  lens: { stabiliser: { cornerHz: 1.2, floor: 0.25, rollFloor: 0.9 } },
  electronic: { crop: 1.25, stabiliser: { cornerHz: 0.7, floor: 0.08, rollFloor: 0.1 }, cornerWobblePx640: 1.5 },
  "low texture": { contrast: 0.2, softPx640: 1.5 },
  "low light": { light: 0.05, noise: 4 },
  subject: { subjectFrac: 0.28 },
  bumps: { bumps: [0.8, 1.4, 2.1].map((atSec) => ({ atSec, size: 0.012, softPx640: 3 })) },
  soft: { softPx640: 2.5 },
};

const H264 = ["-c:v", "libx264", "-crf", "20", "-pix_fmt", "yuv420p"];

/** Renders the take and hands it to ffmpeg; answers the file. Grey levels are handed on as they are. */
export function encodeTake(file: string, take: MadeTake, args: readonly string[] = H264): string {
  const renderer = rendererOf(take);
  const image = { width: take.width, height: take.height, data: new Float32Array(take.width * take.height) };
  const raw = Buffer.alloc(take.width * take.height * take.frames);
  for (let n = 0; n < take.frames; n++) {
    renderer.draw(n, image);
    raw.set(Uint8Array.from(image.data), n * image.data.length);
  }
  const size = `${take.width}x${take.height}`;
  const input = ["-f", "rawvideo", "-pix_fmt", "gray", "-s", size, "-r", String(take.rateHz), "-i", "pipe:0"];
  const filter = ["-vf", "scale=in_range=tv:out_range=tv"];
  execFileSync("ffmpeg", ["-v", "error", "-y", ...input, ...filter, ...args, file], { input: raw, maxBuffer: 1e9 });
  return file;
}
