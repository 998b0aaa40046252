// Shots as they were taken, and the visits they make.

import type { Visit } from "../statistics/index.ts";
import type { Setting } from "./plan.ts";

export const GRADES = ["kept", "lost", "bad", "taken"] as const;
/** Of a shot as seen at once: "bad" says that the try itself went wrong, and is not counted; "taken", that its picture is judged later. */
export type Grade = (typeof GRADES)[number];

export interface ShotBody {
  setting: Setting;
  /** log2 of the exact exposure time in seconds, by its place on the dial. */
  x: number;
  grade: Grade;
}
export interface HoldShot extends ShotBody {
  id: string;
  atMs: number;
}

const SAME = 1e-6;
/** Shots taken in one go: the same setting and time, nothing else between, at most `most`. A bad try is not counted and ends nothing. */
export function visitsOf(shots: readonly ShotBody[], setting: Setting, most = Number.POSITIVE_INFINITY): Visit[] {
  const visits: Visit[] = [];
  let last: ShotBody | null = null;
  for (const shot of shots) {
    if (shot.grade !== "kept" && shot.grade !== "lost") continue;
    const again: boolean = last !== null && last.setting === shot.setting && Math.abs(last.x - shot.x) < SAME;
    last = shot;
    if (shot.setting !== setting) continue;
    const visit = again ? visits.at(-1) : undefined;
    if (visit === undefined || visit.shots >= most) visits.push({ x: shot.x, kept: shot.grade === "kept" ? 1 : 0, shots: 1 });
    else {
      visit.shots++;
      visit.kept += shot.grade === "kept" ? 1 : 0;
    }
  }
  return visits;
}
