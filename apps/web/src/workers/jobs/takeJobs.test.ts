// Jobs that read packed paths: parts of clips, corrected copies, two bodies.

import type { ClipRecord } from "@keep-rolling/core/motion";
import { packRecord } from "@keep-rolling/core/motion";
import { ENVELOPE_HZ } from "@keep-rolling/core/sound";
import { randomFrom } from "@keep-rolling/core/statistics";
import { describe, expect, it } from "vitest";
import { run as matchCopies } from "./matchCopies.ts";
import { run as readTakes } from "./readTakes.ts";
import { run as syncTakes } from "./syncTakes.ts";

const FPS = 25;
/** A walk from `fromSec` on: steps none like the next, knocks that soften single frames; `rest` of the shake is left, the picture softer by `gain`. */
function pathOf({ seed = 1, fromSec = 0, sec = 10, rest = 1, gain = 1, holes = false }): ArrayBuffer {
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
      by: pairs((t) => (holes && t > 5 && t < 6 ? "none" : "points")),
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

describe("takes of one clip", () => {
  const of = (part: { fromMs: number; toMs: number | null } | null, trim: { inFrame: number; outFrame: number | null } | null = null) =>
    readTakes([{ key: "k", pack: pathOf({}), trim, part }])[0];
  it("count the frames nearest to where their part begins and ends", () => {
    expect(of({ fromMs: 2000, toMs: 6000 })).toMatchObject({ key: "k", inFrame: 50, outFrame: 150, frames: 250 });
    expect(of({ fromMs: 2019, toMs: null })).toMatchObject({ inFrame: 50, outFrame: 250 });
    expect(of({ fromMs: 2021, toMs: null })).toMatchObject({ inFrame: 51 });
    expect(of({ fromMs: 2000, toMs: 6000 })?.measures.frames).toBe(100);
  });
  it("stay within the clip, whatever they ask for", () => {
    expect(of({ fromMs: 50_000, toMs: 60_000 })).toMatchObject({ inFrame: 248, outFrame: 250 });
    expect(of({ fromMs: 9990, toMs: 9991 })).toMatchObject({ inFrame: 248, outFrame: 250 });
    expect(of(null, { inFrame: 10, outFrame: 9999 })).toMatchObject({ inFrame: 10, outFrame: 250 });
  });
  it("are left out when the path is none", () => {
    expect(readTakes([{ key: "k", pack: new ArrayBuffer(10), trim: null, part: null }])).toEqual([]);
  });
});

describe("corrected copies", () => {
  it("find their parent among the takes, and nobody's find none", () => {
    const parents = [1, 2, 3].map((seed) => ({ id: `p${seed}`, pack: pathOf({ seed }) }));
    const copies = [
      { sha256: "copy", pack: pathOf({ seed: 2, rest: 0.3, gain: 0.7 }) },
      { sha256: "other", pack: pathOf({ seed: 9 }) },
      { sha256: "broken", pack: new ArrayBuffer(3) },
    ];
    const found = matchCopies({ copies, parents });
    expect(found.map(({ sha256, parent }) => [sha256, parent])).toEqual([["copy", "p2"]]);
    expect(found[0]?.correlation).toBeGreaterThan(0.9);
  });
});

describe("two bodies of one walk", () => {
  const loud = (fromSec: number): Uint8Array =>
    Uint8Array.from({ length: 10 * ENVELOPE_HZ }, (_, i) => 90 + Math.round(40 * Math.sin(3 * (fromSec + i / ENVELOPE_HZ) ** 1.5)));
  it("are laid on each other by path, by sound where the path has holes, and not at all without either", () => {
    const [a, b] = [pathOf({ sec: 20 }), pathOf({ fromSec: 1.4, sec: 20 })];
    const path = syncTakes([
      { pack: a, envelope: null },
      { pack: b, envelope: new Uint8Array(0) },
    ]);
    expect(path?.by).toBe("path");
    expect(Math.abs((path?.lagSec ?? 9) - 1.4)).toBeLessThan(0.02);
    const holes = pathOf({ holes: true });
    const heard = syncTakes([
      { pack: holes, envelope: loud(0) },
      { pack: b, envelope: loud(1.4) },
    ]);
    expect(heard?.by).toBe("sound");
    expect(Math.abs((heard?.lagSec ?? 9) - 1.4)).toBeLessThan(0.03);
    expect(
      syncTakes([
        { pack: holes, envelope: null },
        { pack: b, envelope: null },
      ]),
    ).toBeNull();
  });
});
