// A record as bytes: a short header as JSON, then columns of 32-bit floats, little-endian, an unknown value as NaN. 44 bytes a frame.
// Bytes from outside are checked before they are believed.

import type { ClipFacts, ClipRecord, ClipSeries } from "./record.ts";

const MAGIC = "KRPATH1\n";
const WAYS = ["points", "dense", "coarse", "none"] as const;
const COLUMNS = [
  "timesSec",
  "dxFrac",
  "dyFrac",
  "rollRad",
  "logScale",
  "wobbleSimilarityPx640",
  "wobbleHomographyPx640",
  "sharpness",
  "lightStops",
  "gainStops",
  "by",
] as const satisfies readonly (keyof ClipSeries)[];
const PER_FRAME: readonly string[] = ["timesSec", "sharpness", "lightStops"];
export const MOST_FRAMES = 500_000;

interface Header {
  frames: number;
  facts: ClipFacts;
}

export function packRecord({ series, facts }: ClipRecord): Uint8Array {
  const frames = series.timesSec.length;
  const header: Header = { frames, facts };
  const head = asciiBytes(JSON.stringify(header).padEnd(4));
  const start = MAGIC.length + 4 + head.length;
  const bytes = new Uint8Array(start + COLUMNS.reduce((sum, c) => sum + 4 * lengthOf(c, frames), 0));
  const view = new DataView(bytes.buffer);
  bytes.set(asciiBytes(MAGIC));
  view.setUint32(MAGIC.length, head.length, true);
  bytes.set(head, MAGIC.length + 4);
  let at = start;
  for (const column of COLUMNS)
    for (let i = 0; i < lengthOf(column, frames); i++, at += 4) view.setFloat32(at, valueOf(series, column, i), true);
  return bytes;
}

const lengthOf = (column: string, frames: number): number => (PER_FRAME.includes(column) ? frames : Math.max(0, frames - 1));

function valueOf(series: ClipSeries, column: (typeof COLUMNS)[number], i: number): number {
  const value = series[column][i];
  if (typeof value === "string") return WAYS.indexOf(value);
  return value ?? Number.NaN;
}

/** Null: no such bytes, or not whole, or a value that no clip has. */
export function unpackRecord(bytes: Uint8Array): ClipRecord | null {
  if (bytes.length < MAGIC.length + 4 || latin(bytes.subarray(0, MAGIC.length)) !== MAGIC) return null;
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const headLength = view.getUint32(MAGIC.length, true);
  if (headLength > 4000 || MAGIC.length + 4 + headLength > bytes.length) return null;
  const header = headerOf(latin(bytes.subarray(MAGIC.length + 4, MAGIC.length + 4 + headLength)));
  if (header === null) return null;
  const { frames, facts } = header;
  const start = MAGIC.length + 4 + headLength;
  if (bytes.length !== start + COLUMNS.reduce((sum, c) => sum + 4 * lengthOf(c, frames), 0)) return null;
  let at = start;
  const read = (column: string): number[] =>
    Array.from({ length: lengthOf(column, frames) }, () => {
      at += 4;
      return view.getFloat32(at - 4, true);
    });
  const [timesSec, dxFrac, dyFrac, rollRad, logScale, wobbleS, wobbleH, sharpness, lightStops, gain, by] = COLUMNS.map(read) as [
    number[],
    ...number[][],
  ];
  const plain = [timesSec, dxFrac, dyFrac, rollRad, logScale, sharpness, lightStops] as number[][];
  if (plain.some((column) => column.some((v) => !Number.isFinite(v) || Math.abs(v) > 1e7))) return null;
  if (timesSec.some((t, i) => i > 0 && !(t > (timesSec[i - 1] as number)))) return null;
  const known = (column: number[] | undefined): (number | null)[] => (column ?? []).map((v) => (Number.isFinite(v) ? v : null));
  const ways = (by ?? []).map((k) => WAYS[k]);
  if (ways.some((w) => w === undefined)) return null;
  const series: ClipSeries = {
    timesSec,
    dxFrac: dxFrac ?? [],
    dyFrac: dyFrac ?? [],
    rollRad: rollRad ?? [],
    logScale: logScale ?? [],
    wobbleSimilarityPx640: known(wobbleS),
    wobbleHomographyPx640: known(wobbleH),
    sharpness: sharpness ?? [],
    lightStops: lightStops ?? [],
    gainStops: known(gain),
    by: ways as ClipSeries["by"],
  };
  return { series, facts };
}

function headerOf(text: string): Header | null {
  let read: unknown;
  try {
    read = JSON.parse(text);
  } catch {
    return null;
  }
  const { frames, facts } = read as Partial<Header>;
  if (!Number.isInteger(frames) || (frames as number) < 1 || (frames as number) > MOST_FRAMES) return null;
  if (typeof facts !== "object" || facts === null) return null;
  const f = facts as unknown as Record<string, unknown>;
  const number = (v: unknown): boolean => typeof v === "number" && Number.isFinite(v);
  const plain = ["measuredWidth", "measuredHeight", "clippedFrac", "crushedFrac", "atEdgeFrac", "features"];
  if (!plain.every((k) => number(f[k])) || !(f.edgeSigmaPx640 === null || number(f.edgeSigmaPx640))) return null;
  const apart = f.apart as Record<string, unknown> | null | undefined;
  if (apart == null || !number(apart.disagreeFrac) || !number(apart.parallaxFrac)) return null;
  return { frames: frames as number, facts };
}

// The header is plain ASCII: numbers and names of ours.
const asciiBytes = (text: string): Uint8Array => Uint8Array.from(text, (c) => c.charCodeAt(0) & 0x7f);
const latin = (bytes: Uint8Array): string => {
  let text = "";
  for (const b of bytes) text += String.fromCharCode(b);
  return text;
};
