// Usual frame rates and recording modes to begin from. Frame rates with a fraction are the thousand-and-one ones of broadcast (SMPTE ST 12-1);
// the modes are common practice, and every figure of them can be changed.

import type { ModeSnapshot } from "./snapshots.ts";

/** As people write them, with numerator and denominator. */
export const FRAME_RATES: readonly (readonly [string, number, number])[] = [
  ["23.976", 24_000, 1001],
  ["24", 24, 1],
  ["25", 25, 1],
  ["29.97", 30_000, 1001],
  ["30", 30, 1],
  ["47.95", 48_000, 1001],
  ["48", 48, 1],
  ["50", 50, 1],
  ["59.94", 60_000, 1001],
  ["60", 60, 1],
  ["100", 100, 1],
  ["119.88", 120_000, 1001],
  ["120", 120, 1],
  ["200", 200, 1],
  ["239.76", 240_000, 1001],
  ["240", 240, 1],
];

/** "29.97", "30000/1001", "12,5" or "25p"; null when it is no rate. A rate within a hundredth of a usual one is that one. */
export function parseFrameRate(text: string): { fpsNum: number; fpsDen: number } | null {
  const clean = text
    .trim()
    .toLowerCase()
    .replace(",", ".")
    .replace(/\s*(p|fps)$/, "");
  const ratio = /^(\d{1,7})\s*(?:\/|over)\s*(\d{1,5})$/.exec(clean);
  if (ratio !== null) {
    const [fpsNum, fpsDen] = [Number(ratio[1]), Number(ratio[2])];
    return fpsNum > 0 && fpsDen > 0 ? { fpsNum, fpsDen } : null;
  }
  if (!/^\d{1,4}(\.\d{1,3})?$/.test(clean)) return null;
  const value = Number(clean);
  const usual = FRAME_RATES.find(([, n, d]) => Math.abs(n / d - value) < 0.006);
  if (usual !== undefined) return { fpsNum: usual[1], fpsDen: usual[2] };
  return value > 0 ? { fpsNum: Math.round(value * 1000), fpsDen: 1000 } : null;
}

/** The usual word of a rate, else its decimal. */
export function frameRateWords(fpsNum: number, fpsDen: number): string {
  const usual = FRAME_RATES.find(([, n, d]) => n * fpsDen === fpsNum * d);
  return usual?.[0] ?? String(Math.round((1000 * fpsNum) / fpsDen) / 1000);
}

export interface ModePreset {
  name: string;
  widthPx: number;
  heightPx: number;
  rate: string;
  codec: string;
  compression: ModeSnapshot["compression"];
  bits: number;
  chroma: NonNullable<ModeSnapshot["chroma"]>;
  mbps: number;
}

type Size = readonly [string, number, number];
const SIZES: readonly Size[] = [
  ["HD", 1920, 1080],
  ["UHD", 3840, 2160],
  ["8K", 7680, 4320],
];
const preset = (
  [size, widthPx, heightPx]: Size,
  rate: string,
  compression: ModePreset["compression"],
  chroma: ModePreset["chroma"],
  mbps: number,
): ModePreset => ({
  name: `${size} ${rate}, ${compression}, 10 bit ${chroma}`,
  widthPx,
  heightPx,
  rate,
  codec: compression === "all-intra" ? "H.264" : "H.265",
  compression,
  bits: 10,
  chroma,
  mbps,
});
const [HD, UHD, EIGHT_K] = SIZES as [Size, Size, Size];

export const MODE_PRESETS: readonly ModePreset[] = [
  preset(UHD, "25", "long-GOP", "4:2:0", 100),
  preset(UHD, "25", "long-GOP", "4:2:2", 140),
  preset(UHD, "25", "all-intra", "4:2:2", 250),
  preset(UHD, "29.97", "long-GOP", "4:2:2", 140),
  preset(UHD, "50", "long-GOP", "4:2:0", 150),
  preset(UHD, "50", "long-GOP", "4:2:2", 200),
  preset(UHD, "50", "all-intra", "4:2:2", 500),
  preset(UHD, "59.94", "long-GOP", "4:2:2", 200),
  preset(UHD, "100", "long-GOP", "4:2:2", 280),
  preset(UHD, "119.88", "long-GOP", "4:2:2", 280),
  preset(EIGHT_K, "25", "long-GOP", "4:2:2", 400),
  preset(HD, "25", "long-GOP", "4:2:2", 50),
  preset(HD, "50", "long-GOP", "4:2:2", 50),
];

/** The fields of a mode that a preset says; read-out and target as most bodies have them, to be looked at. */
export function presetMode(p: ModePreset): Omit<ModeSnapshot, "id"> {
  const rate = parseFrameRate(p.rate) ?? { fpsNum: 25, fpsDen: 1 };
  const { name, widthPx, heightPx, codec, compression, bits, chroma, mbps } = p;
  return {
    name,
    widthPx,
    heightPx,
    ...rate,
    readout: "oversampled",
    readoutCrop: 1,
    codec,
    compression,
    bits,
    chroma,
    mbps,
    target: "slot 1",
    clipLimitSec: null,
  };
}
