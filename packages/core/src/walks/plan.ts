// What a walking test is going to compare: one route, one body and lens, moves, setups, and which setup is the control.

export const MOVES = [
  "still",
  "slow pan",
  "walk",
  "walk and talk",
  "backwards",
  "careful walk",
  "fast walk",
  "run",
  "bumpy vehicle",
  "bicycle",
  "tripod pan",
  "swing",
  "reframing",
] as const;
export type MoveKind = (typeof MOVES)[number];
/** Moves in which a picture without help must be the shakiest. */
export const WALKING: readonly MoveKind[] = ["walk", "walk and talk", "backwards", "careful walk", "fast walk", "run"];

export const SENSOR_MODES = ["off", "on", "pan aid", "lock"] as const;
export const ELECTRONIC_MODES = ["off", "standard", "strong"] as const;
export const SUPPORTS = [
  "two hands",
  "one hand",
  "wide grip",
  "counterweight rig",
  "gimbal, follow",
  "gimbal, lock",
  "tripod",
  "two-body bar",
] as const;
export const AFTERWARDS = ["none", "from motion data", "from the picture"] as const;

export interface WalkSetup {
  id: string;
  name: string;
  lens: boolean;
  sensor: (typeof SENSOR_MODES)[number];
  electronic: (typeof ELECTRONIC_MODES)[number];
  horizon: boolean;
  support: (typeof SUPPORTS)[number];
  afterwards: (typeof AFTERWARDS)[number];
  /** Crop and settings of the correction, in the tester's words. */
  note: string;
  /** Where a setup has a shutter or an in-camera sharpening of its own; absent: as locked. Both varied tell which of them softens footfalls. */
  shutterSec?: number | undefined;
  sharpening?: "off" | "on" | undefined;
}
export interface WalkMove {
  id: string;
  kind: MoveKind;
}

export const LOCKED = [
  "mode",
  "shutter",
  "aperture",
  "ISO",
  "ND",
  "white balance",
  "focus distance",
  "sharpening",
  "noise reduction",
] as const;
export type Locked = (typeof LOCKED)[number];
export const AUTOMATIC = "automatic";

export interface WalkPlan {
  routeM: number | null;
  ground: string;
  /** Initials of who walks. */
  walker: string;
  lensName: string;
  focalMm: number | null;
  /** Full equivalent focal length before electronic crop; null: not known. */
  equivalentMm: number | null;
  /** What each setting is; empty: not said. */
  locked: Readonly<Record<Locked, string>>;
  /** Frames a second and shutter time, where known: for the rule of half the frame time. */
  rateHz: number | null;
  shutterSec: number | null;
  moves: readonly WalkMove[];
  setups: readonly WalkSetup[];
  controlId: string | null;
  takesWanted: number;
  /** Of the order. */
  seed: number;
}

/** Words of what is on, in the order light passes it; "all off" for none. Hands are not named. */
export function setupWords(s: Omit<WalkSetup, "id" | "name">): string {
  const support = s.support === "two hands" ? "" : s.support;
  const parts = [
    s.lens ? "lens" : "",
    s.sensor === "off" ? "" : s.sensor === "on" ? "sensor" : `sensor, ${s.sensor}`,
    s.electronic === "off" ? "" : `electronic, ${s.electronic}`,
    s.horizon ? "horizon levelling" : "",
    support,
    s.afterwards === "none" ? "" : `corrected ${s.afterwards}`,
    s.shutterSec === undefined ? "" : shutterWords(s.shutterSec),
    s.sharpening === undefined ? "" : `sharpening ${s.sharpening}`,
  ].filter((p) => p !== "");
  return parts.length === 0 ? "all off" : parts.join(" + ");
}

/** As photographers write it: 1/50, or 0.5 s. */
export const shutterWords = (sec: number): string => (sec < 0.3 ? `1/${Math.round(1 / sec)}` : `${Number(sec.toPrecision(2))} s`);

export const nothingOn = (s: WalkSetup): boolean =>
  !s.lens &&
  s.sensor === "off" &&
  s.electronic === "off" &&
  !s.horizon &&
  s.afterwards === "none" &&
  ["two hands", "one hand"].includes(s.support);
