// Two bodies on one walk, copies and their own, and the microphone with a stabiliser off and on.

import { describe, expect, it } from "vitest";
import { ENVELOPE_HZ } from "../sound/index.ts";
import { randomFrom } from "../statistics/index.ts";
import { matchCopy, signatureOf } from "./copies.ts";
import type { MeasuredTake, SetupRow } from "./summary.ts";
import { PATH_HZ, syncOf } from "./sync.ts";
import { takeOf } from "./testing/takes.ts";
import { whirrOf } from "./whirr.ts";

const TRUE_LAG = 1.237;
/** Steps at about 1.9 a second, none as hard as the next; noise of its own in each body. */
function walkAt(hz: number, fromSec: number, sec: number, noise: number, seed: number): Float64Array {
  const random = randomFrom(seed);
  const steps = randomFrom(77);
  const hard = Float64Array.from({ length: 200 }, () => 1 + 0.5 * steps.normal());
  const height = (t: number): number => {
    const phase = 1.9 * t + 0.1 * Math.sin(0.9 * t);
    return (hard[Math.floor(phase)] ?? 1) * Math.sin(2 * Math.PI * phase) + 0.4 * Math.sin(Math.PI * phase);
  };
  return Float64Array.from({ length: Math.round(sec * hz) }, (_, i) => height(fromSec + i / hz) + noise * random.normal());
}
/** Talk and steps: loudness with no rhythm. The same for both microphones but for a level and noise. */
function loudAt(fromSec: number, sec: number, seed: number): Float64Array {
  const talk = randomFrom(5);
  const words = Float64Array.from({ length: 4000 }, () => talk.normal());
  const own = randomFrom(seed);
  return Float64Array.from({ length: Math.round(sec * ENVELOPE_HZ) }, (_, i) => {
    const t = (fromSec + i / ENVELOPE_HZ) * 8;
    const k = Math.floor(t);
    return -40 + 6 * ((words[k] ?? 0) * (1 - (t - k)) + (words[k + 1] ?? 0) * (t - k)) + own.normal();
  });
}

describe("two clips of one walk", () => {
  const clip = (fromSec: number, seed: number, sound: boolean) => ({
    loudness: sound ? loudAt(fromSec, 24, seed) : null,
    height: walkAt(PATH_HZ, fromSec, 24, 0.2, seed),
  });
  it("are laid on each other by sound, then by their way up and down, to a hundredth of a second", () => {
    const sync = syncOf(clip(3, 1, true), clip(3 + TRUE_LAG, 2, true));
    expect(sync?.by).toBe("sound, then path");
    expect(Math.abs((sync?.lagSec ?? 9) - TRUE_LAG)).toBeLessThan(0.01);
    const other = syncOf(clip(3 + TRUE_LAG, 2, true), clip(3, 1, true));
    expect(Math.abs((other?.lagSec ?? 9) + TRUE_LAG)).toBeLessThan(0.01);
  });
  it("goes by one alone where the other says nothing", () => {
    const mute = syncOf(clip(3, 1, false), clip(3 + TRUE_LAG, 2, true));
    expect(mute?.by).toBe("path");
    expect(Math.abs((mute?.lagSec ?? 9) - TRUE_LAG)).toBeLessThan(0.01);
    const still = { loudness: loudAt(3, 24, 1), height: new Float64Array(0) };
    const heard = syncOf(still, { loudness: loudAt(3 + TRUE_LAG, 24, 2), height: new Float64Array(0) });
    expect(heard?.by).toBe("sound");
    expect(Math.abs((heard?.lagSec ?? 9) - TRUE_LAG)).toBeLessThan(0.03);
  });
  it("keep to the sound where path and sound do not agree", () => {
    const [a, b] = [clip(3, 1, true), clip(3 + TRUE_LAG, 2, true)];
    // The second body swayed a fifth of a second behind: the nearest peak lies beyond what a path may correct.
    const behind = syncOf(a, { ...b, height: walkAt(PATH_HZ, 3 + TRUE_LAG - 0.2, 24, 0.2, 2) });
    expect(behind?.by).toBe("sound");
    expect(Math.abs((behind?.lagSec ?? 9) - TRUE_LAG)).toBeLessThan(0.03);
  });
  it("are left apart when they are of two walks, when steps are all alike, and when there is too little", () => {
    const alone = (seed: number, rhythm: number) => ({
      loudness: null,
      height: Float64Array.from(
        { length: 2400 },
        (_, i) => Math.sin((2 * Math.PI * rhythm * i) / PATH_HZ) + 0.02 * randomFrom(seed + i).normal(),
      ),
    });
    // Every step like every other: a lag of one step is as good as none.
    expect(syncOf(alone(1, 2), alone(9, 2))).toBeNull();
    const noise = (seed: number) => ({ loudness: null, height: walkAt(PATH_HZ, 0, 20, 30, seed) });
    expect(syncOf(noise(1), noise(2))).toBeNull();
    const short = { loudness: null, height: new Float64Array(50).fill(1) };
    expect(syncOf(short, short)).toBeNull();
  });
});

describe("a corrected copy", () => {
  /** `rest`: how much of the shake is left. */
  const series = (seed: number, blur = 1, gain = 1, fromSec = 0, rest = 1) => {
    const random = randomFrom(seed);
    const knocks = Array.from({ length: 12 }, () => ({ at: 10 * random.next(), depth: 0.1 + 0.4 * random.next() }));
    const timesSec = Array.from({ length: 200 }, (_, i) => i / 25);
    const dip = (t: number): number => knocks.reduce((sum, k) => sum + k.depth * Math.exp(-(((t - k.at) / 0.08) ** 2)), 0);
    const step = (t: number): number => dip(t) - dip(t - 0.04) + 0.1 * Math.sin(11 * t + seed);
    const own = randomFrom(seed + 100 * rest);
    const shaken = (k: number): number[] => timesSec.slice(1).map((t) => rest * step(k * (t + fromSec)) + (1 - rest) * 0.2 * own.normal());
    return {
      dyFrac: shaken(1),
      rollRad: shaken(1.1),
      timesSec,
      sharpness: timesSec.map((t) => gain * (1 - blur * Math.min(0.9, dip(t + fromSec)))),
      lightStops: timesSec.map((t) => -2 + 0.05 * Math.sin(3 * (t + fromSec) + seed) + 0.1 * dip(t + fromSec)),
    };
  };
  const signature = (...args: Parameters<typeof series>) => {
    const s = signatureOf(series(...args));
    if (s === null) throw new Error("no signature");
    return s;
  };
  it("is told from its picture however much softer it came out, with where it begins", () => {
    const parents = [1, 2, 3].map((seed) => [seed, signature(seed)] as const);
    const match = matchCopy(signature(2, 0.8, 0.6, 0.4), parents);
    expect(match?.parent).toBe(2);
    expect(match?.lagSec).toBeCloseTo(0.4, 5);
    // Steadied until little of the walk is left in it: sharpness and light still tell.
    expect(matchCopy(signature(2, 0.8, 0.6, 0.4, 0.3), parents)?.parent).toBe(2);
  });
  it("is nobody's when none is alike, or two are", () => {
    const parents = [1, 2, 3].map((seed) => [seed, signature(seed)] as const);
    expect(matchCopy(signature(7), parents)).toBeNull();
    expect(matchCopy(signature(2), [...parents, [4, signature(2)] as const])).toBeNull();
    expect(matchCopy(signature(2), [])).toBeNull();
    expect(signatureOf({ timesSec: [0, 1], sharpness: [1, 1], lightStops: [0, 0], dyFrac: [0], rollRad: [0] })).toBeNull();
  });
});

describe("the microphone off and on", () => {
  const row = (id: string, isControl: boolean, sounds: MeasuredTake["sound"][]): SetupRow =>
    ({
      setup: { id },
      isControl,
      takes: sounds.map((sound, i) => ({ take: takeOf(`${id}${i}`), measures: null, cropFactor: null, sound })),
    }) as unknown as SetupRow;
  const heard = (floorDb: number, ...hz: number[]) => ({ floorDb, peaks: hz.map((h) => ({ hz: h, overDb: 15 })) });
  it("tells how much louder, and which tones are the setup's own", () => {
    const rows = [
      row("off", true, [heard(-60, 100), heard(-62, 101)]),
      row("sensor", false, [heard(-55, 102, 7800), heard(-57, 7790), heard(-53, 3000)]),
    ];
    expect(whirrOf(rows)).toEqual([
      { setupId: "off", takes: 2, floorDb: -61, overControlDb: null, tonesHz: null },
      { setupId: "sensor", takes: 3, floorDb: -55, overControlDb: 6, tonesHz: [7790] },
    ]);
  });
  it("says nothing against a control without sound, and nothing of a setup without", () => {
    const rows = [row("off", true, [null]), row("sensor", false, [heard(-55, 7800)]), row("strong", false, [])];
    expect(whirrOf(rows)).toEqual([{ setupId: "sensor", takes: 1, floorDb: -55, overControlDb: null, tonesHz: null }]);
  });
});
