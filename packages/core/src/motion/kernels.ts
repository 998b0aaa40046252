// The costly loops of the measurement behind one interface: plain, as every step's file says, or in vectors of WebAssembly. The plain ones are
// the definition; the others must give the same numbers to a thousandth of a pixel.

import { blurred } from "./blur.ts";
import { meanDifference } from "./coarse.ts";
import type { Features } from "./features.ts";
import { featureFinder } from "./features.ts";
import type { Luma, Pyramid } from "./luma.ts";
import { emptyLuma, halve } from "./luma.ts";
import type { Levels, Vectors } from "./lucasKanade.ts";
import { track } from "./lucasKanade.ts";
import type { PlaneShape, Reduce } from "./reduce.ts";
import { planeReducer } from "./reduce.ts";
import { frameSharpness } from "./sharpness.ts";

export interface MotionKernels {
  /** A picture these loops can work on. */
  luma: (width: number, height: number) => Luma;
  halve: (from: Luma, to: Luma) => void;
  /** See `track`. */
  track: (from: Pyramid, to: Pyramid, features: Features, dx: number, dy: number, levels: Levels, out: Vectors) => void;
  meanDifference: typeof meanDifference;
  finder: (width: number, height: number) => (image: Luma) => Features;
  sharpness: (image: Luma) => number;
  blurred: (image: Luma, sigma: number) => Luma;
  reducer: (shape: PlaneShape) => Reduce;
  /** Grey levels 0 to 255 as bytes, rounded. */
  bytes: (image: Luma, to: Uint8Array) => void;
}

export const PLAIN_KERNELS: MotionKernels = {
  luma: emptyLuma,
  halve,
  track,
  meanDifference,
  finder: featureFinder,
  sharpness: frameSharpness,
  blurred,
  reducer: planeReducer,
  bytes: ({ data }, to) => {
    for (let i = 0; i < data.length; i++) to[i] = Math.min(255, Math.max(0, (data[i] as number) + 0.5));
  },
};
