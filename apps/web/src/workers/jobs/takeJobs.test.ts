// Jobs that read packed paths: parts of clips, corrected copies, two bodies.

import { ENVELOPE_HZ } from "@keep-rolling/core/sound";
import { describe, expect, it } from "vitest";
import { pieces } from "../../rulers/sway/Wake.tsx";
import { madePath } from "../testing/madePath.ts";
import { run as matchCopies } from "./matchCopies.ts";
import { run as readTakes } from "./readTakes.ts";
import { run as syncTakes } from "./syncTakes.ts";

describe("takes of one clip", () => {
  const of = (part: { fromMs: number; toMs: number | null } | null, trim: { inFrame: number; outFrame: number | null } | null = null) =>
    readTakes([{ key: "k", pack: madePath({}), trim, part, without: [] }])[0];
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
  it("never count a frame that is another's: the longer rest stays", () => {
    const beside = (without: { fromMs: number; toMs: number | null }[], trim: { inFrame: number; outFrame: number } | null = null) => {
      const read = readTakes([{ key: "k", pack: madePath({}), trim: trim ?? { inFrame: 0, outFrame: 250 }, part: null, without }])[0];
      return [read?.inFrame, read?.outFrame];
    };
    expect(beside([{ fromMs: 6000, toMs: null }])).toEqual([0, 150]);
    expect(beside([{ fromMs: 0, toMs: 4000 }])).toEqual([100, 250]);
    expect(beside([{ fromMs: 2000, toMs: 4000 }])).toEqual([100, 250]);
    expect(
      beside([
        { fromMs: 0, toMs: 3000 },
        { fromMs: 8000, toMs: null },
      ]),
    ).toEqual([75, 200]);
    // Outside of what is counted it takes nothing; all of it leaves two frames, and says so by its flags.
    expect(beside([{ fromMs: 8000, toMs: null }], { inFrame: 0, outFrame: 100 })).toEqual([0, 100]);
    expect(beside([{ fromMs: 0, toMs: null }])).toEqual([0, 2]);
  });
  it("draw no way and no spectrum where the picture was not followed: unknown is not still", () => {
    const of = (lost: [number, number] | null) =>
      readTakes([{ key: "k", pack: madePath({ lost }), trim: { inFrame: 0, outFrame: 250 }, part: null, without: [] }])[0];
    const whole = of(null);
    expect([whole?.wake.lost, whole?.spectrum === null, whole?.measures.jitterRmsFrac === null]).toEqual([[], false, false]);
    const all = of([0, 99]);
    expect([all?.spectrum, all?.measures.jitterRmsFrac, all?.measures.stepHz]).toEqual([null, null, null]);
    expect(pieces(all?.wake ?? { jumps: [], lost: [], x: [0, 0] })).toEqual([]);
    // A fifth of a second is bridged in the numbers, and a gap in the line.
    const gap = of([5, 5.2]);
    expect(gap?.measures.jitterRmsFrac).not.toBeNull();
    expect(gap?.wake.lost).toHaveLength(4);
    expect(pieces(gap?.wake ?? { jumps: [], lost: [], x: [] })).toHaveLength(2);
  });
  it("are left out when the path is none", () => {
    expect(readTakes([{ key: "k", pack: new ArrayBuffer(10), trim: null, part: null, without: [] }])).toEqual([]);
  });
});

describe("corrected copies", () => {
  it("find their parent among the takes, and nobody's find none", () => {
    const parents = [1, 2, 3].map((seed) => ({ id: `p${seed}`, pack: madePath({ seed }) }));
    const copies = [
      { sha256: "copy", pack: madePath({ seed: 2, rest: 0.3, gain: 0.7 }) },
      { sha256: "other", pack: madePath({ seed: 9 }) },
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
    const [a, b] = [madePath({ sec: 20 }), madePath({ fromSec: 1.4, sec: 20 })];
    const path = syncTakes([
      { pack: a, envelope: null },
      { pack: b, envelope: new Uint8Array(0) },
    ]);
    expect(path?.by).toBe("path");
    expect(Math.abs((path?.lagSec ?? 9) - 1.4)).toBeLessThan(0.02);
    const holes = madePath({ lost: [5, 6] });
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
