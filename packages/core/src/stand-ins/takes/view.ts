// Where a point of the picture lies in the scene, shared by the renderer and by the truth.

import type { Pose } from "./shake.ts";
import type { MadeTake } from "./take.ts";

/** scene = (a −b; b a) picture + (x, y), both in picture widths about their middles. */
export interface View {
  a: number;
  b: number;
  x: number;
  y: number;
}

/** A picture that moves right shows what lies further left: the view runs against the pose. */
export function intoScene(take: MadeTake, pose: Pose): View {
  const scale = Math.exp(-pose.zoom) / take.crop;
  const [c, s] = [Math.cos(-pose.roll), Math.sin(-pose.roll)];
  // The pose is counted in widths of the whole field.
  return { a: scale * c, b: scale * s, x: -pose.x, y: -pose.y };
}

/** Bending: points move out by this share of their squared distance (in widths²) from the middle. */
export function bentBy(take: MadeTake, sec: number): number {
  if (take.cornerWobblePx640 === 0) return 0;
  const corner = 0.25 + 0.25 * (take.height / take.width) ** 2;
  return (take.cornerWobblePx640 / 640 / corner ** 1.5) * Math.sin(2 * Math.PI * 5 * sec);
}

/** How far the subject's own texture has moved, in widths, where it covers (px, py); false elsewhere. */
export function subjectAt(take: MadeTake, sec: number, px: number, py: number): number | false {
  const way = 0.06 * Math.sin(2 * Math.PI * 0.45 * sec) + 0.02 * Math.sin(2 * Math.PI * 1.9 * sec + 1);
  const half = Math.sqrt((take.subjectFrac * (take.height / take.width)) / 1.6) / 2;
  return Math.abs(px - way) < half && Math.abs(py - 0.02) < 1.6 * half ? way : false;
}
