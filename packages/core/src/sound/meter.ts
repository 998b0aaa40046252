// The microphone's quiet side: how loud its quietest moments are, and which tones stand out of them. A stabiliser whirrs, a fan hums;
// speech and footsteps are louder and left out.

import { transform } from "../motion/index.ts";

const WINDOW_SEC = 0.05;
const QUIET_SHARE = 0.1;
const SIZE = 4096;
/** A tone stands this far above the median of its surroundings, a third of an octave either way. */
const OVER_DB = 10;
const LOWEST_HZ = 60;
const MOST_PEAKS = 6;
const FLOOR_DB = -120;

export interface Microphone {
  /** Level of the quietest tenth of 50 ms windows, dB below a full-scale square wave. */
  floorDb: number;
  /** Tones of the quiet half, loudest over their surroundings first. */
  peaks: { hz: number; overDb: number }[];
  /** Loudness all along, `ENVELOPE_HZ` a second: half decibels below full scale, a byte each; of the first half hour. */
  envelope: Uint8Array;
}
export const ENVELOPE_HZ = 50;
const ENVELOPE_MOST = 1800 * ENVELOPE_HZ;

/** Loudness in dB. */
export const loudnessOf = (envelope: Uint8Array): Float64Array => Float64Array.from(envelope, (v) => -v / 2);

export interface SoundMeter {
  /** One channel, −1 to 1. */
  push: (samples: Float32Array) => void;
  /** Null below one second. */
  finish: () => Microphone | null;
}

const dbOf = (meanSquare: number): number => Math.max(FLOOR_DB, 10 * Math.log10(Math.max(meanSquare, 1e-13)));

/** Memory does not grow with the sound but for a number a window: spectra are summed by level, in steps of 3 dB. */
export function soundMeter(rateHz: number): SoundMeter {
  if (!(rateHz >= 4000)) throw new RangeError(`rateHz must be 4000 or more, got ${rateHz}`);
  const perWindow = Math.round(WINDOW_SEC * rateHz);
  const levels: number[] = [];
  const envelope: number[] = [];
  const spectra = new Map<number, { sum: Float64Array; count: number }>();
  const block = new Float32Array(SIZE);
  let [inWindow, square, inBlock, blockSquare, total] = [0, 0, 0, 0, 0];
  let [inStep, stepSquare, at] = [0, 0, 0];
  const push = (samples: Float32Array): void => {
    total += samples.length;
    for (const v of samples) {
      square += v * v;
      stepSquare += v * v;
      inStep++;
      // Steps end by the sample count: at 44.1 kHz they are not all of one length, and none drifts.
      if (++at * ENVELOPE_HZ >= (envelope.length + 1) * rateHz && envelope.length < ENVELOPE_MOST) {
        envelope.push(Math.min(255, Math.max(0, Math.round(-2 * dbOf(stepSquare / inStep)))));
        [inStep, stepSquare] = [0, 0];
      }
      if (++inWindow === perWindow) {
        levels.push(square / perWindow);
        [inWindow, square] = [0, 0];
      }
      block[inBlock++] = v;
      blockSquare += v * v;
      if (inBlock < SIZE) continue;
      addSpectrum(spectra, block, blockSquare / SIZE);
      [inBlock, blockSquare] = [0, 0];
    }
  };
  const finish = (): Microphone | null => {
    if (total < rateHz) return null;
    const order = [...levels].sort((a, b) => a - b);
    const floor = order[Math.floor(QUIET_SHARE * order.length)] ?? 0;
    return { floorDb: dbOf(floor), peaks: peaksOf(quietHalf(spectra), rateHz), envelope: Uint8Array.from(envelope) };
  };
  return { push, finish };
}

function addSpectrum(spectra: Map<number, { sum: Float64Array; count: number }>, block: Float32Array, meanSquare: number): void {
  const re = Float64Array.from(block, (v, i) => v * (0.5 - 0.5 * Math.cos((2 * Math.PI * i) / SIZE)));
  const im = new Float64Array(SIZE);
  transform(re, im);
  const level = Math.round(dbOf(meanSquare) / 3);
  const known = spectra.get(level) ?? { sum: new Float64Array(SIZE / 2), count: 0 };
  for (let k = 0; k < SIZE / 2; k++) known.sum[k] = (known.sum[k] as number) + (re[k] as number) ** 2 + (im[k] as number) ** 2;
  known.count++;
  spectra.set(level, known);
}

/** Mean spectrum of the quietest blocks, at least half of all. */
function quietHalf(spectra: ReadonlyMap<number, { sum: Float64Array; count: number }>): Float64Array {
  const all = [...spectra.values()].reduce((n, s) => n + s.count, 0);
  const mean = new Float64Array(SIZE / 2);
  let count = 0;
  for (const level of [...spectra.keys()].sort((a, b) => a - b)) {
    if (count >= all / 2) break;
    const s = spectra.get(level);
    if (s === undefined) continue;
    for (let k = 0; k < mean.length; k++) mean[k] = (mean[k] as number) + (s.sum[k] as number);
    count += s.count;
  }
  return mean.map((v) => v / Math.max(1, count));
}

function peaksOf(power: Float64Array, rateHz: number): Microphone["peaks"] {
  const hzOf = (k: number): number => (k * rateHz) / SIZE;
  const found: Microphone["peaks"] = [];
  for (let k = Math.ceil((LOWEST_HZ * SIZE) / rateHz); k < power.length - 1; k++) {
    const p = power[k] as number;
    if (p <= (power[k - 1] as number) || p < (power[k + 1] as number)) continue;
    const reach = Math.max(8, Math.round(k * (2 ** (1 / 3) - 1)));
    const around = [...power.subarray(Math.max(1, k - reach), Math.min(power.length, k + reach + 1))].sort((a, b) => a - b);
    const base = around[around.length >> 1] ?? 0;
    const overDb = base > 0 ? 10 * Math.log10(p / base) : 0;
    if (overDb >= OVER_DB) found.push({ hz: hzOf(k), overDb });
  }
  return found.sort((a, b) => b.overDb - a.overDb).slice(0, MOST_PEAKS);
}
