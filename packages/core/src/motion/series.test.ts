import { describe, expect, it } from "vitest";
import { combRatio, combWatch } from "./combs.ts";
import { exposureSteps } from "./light.ts";
import { panSpans } from "./pan.ts";
import { degreesOf, highPass, lowPass, resampled, rmsOf, runningSum } from "./path.ts";
import { measuredSize, planeReducer } from "./reduce.ts";
import { slowBand } from "./slowBand.ts";
import { bandPower, peakHz, periodogram, transform } from "./spectrum.ts";

const wave = (hz: number, size: number, rate: number, sec: number): Float64Array =>
  Float64Array.from({ length: Math.round(rate * sec) }, (_, i) => size * Math.sin((2 * Math.PI * hz * i) / rate + 0.4));
const rms = (v: Float64Array): number => Math.sqrt(v.reduce((s, x) => s + x * x, 0) / v.length);

describe("the low-pass", () => {
  it("passes a straight line whole, at its ends too", () => {
    const line = Float64Array.from({ length: 60 }, (_, i) => 3 + 0.2 * i);
    for (const [i, v] of lowPass(line, 30).entries()) expect(v).toBeCloseTo(line[i] as number, 9);
  });
  it("keeps 71 % of the amplitude of 0.5 Hz and little of 2 Hz, whatever the rate", () => {
    for (const rate of [23.976, 30, 120]) {
      const kept = (hz: number): number => rms(lowPass(wave(hz, 1, rate, 20), rate).slice(3 * rate, 17 * rate)) / Math.SQRT1_2;
      // A Gaussian of σ passes exp(−2 π² σ² f²): at 0.5 Hz 0.707, at 2 Hz 0.004.
      expect(kept(0.5)).toBeCloseTo(Math.exp(-2 * Math.PI ** 2 * 0.265 ** 2 * 0.25), 2);
      expect(kept(2)).toBeLessThan(0.01);
    }
    expect(() => lowPass(wave(1, 1, 30, 1), 0)).toThrow(/rateHz/);
  });
  it("leaves out marked frames, and says nothing of too few", () => {
    const v = wave(2, 1, 30, 3);
    expect(rmsOf(highPass(v, 30), new Uint8Array(90))).toBeNull();
    expect(rmsOf(highPass(v.slice(0, 20), 30))).toBeNull();
    expect(rmsOf(highPass(v, 30))).toBeCloseTo(Math.SQRT1_2, 1);
  });
});

describe("spectra", () => {
  it("transforms as the definition says", () => {
    const n = 16;
    const re = Float64Array.from({ length: n }, (_, i) => Math.cos(i * i));
    const im = Float64Array.from({ length: n }, (_, i) => Math.sin(3 * i));
    const want = Array.from({ length: n }, (_, k) => {
      let [a, b] = [0, 0];
      for (let i = 0; i < n; i++) {
        const w = (-2 * Math.PI * k * i) / n;
        a += (re[i] as number) * Math.cos(w) - (im[i] as number) * Math.sin(w);
        b += (re[i] as number) * Math.sin(w) + (im[i] as number) * Math.cos(w);
      }
      return [a, b] as const;
    });
    transform(re, im);
    for (const [k, [a, b]] of want.entries()) {
      expect(re[k]).toBeCloseTo(a, 9);
      expect(im[k]).toBeCloseTo(b, 9);
    }
    expect(() => transform(new Float64Array(6), new Float64Array(6))).toThrow(/power of two/);
  });
  it("finds a wave's rate and its mean square", () => {
    const s = periodogram([wave(1.93, 2, 30, 6)], 30);
    expect(peakHz(s, 1.2, 3.6)).toBeCloseTo(1.93, 2);
    expect(bandPower(s, 1.2, 3)).toBeCloseTo(2, 1);
    expect(bandPower(s, 4, 15)).toBeLessThan(0.001);
    expect(peakHz(s, 8, 8.01)).toBeNull();
  });
  it("reads drift and swing from 8 s on, without the straight way", () => {
    const swing = wave(0.4, 1, 30, 10).map((v, i) => v + 0.05 * i);
    expect(slowBand(swing, 30)).toBeCloseTo(Math.SQRT1_2, 1);
    expect(slowBand(wave(2, 1, 30, 10), 30)).toBeLessThan(0.04);
    expect(slowBand(wave(0.4, 1, 30, 7.9), 30)).toBeNull();
  });
});

describe("what is told from series", () => {
  it("takes a walker's way for no pan, and a long swing one way for one", () => {
    const slow = Float64Array.from({ length: 120 }, (_, i) => 0.02 * (i / 30));
    expect(panSpans(slow, slow, 30)).toEqual([]);
    const pan = Float64Array.from({ length: 120 }, (_, i) => 0.2 * Math.max(0, Math.min(i - 30, 60) / 30));
    const [span] = panSpans(pan, slow, 30);
    expect(span?.startFrame).toBeGreaterThan(20);
    expect(span?.endFrame).toBeLessThan(100);
    expect(panSpans(slow, pan, 30)).toHaveLength(1);
  });
  it("tells a step of light within two frames from a slow change", () => {
    const quiet = new Array<number | null>(40).fill(0.004);
    expect(exposureSteps(quiet)).toEqual([]);
    const step = [...quiet];
    step[10] = 0.08;
    step[11] = 0.07;
    expect(exposureSteps(step)).toEqual([{ frame: 11, stops: expect.closeTo(0.15, 6) as number }]);
    expect(exposureSteps(quiet.map(() => null))).toEqual([]);
  });
  it("samples uneven times evenly", () => {
    const times = Float64Array.from([0, 0.1, 0.2, 0.45, 0.5]);
    const values = times.map((t) => 2 * t);
    expect([...resampled(values, times, 10)]).toEqual([0, 0.2, 0.4, 0.6, 0.8, 1].map((v) => expect.closeTo(v, 9) as number));
  });
  it("turns shares of the width into degrees about the middle", () => {
    expect(degreesOf(0.01, 90)).toBeCloseTo((0.02 * 180) / Math.PI, 9);
    expect(() => degreesOf(0.01, 180)).toThrow(/hfovDeg/);
  });
  it("sums steps to a path from nought", () => {
    expect([...runningSum([1, 2, 3])]).toEqual([0, 1, 3, 6]);
  });
});

describe("reducing a plane", () => {
  it("averages areas exactly, with parts of samples, strides and deep bits", () => {
    const shape = { width: 960, height: 540, stride: 1000, bits: 8, turns: 0 } as const;
    const plane = Uint8Array.from({ length: 1000 * 540 }, (_, i) => Math.min(255, Math.floor((i % 1000) / 4)));
    const to = { width: 640, height: 360, data: new Float32Array(640 * 360) };
    planeReducer(shape)(plane, to);
    // Pixel 100 covers samples 150 to 151.5.
    expect(to.data[100]).toBeCloseTo((37 + 0.5 * 37) / 1.5, 4);
    const deep = Uint16Array.from(plane, (v) => v * 4);
    const same = { ...to, data: new Float32Array(640 * 360) };
    planeReducer({ ...shape, bits: 10 })(deep, same);
    expect(Math.max(...same.data.map((v, i) => Math.abs(v - (to.data[i] as number))))).toBeLessThan(1e-3);
  });
  it("turns the picture as it is shown", () => {
    const plane = Uint8Array.from({ length: 200 * 100 }, (_, i) => (i % 200 < 100 ? 50 : 200));
    for (const [turns, at] of [
      [1, [0, 199]],
      [2, [199, 0]],
      [3, [0, 0]],
    ] as const) {
      const size = measuredSize({ width: 200, height: 100, turns });
      const to = { ...size, data: new Float32Array(size.width * size.height) };
      planeReducer({ width: 200, height: 100, stride: 200, bits: 8, turns })(plane, to);
      expect(to.data[at[1] * size.width + at[0]]).toBe(turns === 2 ? 50 : turns === 1 ? 200 : 200);
    }
    expect(measuredSize({ width: 1080, height: 1920, turns: 0 })).toEqual({ width: 360, height: 640 });
    expect(measuredSize({ width: 1921, height: 1081, turns: 1 })).toEqual({ width: 360, height: 640 });
    expect(() => measuredSize({ width: 4000, height: 100, turns: 0 })).toThrow(/at least 64/);
  });
});

describe("combs of interlaced frames", () => {
  const shape = { width: 320, height: 180, stride: 320, bits: 8, turns: 0 } as const;
  /** Blocks and a fine grain, moved to the right by `shift` px; the second field by `second`. */
  const woven = (shift: number, second: number): Uint8Array =>
    Uint8Array.from({ length: 320 * 180 }, (_, i) => {
      const y = Math.floor(i / 320);
      const x = (i % 320) - (y % 2 === 0 ? shift : second);
      return ((Math.floor(x / 23) + Math.floor(y / 17)) % 2 === 0 ? 60 : 170) + ((x * 7 + y * 13) % 9);
    });
  it("are seen in woven movement, and in nothing else", () => {
    expect(combRatio(woven(5, 5), shape)).toBeLessThan(1.1);
    expect(combRatio(woven(0, 9), shape)).toBeGreaterThan(1.15);
    expect(combRatio(new Uint8Array(320 * 180).fill(16), shape)).toBe(0);
    const [plain, combed] = [combWatch(), combWatch()];
    for (let n = 0; n < 40; n++) {
      plain.look(woven(3 * n, 3 * n), shape);
      combed.look(woven(3 * n, 3 * n + 8), shape);
    }
    expect([plain.combed(), combed.combed(), combWatch().combed()]).toEqual([false, true, false]);
  });
});
