// What a perfect measurement of a made take would say, in the terms of the measurement: pairs of frames by least squares over a grid.

import type { Pose } from "./shake.ts";
import { AXES } from "./shake.ts";
import type { MadeTake } from "./take.ts";
import { poseOf } from "./take.ts";
import { bentBy, intoScene } from "./view.ts";

export interface TruePair {
  /** Shares of the width. */
  dxFrac: number;
  dyFrac: number;
  rollRad: number;
  scale: number;
  /** Root mean square of what the similarity leaves over the grid, px of 640. */
  wobblePx640: number;
}

const GRID_X = 17;
const GRID_Y = 10;
/** Pair i takes frame i to frame i + 1, far scenery only; the position of a row is its mean over the exposure. */
export function truePairs(take: MadeTake): TruePair[] {
  const poseAt = poseOf(take);
  return Array.from({ length: take.frames - 1 }, (_, i) => pairAt(take, poseAt, i));
}

function pairAt(take: MadeTake, poseAt: (sec: number) => Pose, frame: number): TruePair {
  const aspect = take.height / take.width;
  let [tx, ty, along, across, spread, size, n] = [0, 0, 0, 0, 0, 0, 0];
  for (let r = 0; r < GRID_Y; r++)
    for (let c = 0; c < GRID_X; c++) {
      const [x, y] = [0.47 * ((2 * c) / (GRID_X - 1) - 1), 0.46 * aspect * ((2 * r) / (GRID_Y - 1) - 1)];
      const scene = sceneOf(take, poseAt, frame, x, y);
      const [qx, qy] = pictureOf(take, poseAt, frame + 1, scene, x, y);
      const [ex, ey] = [qx - x, qy - y];
      n++;
      tx += ex;
      ty += ey;
      along += x * ex + y * ey;
      across += x * ey - y * ex;
      spread += x * x + y * y;
      size += ex * ex + ey * ey;
    }
  const [a, b] = [1 + along / spread, across / spread];
  const left = size - (tx * tx + ty * ty) / n - (along * along + across * across) / spread;
  return {
    dxFrac: tx / n,
    dyFrac: ty / n,
    rollRad: Math.atan2(b, a),
    scale: Math.hypot(a, b),
    wobblePx640: 640 * Math.sqrt(Math.max(0, left) / n),
  };
}

function rowMoment(take: MadeTake, frame: number, y: number): number {
  return frame / take.rateHz + (y / (take.height / take.width)) * take.readoutSec;
}

function meanPose(take: MadeTake, poseAt: (sec: number) => Pose, sec: number): Pose {
  const mean: Pose = { x: 0, y: 0, roll: 0, zoom: 0 };
  for (let m = 0; m < take.moments; m++) {
    const pose = poseAt(sec + ((m + 0.5) / take.moments - 0.5) * take.shutterSec);
    for (const axis of AXES) mean[axis] += pose[axis] / take.moments;
  }
  return mean;
}

function sceneOf(take: MadeTake, poseAt: (sec: number) => Pose, frame: number, x: number, y: number): [number, number] {
  const sec = rowMoment(take, frame, y);
  const v = intoScene(take, meanPose(take, poseAt, sec));
  const k = 1 + bentBy(take, sec) * (x * x + y * y);
  return [v.x + v.a * x * k - v.b * y * k, v.y + v.b * x * k + v.a * y * k];
}

/** Where a scene point is drawn in a frame: its row sets the moment, so it is found by repetition. */
function pictureOf(
  take: MadeTake,
  poseAt: (sec: number) => Pose,
  frame: number,
  [sx, sy]: readonly [number, number],
  x0: number,
  y0: number,
): [number, number] {
  let [x, y] = [x0, y0];
  for (let k = 0; k < 12; k++) {
    const sec = rowMoment(take, frame, y);
    const v = intoScene(take, meanPose(take, poseAt, sec));
    const [dx, dy] = [sx - v.x, sy - v.y];
    const size = v.a * v.a + v.b * v.b;
    const bend = 1 + bentBy(take, sec) * (x * x + y * y);
    x = (v.a * dx + v.b * dy) / size / bend;
    y = (v.a * dy - v.b * dx) / size / bend;
  }
  return [x, y];
}
