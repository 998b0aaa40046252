// The made take that stands in for a walk with a setup: what is on decides what is left of the shake, and at which price.

import type { MoveKind, WalkSetup } from "../../walks/index.ts";
import { WALKING } from "../../walks/index.ts";
import type { MadeTake } from "./take.ts";
import { PLAIN } from "./take.ts";

interface Help {
  floor: number;
  rollFloor: number;
  crop: number;
  bending: number;
}
const NONE: Help = { floor: 1, rollFloor: 1, crop: 1, bending: 0 };

/** Invented strengths; each help takes its share of what the others left. */
function helpOf(s: WalkSetup): Help {
  const parts: Partial<Help>[] = [
    s.lens ? { floor: 0.45 } : {},
    s.sensor === "off" ? {} : { floor: 0.4, rollFloor: 0.35 },
    s.electronic === "standard" ? { floor: 0.3, rollFloor: 0.25, crop: 1.15, bending: 0.9 } : {},
    s.electronic === "strong" ? { floor: 0.15, rollFloor: 0.15, crop: 1.3, bending: 1.6 } : {},
    s.horizon ? { rollFloor: 0.2, crop: 1.06 } : {},
    s.support.startsWith("gimbal") ? { floor: 0.12, rollFloor: 0.1 } : {},
    s.support === "counterweight rig" ? { floor: 0.25, rollFloor: 0.6 } : {},
    s.support === "two-body bar" ? { floor: 0.7 } : {},
    s.support === "tripod" ? { floor: 0.02, rollFloor: 0.02 } : {},
    s.afterwards === "none" ? {} : { floor: 0.3, rollFloor: 0.3, crop: 1.12, bending: 0.6 },
  ];
  return parts.reduce<Help>(
    (h, p) => ({
      floor: h.floor * (p.floor ?? 1),
      rollFloor: h.rollFloor * (p.rollFloor ?? 1),
      crop: h.crop * (p.crop ?? 1),
      bending: h.bending + (p.bending ?? 0),
    }),
    NONE,
  );
}

/** `seconds` of the move with the setup on. The seed makes one take unlike the next. */
export function madeOf(setup: WalkSetup, move: MoveKind, seconds: number, seed: number): MadeTake {
  const help = helpOf(setup);
  const walking = WALKING.includes(move);
  const panning = move === "slow pan" || move === "tripod pan";
  const vigour = (walking ? (move === "run" ? 1.8 : move === "careful walk" ? 0.6 : 1) : 0.25) * (0.93 + 0.07 * (seed % 3));
  return {
    ...PLAIN,
    seed,
    sceneSeed: 64,
    rateHz: 25,
    frames: Math.round(25 * seconds),
    gait: { stepHz: move === "run" ? 2.7 : 1.86, vigour, drift: panning ? 0.2 : 0.8 },
    stabiliser:
      help.floor === 1 && help.rollFloor === 1 ? PLAIN.stabiliser : { cornerHz: 0.8, floor: help.floor, rollFloor: help.rollFloor },
    crop: help.crop,
    cornerWobblePx640: help.bending,
    pan: panning ? { atSec: 0.3 * seconds, speed: 0.16, holdSec: help.bending > 0 ? 0.18 : 0 } : null,
    bumps: walking ? [{ atSec: 0.4 * seconds, size: 0.006, softPx640: 1.8 }] : [],
  };
}
