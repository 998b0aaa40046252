// Packed paths for tests.

import type { ClipRecord } from "@keep-rolling/core/motion";
import { packRecord } from "@keep-rolling/core/motion";
import { randomFrom } from "@keep-rolling/core/statistics";

const FPS = 25;
/** A walk from `fromSec` on: steps none like the next, knocks that soften single frames; `rest` of the shake is left, the picture softer by `gain`, not followed in `lost`. */
export function madePath({ seed = 1, fromSec = 0, sec = 10, rest = 1, gain = 1, lost = null as [number, number] | null }): ArrayBuffer {
  const frames = Math.round(sec * FPS);
  const random = randomFrom(seed);
  const steps = Array.from({ length: 60 }, () => 0.2 + 1.6 * random.next());
  const knocks = Array.from({ length: 12 }, () => 12 * random.next());
  const at = (i: number): number => fromSec + i / FPS;
  const height = (t: number): number => 0.01 * (steps[Math.floor(1.9 * t)] ?? 1) * Math.sin(2 * Math.PI * 1.9 * t);
  const knocked = (t: number): number => knocks.reduce((sum, k) => sum + Math.exp(-(((t - k) / 0.06) ** 2)), 0);
  const pairs = <T>(of: (t: number, before: number) => T): T[] => Array.from({ length: frames - 1 }, (_, i) => of(at(i + 1), at(i)));
  const each = (of: (t: number) => number): number[] => Array.from({ length: frames }, (_, i) => of(at(i)));
  const moved = pairs((t, before) => rest * (height(t) - height(before)));
  const record: ClipRecord = {
    series: {
      timesSec: Array.from({ length: frames }, (_, i) => i / FPS),
      dxFrac: pairs(() => 0),
      dyFrac: moved,
      rollRad: moved.map((d) => d / 3),
      logScale: pairs(() => 0),
      wobbleSimilarityPx640: pairs(() => 0.1),
      wobbleHomographyPx640: pairs(() => 0.1),
      sharpness: each((t) => gain * (1 - 0.4 * Math.min(1, knocked(t)))),
      lightStops: each((t) => -2 + 0.1 * Math.sin(0.9 * seed * t) + 0.1 * knocked(t)),
      gainStops: pairs(() => 0),
      by: pairs((t) => (lost !== null && t > lost[0] && t < lost[1] ? "none" : "points")),
    },
    facts: {
      measuredWidth: 640,
      measuredHeight: 360,
      edgeSigmaPx640: 0.8,
      clippedFrac: 0,
      crushedFrac: 0,
      atEdgeFrac: 0,
      features: 100,
      apart: { disagreeFrac: 0, parallaxFrac: 0 },
    },
  };
  return new Uint8Array(packRecord(record)).buffer;
}
