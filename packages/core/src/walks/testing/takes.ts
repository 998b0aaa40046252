// Takes and clips for tests.

import type { WalkClip, WalkTake } from "../index.ts";

export const takeOf = (id: string, more: Partial<WalkTake> = {}): WalkTake => ({
  id,
  setupId: "off",
  moveId: "m",
  unitId: null,
  timed: true,
  of: null,
  startMs: 0,
  endMs: 1,
  bad: null,
  n: 1,
  clips: [],
  ...more,
});
export const clipOf = (sha256: string, more: Partial<WalkClip> = {}): WalkClip => ({
  sha256,
  name: `${sha256}.MP4`,
  bytes: 1,
  startMs: null,
  durationMs: 12_000,
  unitId: null,
  takeId: null,
  by: null,
  inFrame: 0,
  outFrame: null,
  key: sha256,
  part: null,
  ...more,
});
