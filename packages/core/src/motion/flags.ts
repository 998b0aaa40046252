// What to beware of in a measured clip. A flag never hides a number; it says how far to trust it.

import type { ClipFacts, ClipFlag, ClipSeries, Measures, Rate } from "./record.ts";
import { CLIP_FLAGS, EVEN } from "./record.ts";

const SHORT_SEC = 3;
const LITTLE_TEXTURE = 40;
const SOME_PAIRS = 0.1;
const PARALLAX = 0.12;
const SUBJECT = 0.2;
const AT_EDGE = 0.01;
/** Bending that compression alone can show, px of 640. */
const WOBBLE_FLOOR_PX = 0.1;
const CLIPPED = 0.05;
const DARK_STOPS = -5.5;
const SMALL_PX = 480;

export function flagsOf(m: Omit<Measures, "flags">, facts: ClipFacts, s: ClipSeries, rate: Rate): ClipFlag[] {
  const pairs = Math.max(1, s.by.length);
  const share = (way: ClipSeries["by"][number]): number => s.by.filter((b) => b === way).length / pairs;
  const lost = share("none") + share("coarse");
  const lengthSec = m.frames / m.fps;
  const says: Record<ClipFlag, boolean> = {
    "too-few-frames": m.jitterRmsFrac === null && lost <= 2 * SOME_PAIRS,
    short: lengthSec < SHORT_SEC - 0.5 / m.fps,
    "variable-rate": rate.unevenFrac >= EVEN,
    "low-texture": facts.features < LITTLE_TEXTURE || share("dense") + lost > SOME_PAIRS,
    "not-followed": lost > SOME_PAIRS / 2,
    parallax: facts.apart.parallaxFrac > PARALLAX,
    "moving-subject": facts.apart.disagreeFrac > SUBJECT && facts.apart.parallaxFrac <= PARALLAX,
    "beyond-search": facts.atEdgeFrac > AT_EDGE,
    "wobble-floor": m.wobbleHomographyPx640 !== null && m.wobbleHomographyPx640 < WOBBLE_FLOOR_PX,
    "no-wobble": m.wobbleHomographyPx640 === null,
    panning: m.pans.length > 0,
    jump: m.jumps.length > 0,
    "exposure-steps": m.exposureSteps.length > 0,
    clipped: facts.clippedFrac > CLIPPED,
    dark: m.lightStops < DARK_STOPS,
    "small-picture": facts.measuredWidth < SMALL_PX,
  };
  return CLIP_FLAGS.filter((f) => says[f]);
}
