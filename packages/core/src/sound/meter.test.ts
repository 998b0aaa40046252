import { describe, expect, it } from "vitest";
import { randomFrom } from "../statistics/index.ts";
import { ENVELOPE_HZ, loudnessOf, soundMeter } from "./meter.ts";

const RATE = 48_000;
/** Noise of a level, a tone, and loud speech in the middle third. */
function sound(noise: number, tone: { hz: number; size: number } | null, speech: number, sec = 4): Float32Array {
  const random = randomFrom(11);
  return Float32Array.from({ length: RATE * sec }, (_, i) => {
    const talk = i > (RATE * sec) / 3 && i < (2 * RATE * sec) / 3 ? speech * Math.sin(i / 40) : 0;
    return noise * random.normal() + (tone === null ? 0 : tone.size * Math.sin((2 * Math.PI * tone.hz * i) / RATE)) + talk;
  });
}
function heard(samples: Float32Array) {
  const meter = soundMeter(RATE);
  for (let at = 0; at < samples.length; at += 1000) meter.push(samples.subarray(at, at + 1000));
  return meter.finish();
}

describe("the microphone", () => {
  it("reads the level of its quiet moments, whatever is said in between", () => {
    // Noise of standard deviation 0.001 lies 60 dB below full scale.
    for (const speech of [0, 0.4]) expect(Math.abs((heard(sound(0.001, null, speech))?.floorDb ?? 0) + 60)).toBeLessThan(0.6);
    expect(heard(new Float32Array(RATE * 2))?.floorDb).toBe(-120);
  });
  it("finds a whirr where it is, and none in plain noise", () => {
    const whirr = heard(sound(0.001, { hz: 7800, size: 0.0006 }, 0.3));
    expect(whirr?.peaks).toHaveLength(1);
    expect(Math.abs((whirr?.peaks[0]?.hz ?? 0) - 7800)).toBeLessThan(RATE / 4096);
    expect(heard(sound(0.001, null, 0.3))?.peaks).toEqual([]);
  });
  it("keeps loudness all along in step with the time, at 44.1 kHz too", () => {
    for (const rate of [48_000, 44_100]) {
      const samples = Float32Array.from({ length: 10 * rate }, (_, i) => (i >= 7.3 * rate && i < 7.32 * rate ? 0.5 : 0.001));
      const meter = soundMeter(rate);
      for (let at = 0; at < samples.length; at += 777) meter.push(samples.subarray(at, at + 777));
      const loud = loudnessOf(meter.finish()?.envelope ?? new Uint8Array());
      expect(loud).toHaveLength(10 * ENVELOPE_HZ);
      const clap = loud.reduce((best, v, i) => (v > (loud[best] ?? 0) ? i : best), 0);
      expect(clap).toBe(7.3 * ENVELOPE_HZ);
      // 0.5 lies 6 dB below full scale, 0.001 lies 60 below; a byte holds half decibels.
      expect(Math.abs((loud[clap] ?? 0) + 6.02)).toBeLessThan(0.6);
      expect(loud[10]).toBe(-60);
    }
  });
  it("says nothing of less than a second, and refuses a rate that is none", () => {
    expect(heard(new Float32Array(RATE / 2))).toBeNull();
    expect(() => soundMeter(0)).toThrow(/rateHz/);
  });
});
