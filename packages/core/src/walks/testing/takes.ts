// Plans, takes and clips for tests.

import type { WalkClip, WalkPlan, WalkSetup, WalkTake } from "../index.ts";
import { ALL_OFF, LOCKED } from "../index.ts";

export const setup = (id: string, more: Partial<WalkSetup> = {}): WalkSetup => ({ id, name: id, ...ALL_OFF, ...more });
/** A control and two setups, one walk, three takes each; nothing forgotten. */
export const PLAN: WalkPlan = {
  routeM: 30,
  ground: "",
  walker: "AB",
  lensName: "Grebe 31",
  focalMm: 31,
  equivalentMm: 47,
  locked: Object.fromEntries(LOCKED.map((l) => [l, "set"])) as WalkPlan["locked"],
  rateHz: 25,
  shutterSec: 0.02,
  moves: [{ id: "m", kind: "walk" }],
  setups: [setup("off"), setup("sensor", { sensor: "on" }), setup("strong", { electronic: "strong" })],
  controlId: "off",
  takesWanted: 3,
  seed: 7,
};

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
  badFactId: null,
  badAtMs: null,
  badLate: false,
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
  factIds: [],
  part: null,
  without: [],
  ...more,
});
