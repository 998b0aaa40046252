// A made take: everything about one clip, and the pose of its picture at any moment.

import { randomFrom } from "../../statistics/index.ts";
import type { Gait, Pose, Stabiliser, Waves } from "./shake.ts";
import { NO_HELP, stabilised, sumOf, walkerWaves } from "./shake.ts";

export interface MadeTake {
  seed: number;
  sceneSeed: number;
  width: number;
  height: number;
  rateHz: number;
  frames: number;
  hfovDeg: number;
  shutterSec: number;
  /** Moments drawn of each exposure: more make long blur smoother. */
  moments: number;
  /** From the first row's exposure to the last row's. */
  readoutSec: number;
  /** Width of the whole field over the picture's; 1.25 keeps 80 %. */
  crop: number;
  gait: Gait;
  stabiliser: Stabiliser;
  /** Footfalls that knock: when, and how hard (share of the width). The picture is softer by `softPx640` for the time of the knock. */
  bumps: readonly { atSec: number; size: number; softPx640: number }[];
  /** A pan to the right: widths a second, from when; a stabiliser holds it back for `holdSec` and then catches up. */
  pan: { atSec: number; speed: number; holdSec: number } | null;
  /** Bending towards the corners, px of 640 at the corner, at 5 Hz. */
  cornerWobblePx640: number;
  /** Share of the picture a subject covers that walks along. 0: none. */
  subjectFrac: number;
  /** How much more near things move than far ones, as a share. */
  parallax: number;
  /** Standard deviation of noise, grey levels, and what the picture's light is multiplied by. */
  noise: number;
  light: number;
  contrast: number;
  /** Softness all along, σ px of 640. */
  softPx640: number;
  /** The light changes by so many stops from a moment on. */
  exposure: readonly { atSec: number; stops: number }[];
}

export const PLAIN: Omit<MadeTake, "seed"> = {
  sceneSeed: 31,
  width: 640,
  height: 360,
  rateHz: 30,
  frames: 90,
  hfovDeg: 70,
  shutterSec: 1 / 60,
  moments: 5,
  readoutSec: 0.012,
  crop: 1,
  gait: { stepHz: 1.9, vigour: 1, drift: 1 },
  stabiliser: NO_HELP,
  bumps: [],
  pan: null,
  cornerWobblePx640: 0,
  subjectFrac: 0,
  parallax: 0,
  noise: 1.2,
  light: 1,
  contrast: 1,
  softPx640: 0,
  exposure: [],
};

/** Pose of the picture at `sec` from the clip's first frame. */
export type PoseAt = (sec: number) => Pose;

export function poseOf(take: MadeTake): PoseAt {
  const waves: Waves = stabilised(walkerWaves(take.gait, randomFrom(take.seed)), take.stabiliser);
  const signs = take.bumps.map((_, i) => (i % 2 === 0 ? 1 : -1));
  return (sec) => {
    const pose: Pose = { x: sumOf(waves.x, sec), y: sumOf(waves.y, sec), roll: sumOf(waves.roll, sec), zoom: sumOf(waves.zoom, sec) };
    for (let i = 0; i < take.bumps.length; i++) {
      const { atSec, size } = take.bumps[i] as { atSec: number; size: number };
      const knock = size * knockAt(sec - atSec);
      pose.y += knock;
      pose.x += 0.4 * (signs[i] as number) * knock;
      pose.roll += 0.3 * knock;
    }
    pose.x += take.pan === null ? 0 : panned(take.pan, sec);
    return pose;
  };
}

/** A knock rises in 40 ms and rings out at 7 Hz within a quarter of a second. */
const knockAt = (sec: number): number => (sec < 0 ? 0 : Math.exp(-sec / 0.09) * Math.sin(2 * Math.PI * 7 * sec) * Math.min(1, sec / 0.04));

const CATCH_UP_SEC = 0.35;
/** The hand's straight way; the picture rests for `holdSec`, then makes up for it within 0.35 s by a smooth hump of speed. */
export function panned({ atSec, speed, holdSec }: { atSec: number; speed: number; holdSec: number }, sec: number): number {
  const t = sec - atSec - holdSec;
  if (t <= 0) return 0;
  const owed = speed * holdSec;
  const u = Math.min(1, t / CATCH_UP_SEC);
  return speed * t + owed * (u - Math.sin(2 * Math.PI * u) / (2 * Math.PI));
}
