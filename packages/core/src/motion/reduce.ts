// A plane of brightness as a decoder gives it, averaged down to the size that is measured. One path for browser and server.

import type { Luma } from "./luma.ts";
import { emptyLuma } from "./luma.ts";

/** The longer side of a measured frame, px; a smaller picture keeps its size. */
export const MEASURED_LONG_PX = 640;
export const LEAST_SIDE_PX = 64;

/** Quarter turns clockwise by which the stored picture is shown. */
export type Turns = 0 | 1 | 2 | 3;

export interface PlaneShape {
  width: number;
  height: number;
  /** Samples from one row to the next. */
  stride: number;
  /** 8, or more in 16-bit samples of which the low bits count. */
  bits: number;
  turns: Turns;
}

/** Size of the measured frame of a plane, as it is shown. RangeError below 64 px a side. */
export function measuredSize(shape: Pick<PlaneShape, "width" | "height" | "turns">): { width: number; height: number } {
  const [w, h] = shape.turns % 2 === 0 ? [shape.width, shape.height] : [shape.height, shape.width];
  const scale = Math.min(1, MEASURED_LONG_PX / Math.max(w, h));
  const size = { width: Math.round(w * scale), height: Math.round(h * scale) };
  if (Math.min(size.width, size.height) < LEAST_SIDE_PX)
    throw new RangeError(`size must be at least ${LEAST_SIDE_PX} px a side once reduced, got ${w} × ${h}`);
  return size;
}

export type Plane = Uint8Array | Uint16Array;

export type Reduce = (plane: Plane, to: Luma) => void;

/** How many samples each pixel of the reduced frame is the mean of, across and down; null where they are no whole numbers. */
export function wholeTimes(shape: PlaneShape): { x: number; y: number } | null {
  const shown = measuredSize(shape);
  const [w, h] = shape.turns % 2 === 0 ? [shown.width, shown.height] : [shown.height, shown.width];
  const times = { x: shape.width / w, y: shape.height / h };
  return Number.isInteger(times.x) && Number.isInteger(times.y) ? times : null;
}

/** Averages every pixel of the reduced frame over the area of the plane it covers; parts of samples count in part. */
export function planeReducer(shape: PlaneShape): Reduce {
  const shown = measuredSize(shape);
  const [w, h] = shape.turns % 2 === 0 ? [shown.width, shown.height] : [shown.height, shown.width];
  const columns = shares(shape.width, w);
  const rows = shares(shape.height, h);
  const line = new Float32Array(w);
  const flat = shape.turns === 0 ? null : emptyLuma(w, h);
  const scale = 1 / (((shape.width * shape.height) / (w * h)) * 2 ** (shape.bits - 8));
  // Most sizes are whole multiples of what is measured: no sample counts in part, and the loops are plain.
  const whole = wholeTimes(shape);
  return (plane, to) => {
    const out = flat ?? to;
    if (whole !== null) averageWhole(plane, shape.stride, whole, scale, out);
    for (let y = whole === null ? 0 : h; y < h; y++) {
      line.fill(0);
      const [first, last] = [rows.first[y] as number, rows.last[y] as number];
      for (let sy = first; sy <= last; sy++) {
        const share = sy === first ? (rows.firstShare[y] as number) : sy === last ? (rows.lastShare[y] as number) : 1;
        addRow(plane, sy * shape.stride, share, columns, line);
      }
      for (let x = 0; x < w; x++) out.data[y * w + x] = (line[x] as number) * scale;
    }
    if (flat !== null) turn(flat, shape.turns, to);
  };
}

function averageWhole(
  plane: Plane,
  stride: number,
  { x: timesX, y: timesY }: { x: number; y: number },
  scale: number,
  { width, height, data }: Luma,
): void {
  for (let y = 0, at = 0; y < height; y++)
    for (let x = 0; x < width; x++, at++) {
      let sum = 0;
      let row = y * timesY * stride + x * timesX;
      for (let r = 0; r < timesY; r++, row += stride) for (let i = row; i < row + timesX; i++) sum += plane[i] as number;
      data[at] = sum * scale;
    }
}

interface Shares {
  first: Int32Array;
  last: Int32Array;
  firstShare: Float32Array;
  lastShare: Float32Array;
}

/** Which samples of `from` each of `to` equal parts covers, and how much of the first and the last. */
function shares(from: number, to: number): Shares {
  const s: Shares = {
    first: new Int32Array(to),
    last: new Int32Array(to),
    firstShare: new Float32Array(to),
    lastShare: new Float32Array(to),
  };
  for (let i = 0; i < to; i++) {
    const [a, b] = [(i * from) / to, ((i + 1) * from) / to];
    const first = Math.floor(a + 1e-9);
    const last = Math.max(first, Math.ceil(b - 1e-9) - 1);
    s.first[i] = first;
    s.last[i] = last;
    s.firstShare[i] = first === last ? b - a : first + 1 - a;
    s.lastShare[i] = b - last;
  }
  return s;
}

function addRow(plane: Plane, at: number, share: number, { first, last, firstShare, lastShare }: Shares, line: Float32Array): void {
  for (let x = 0; x < line.length; x++) {
    const from = at + (first[x] as number);
    const to = at + (last[x] as number);
    let sum = (plane[from] as number) * (firstShare[x] as number);
    for (let i = from + 1; i < to; i++) sum += plane[i] as number;
    if (to > from) sum += (plane[to] as number) * (lastShare[x] as number);
    line[x] = (line[x] as number) + share * sum;
  }
}

function turn(from: Luma, turns: Turns, to: Luma): void {
  const { width: w, height: h, data } = from;
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const v = data[y * w + x] as number;
      if (turns === 1) to.data[x * h + h - 1 - y] = v;
      else if (turns === 2) to.data[(h - 1 - y) * w + w - 1 - x] = v;
      else to.data[(w - 1 - x) * h + y] = v;
    }
}
