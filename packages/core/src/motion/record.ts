// What is kept of a measured clip: a dozen numbers a frame, and what to beware of. Everything else follows from it.

import type { Apart } from "./cells.ts";
import type { ExposureStep } from "./light.ts";
import type { Pair } from "./pair.ts";
import type { PanStart, Span } from "./pan.ts";
import type { SoftPulse } from "./sharpness.ts";

export const METHOD = "keep-rolling motion";
/** Raised with every change that moves a number. */
export const METHOD_VERSION = 1;

/** One value a frame (pairs: a frame less), as measured, before any trimming. Shifts as shares of the picture's width. */
export interface ClipSeries {
  timesSec: number[];
  dxFrac: number[];
  dyFrac: number[];
  rollRad: number[];
  logScale: number[];
  wobbleSimilarityPx640: (number | null)[];
  wobbleHomographyPx640: (number | null)[];
  sharpness: number[];
  lightStops: number[];
  gainStops: (number | null)[];
  by: Pair["by"][];
}

/** What does not depend on where the clip is trimmed. */
export interface ClipFacts {
  /** Width of the frame as it was measured, px: the unit of edge widths before they are scaled to 640. */
  measuredWidth: number;
  measuredHeight: number;
  edgeSigmaPx640: number | null;
  clippedFrac: number;
  crushedFrac: number;
  atEdgeFrac: number;
  features: number;
  apart: Apart;
}

export interface ClipRecord {
  series: ClipSeries;
  facts: ClipFacts;
}

/** Frames `from` to before `to`, and the pairs between them. */
export const trimmed = (s: ClipSeries, from: number, to: number): ClipSeries => {
  const frames = <T>(v: readonly T[]): T[] => v.slice(from, to);
  const pairs = <T>(v: readonly T[]): T[] => v.slice(from, Math.max(from, to - 1));
  return {
    timesSec: frames(s.timesSec),
    dxFrac: pairs(s.dxFrac),
    dyFrac: pairs(s.dyFrac),
    rollRad: pairs(s.rollRad),
    logScale: pairs(s.logScale),
    wobbleSimilarityPx640: pairs(s.wobbleSimilarityPx640),
    wobbleHomographyPx640: pairs(s.wobbleHomographyPx640),
    sharpness: frames(s.sharpness),
    lightStops: frames(s.lightStops),
    gainStops: pairs(s.gainStops),
    by: pairs(s.by),
  };
};

export interface Rate {
  hz: number;
  /** Greatest departure of an interval from the median, as a share of it. */
  unevenFrac: number;
}

/** Departures from which a rate counts as variable. */
export const EVEN = 0.25;

/** See `flagsOf`. */
export const CLIP_FLAGS = [
  "too-few-frames",
  "short",
  "variable-rate",
  "low-texture",
  "not-followed",
  "parallax",
  "moving-subject",
  "beyond-search",
  "wobble-floor",
  "no-wobble",
  "panning",
  "jump",
  "exposure-steps",
  "clipped",
  "dark",
  "small-picture",
] as const;
export type ClipFlag = (typeof CLIP_FLAGS)[number];

export interface Measures {
  frames: number;
  fps: number;
  /** Null with too few frames to say. Shares of the picture's width. */
  jitterRmsFrac: number | null;
  jitterXFrac: number | null;
  jitterYFrac: number | null;
  rollRmsDeg: number | null;
  zoomRmsFrac: number | null;
  /** 0.1 to 1 Hz; null below 8 s. */
  driftRmsFrac: number | null;
  driftRollDeg: number | null;
  stepHz: number | null;
  swayRmsFrac: number | null;
  highFrequencyRmsFrac: number | null;
  wobbleSimilarityPx640: number | null;
  wobbleHomographyPx640: number | null;
  sharpnessArea: number | null;
  edgeSigmaPx640: number | null;
  dips: SoftPulse[];
  pans: Span[];
  pan: PanStart | null;
  exposureSteps: ExposureStep[];
  jumps: number[];
  lightStops: number;
  clippedFrac: number;
  flags: ClipFlag[];
}
