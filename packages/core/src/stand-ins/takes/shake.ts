// How a walker shakes a camera, and what a stabiliser leaves of it: sums of waves, so that the pose at any moment is exact.

import type { Random } from "../../statistics/index.ts";

/** Pose of the picture against the scene: shift as a share of the picture's width, right and down; roll in rad; zoom as a logarithm. */
export interface Pose {
  x: number;
  y: number;
  roll: number;
  zoom: number;
}
export type Axis = keyof Pose;
export const AXES: readonly Axis[] = ["x", "y", "roll", "zoom"];

interface Wave {
  hz: number;
  size: number;
  phase: number;
}
export type Waves = Readonly<Record<Axis, readonly Wave[]>>;

/** Sizes in shares of the width and rad, for a wide lens without any help. */
export interface Gait {
  stepHz: number;
  /** 1 is an ordinary walk. */
  vigour: number;
  /** Slow wandering, 1 is ordinary. */
  drift: number;
}

/** Step up and down with its overtones, sway sideways at half of it, roll with the sway, tremor, and wandering. */
export function walkerWaves(gait: Gait, random: Random): Waves {
  const phase = (): number => 2 * Math.PI * random.next();
  const about = (v: number): number => v * (0.9 + 0.2 * random.next());
  const step = gait.stepHz;
  const k = gait.vigour;
  const wave = (hz: number, size: number): Wave => ({ hz, size: about(size), phase: phase() });
  const tremor = (size: number): Wave[] => [4.3, 5.9, 7.7, 9.1].map((hz) => wave(about(hz), size / hz));
  const wandering = (size: number): Wave[] => [0.08, 0.17, 0.31].map((hz) => wave(about(hz), (size * gait.drift * 0.1) / hz));
  return {
    x: [wave(step / 2, 0.0075 * k), wave(step, 0.003 * k), wave(1.5 * step, 0.0012 * k), ...tremor(0.004 * k), ...wandering(0.012)],
    y: [wave(step, 0.0085 * k), wave(2 * step, 0.0028 * k), wave(3 * step, 0.0009 * k), ...tremor(0.004 * k), ...wandering(0.008)],
    roll: [wave(step / 2, 0.0055 * k), wave(step, 0.002 * k), ...tremor(0.002 * k), ...wandering(0.004)],
    zoom: [wave(step, 0.0015 * k), wave(step / 2, 0.001 * k), ...wandering(0.004)],
  };
}

/** What is left of a wave: `floor` of the fast ones, all of those far slower than `cornerHz`. */
export interface Stabiliser {
  cornerHz: number;
  floor: number;
  /** Left of roll, which some kinds cannot help. */
  rollFloor: number;
}
export const NO_HELP: Stabiliser = { cornerHz: 1e9, floor: 1, rollFloor: 1 };

export function stabilised(waves: Waves, { cornerHz, floor, rollFloor }: Stabiliser): Waves {
  const left = (hz: number, least: number): number => least + (1 - least) / (1 + (hz / cornerHz) ** 2);
  const through = (axis: Axis, least: number): readonly Wave[] => waves[axis].map((w) => ({ ...w, size: w.size * left(w.hz, least) }));
  return { x: through("x", floor), y: through("y", floor), roll: through("roll", rollFloor), zoom: through("zoom", floor) };
}

export const sumOf = (waves: readonly Wave[], sec: number): number => {
  let sum = 0;
  for (const { hz, size, phase } of waves) sum += size * Math.sin(2 * Math.PI * hz * sec + phase);
  return sum;
};
