import { describe, expect, inject, it } from "vitest";
import type { MadeTake } from "../stand-ins/takes/index.ts";
import { PLAIN, rendererOf, truePairs } from "../stand-ins/takes/index.ts";
import { cropAgainst } from "./crop.ts";
import { clipMeter } from "./meter.ts";
import { measuresOf } from "./measures.ts";
import { NARROW } from "./light.ts";
import { highPass, rmsOf, runningSum } from "./path.ts";

// Truth is exact: the clip maker knows the pose at every row's moment. Small pictures keep the tests short; the acceptance on H.264 at
// 640 px is in tools/measure.
const SMALL = { ...PLAIN, width: 480, height: 270, frames: 45, moments: 3 };
/** For what shows as well in a picture of half the points. */
const TINY = { width: 320, height: 180 };

const known = new Map<string, ReturnType<typeof measure>>();
/** Each kind is measured once. */
function measured(change: Partial<MadeTake>) {
  const key = JSON.stringify(change);
  const found = known.get(key) ?? measure(change);
  known.set(key, found);
  return found;
}

function measure(change: Partial<MadeTake>) {
  const take: MadeTake = { ...SMALL, seed: 5, ...change };
  const renderer = rendererOf(take);
  const meter = clipMeter(take.width, take.height, NARROW);
  for (let n = 0; n < take.frames; n++) {
    renderer.draw(n, meter.frame());
    meter.push(n / take.rateHz);
  }
  const { keyFrames, ...record } = meter.finish();
  return { take, record, keyFrames, measures: measuresOf(record), truth: truthOf(take) };
}

function truthOf(take: MadeTake) {
  const pairs = truePairs(take);
  const rms = (steps: number[]): number => rmsOf(highPass(runningSum(steps), take.rateHz)) ?? Number.NaN;
  return {
    pairs,
    jitter: Math.hypot(rms(pairs.map((p) => p.dxFrac)), rms(pairs.map((p) => p.dyFrac))),
    rollDeg: (rms(pairs.map((p) => p.rollRad)) * 180) / Math.PI,
    wobblePx640: Math.sqrt(pairs.reduce((s, p) => s + p.wobblePx640 ** 2, 0) / pairs.length),
  };
}
const within = (got: number | null, want: number, share: number): void => {
  expect(got).not.toBeNull();
  expect(Math.abs((got as number) / want - 1), `${got} against ${want}`).toBeLessThan(share);
};

/** A made clip takes a second or two each: what the shipped clips show too is left to `npm run proof`. */
const inProof = it.runIf(inject("proof"));

describe("a measured clip against its truth", () => {
  it("finds each pair within a few hundredths of a pixel, jitter within 1 % and roll within 2 %", () => {
    const { record, measures, truth, take } = measured({});
    const error = Math.sqrt(
      truth.pairs.reduce(
        (s, p, i) => s + (p.dxFrac - (record.series.dxFrac[i] ?? 0)) ** 2 + (p.dyFrac - (record.series.dyFrac[i] ?? 0)) ** 2,
        0,
      ) / truth.pairs.length,
    );
    expect(error * take.width).toBeLessThan(0.05);
    within(measures.jitterRmsFrac, truth.jitter, 0.01);
    within(measures.rollRmsDeg, truth.rollDeg, 0.02);
    within(measures.wobbleSimilarityPx640, truth.wobblePx640, 0.1);
    expect(measures.flags).toEqual(["short", "wobble-floor"]);
  });
  inProof("measures an electronic setup through its crop and bending, and finds the crop within 1 %", () => {
    const control = measured({});
    const crop = measured({ crop: 1.25, stabiliser: { cornerHz: 0.7, floor: 0.08, rollFloor: 0.1 }, cornerWobblePx640: 1.5 });
    within(crop.measures.jitterRmsFrac, crop.truth.jitter, 0.03);
    within(crop.measures.rollRmsDeg, crop.truth.rollDeg, 0.05);
    within(crop.measures.wobbleSimilarityPx640, crop.truth.wobblePx640, 0.1);
    within(cropAgainst(crop.keyFrames, control.keyFrames)?.factor ?? null, 1.25, 0.01);
    within(cropAgainst(control.keyFrames, control.keyFrames)?.factor ?? null, 1, 0.001);
  });
  it("finds no crop between different places", () => {
    expect(cropAgainst(measured({ ...TINY, frames: 20 }).keyFrames, measured({ ...TINY, frames: 20, sceneSeed: 77 }).keyFrames)).toBeNull();
  });
  it("is not led by a subject over a quarter of the frame, and flags it", () => {
    const { measures, truth } = measured({ subjectFrac: 0.28 });
    within(measures.jitterRmsFrac, truth.jitter, 0.03);
    within(measures.rollRmsDeg, truth.rollDeg, 0.05);
    expect(measures.flags).toContain("moving-subject");
    expect(measures.flags).not.toContain("parallax");
  });
  it("flags parallax, where every method reads too much", () => {
    const { measures, truth } = measured({ parallax: 0.25 });
    expect(measures.flags).toContain("parallax");
    within(measures.jitterRmsFrac, truth.jitter, 0.2);
  });
  it("holds in low light and on little texture, and says so", () => {
    const dark = measured({ ...TINY, light: 0.03, noise: 5 });
    within(dark.measures.jitterRmsFrac, dark.truth.jitter, 0.03);
    expect(dark.measures.flags).toContain("dark");
    const plain = measured({ ...TINY, contrast: 0.15, softPx640: 2 });
    within(plain.measures.jitterRmsFrac, plain.truth.jitter, 0.03);
  });
  inProof("sees softness after knocks as pulses, and a softness all along in the edges only", () => {
    const knocks = [0.5, 1.1].map((atSec) => ({ atSec, size: 0.01, softPx640: 4 }));
    const bumpy = measured({ bumps: knocks });
    const deep = bumpy.measures.dips.filter((d) => d.depthFrac > 0.3);
    expect(deep.map((d) => d.startFrame)).toEqual([15, 33]);
    expect(deep.every((d) => (d.recoveryFrames ?? 99) <= 5)).toBe(true);
    const soft = measured({ softPx640: 2.5, frames: 30 });
    within(soft.measures.edgeSigmaPx640, 2.5, 0.12);
    expect(soft.measures.dips).toEqual([]);
    expect(measured({}).measures.edgeSigmaPx640).toBeLessThan(1);
  });
  it("sees a step of exposure where it is, to a twentieth of a stop", () => {
    const { measures } = measured({ ...TINY, exposure: [{ atSec: 1, stops: 0.4 }], frames: 40 });
    expect(measures.exposureSteps).toHaveLength(1);
    expect(measures.exposureSteps[0]?.frame).toBe(30);
    expect(measures.exposureSteps[0]?.stops).toBeCloseTo(0.4, 1);
    expect(measured({}).measures.exposureSteps).toEqual([]);
  });
  it("finds a pan, what it held back and the leap that followed", () => {
    const standing = { stabiliser: { cornerHz: 0.7, floor: 0.03, rollFloor: 0.1 }, gait: { stepHz: 1.9, vigour: 0.5, drift: 0.2 } };
    const { measures, truth } = measured({ ...TINY, frames: 110, moments: 1, pan: { atSec: 1, speed: 0.2, holdSec: 0.2 }, ...standing });
    expect(truth.jitter).toBeGreaterThan(measures.jitterRmsFrac ?? 1);
    expect(measures.flags).toContain("panning");
    expect(measures.pan?.delaySec).toBeCloseTo(0.2, 1);
    // The hump of 0.35 s that makes up for 0.2 s: 1 + 2 × 0.2 / 0.35 at its top.
    expect(measures.pan?.peakRatio).toBeGreaterThan(1.7);
    // Its excess is what was held back, 0.2 s × 0.2 widths a second, and the shake of 1.5 s on top.
    expect(Math.abs((measures.pan?.excessFrac ?? 0) - 0.04)).toBeLessThan(0.01);
    const prompt = measured({ ...TINY, frames: 110, moments: 1, pan: { atSec: 1, speed: 0.2, holdSec: 0 }, ...standing }).measures.pan;
    expect(prompt?.delaySec).toBeLessThan(0.1);
    expect(prompt?.peakRatio).toBeLessThan(1.25);
  });
  inProof("reads the step rate within 0.05 Hz", () => {
    for (const stepHz of [1.6, 2.2]) {
      const { measures } = measured({ ...TINY, gait: { stepHz, vigour: 1, drift: 1 }, frames: 100, moments: 1 });
      expect(Math.abs((measures.stepHz ?? 0) - stepHz)).toBeLessThan(0.05);
    }
  });
  it("measures a trimmed part as it would the part alone", () => {
    const { record } = measured({});
    const part = measuresOf(record, 5, 45);
    expect(part.frames).toBe(40);
    expect(part.jitterRmsFrac).toBeGreaterThan(0);
    expect(measuresOf(record, 0, 2).flags).toContain("too-few-frames");
    expect(measuresOf(record, 0, 1).jitterRmsFrac).toBeNull();
  });
  it("says nothing moved, and nothing more, of black frames", () => {
    const meter = clipMeter(320, 180, NARROW);
    for (let n = 0; n < 30; n++) {
      meter.frame().data.fill(16);
      meter.push(n / 30);
    }
    const m = measuresOf(meter.finish());
    expect(m.flags).toEqual(expect.arrayContaining(["low-texture", "not-followed", "no-wobble", "dark"]));
    // Nothing was seen to move, which is not the same as nothing moved.
    expect([m.jitterRmsFrac, m.rollRmsDeg, m.zoomRmsFrac, m.stepHz, m.driftRmsFrac]).toEqual([null, null, null, null, null]);
    expect(m.wobbleHomographyPx640).toBeNull();
    expect(m.edgeSigmaPx640).toBeNull();
    expect(m.sharpnessArea).toBeNull();
  });
});
