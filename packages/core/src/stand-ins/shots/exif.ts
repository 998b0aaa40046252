// Exif as cameras write it, for made pictures: a TIFF directory with its sub-directory, in either order of bytes. Exif 2.32 (from memory).

export type ExifValue = string | number | readonly [number, number] | { short: number };
export interface ExifBlock {
  /** Tags of the picture itself, by number. */
  main: Readonly<Record<number, ExifValue>>;
  /** Tags of how it was taken. */
  taken: Readonly<Record<number, ExifValue>>;
  littleEndian: boolean;
}

export const TAG = {
  make: 0x010f,
  model: 0x0110,
  orientation: 0x0112,
  exposureTime: 0x829a,
  fNumber: 0x829d,
  iso: 0x8827,
  longIso: 0x8832,
  takenAt: 0x9003,
  offset: 0x9011,
  shutterSpeed: 0x9201,
  aperture: 0x9202,
  focal: 0x920a,
  subSec: 0x9291,
  width: 0xa002,
  height: 0xa003,
  planeX: 0xa20e,
  planeY: 0xa20f,
  planeUnit: 0xa210,
  equivalent: 0xa405,
} as const;
const SUB_DIRECTORY = 0x8769;

/** Text, whole number of four bytes, fraction (signed when either part is below zero), or a short. */
export function exifBytes({ main, taken, littleEndian }: ExifBlock): Uint8Array {
  const bytes = new Uint8Array(4096);
  const view = new DataView(bytes.buffer);
  bytes.set(littleEndian ? [0x49, 0x49] : [0x4d, 0x4d]);
  view.setUint16(2, 42, littleEndian);
  view.setUint32(4, 8, littleEndian);
  let room = 8;
  const directory = (tags: Readonly<Record<number, ExifValue>>, subAt: number | null): void => {
    const rows = Object.entries(tags).map(([tag, value]) => [Number(tag), value] as const);
    const all = (subAt === null ? rows : [...rows, [SUB_DIRECTORY, subAt] as const]).sort((a, b) => a[0] - b[0]);
    const at = room;
    room += 2 + 12 * all.length + 4;
    view.setUint16(at, all.length, littleEndian);
    for (const [i, [tag, value]] of all.entries()) entry(at + 2 + 12 * i, tag, value);
  };
  const entry = (at: number, tag: number, value: ExifValue): void => {
    view.setUint16(at, tag, littleEndian);
    const [type, count] = typeOf(value);
    view.setUint16(at + 2, type, littleEndian);
    view.setUint32(at + 4, count, littleEndian);
    if (typeof value === "number") view.setUint32(at + 8, value, littleEndian);
    else if (typeof value === "object" && "short" in value) view.setUint16(at + 8, value.short, littleEndian);
    else {
      const short = typeof value === "string" && count <= 4;
      if (!short) view.setUint32(at + 8, room, littleEndian);
      const to = short ? at + 8 : room;
      if (typeof value === "string") bytes.set(new TextEncoder().encode(value), to);
      else for (const [i, part] of value.entries()) view.setInt32(to + 4 * i, part, littleEndian);
      if (!short) room += (count * (typeof value === "string" ? 1 : 8) + 1) & ~1;
    }
  };
  // The main directory's size is known before its rows are written; the sub-directory lies behind what they need.
  const mainSize = 2 + 12 * (Object.keys(main).length + 1) + 4;
  const needs = Object.values(main).reduce<number>(
    (s, v) => s + (typeof v === "string" ? (v.length + 2) & ~1 : Array.isArray(v) ? 8 : 0),
    0,
  );
  const subAt = 8 + mainSize + needs;
  directory(main, subAt);
  room = subAt;
  directory(taken, null);
  return bytes.slice(0, room);
}

function typeOf(value: ExifValue): [type: number, count: number] {
  if (typeof value === "string") return [2, value.length + 1];
  if (typeof value === "number") return [4, 1];
  if ("short" in value) return [3, 1];
  return [value.some((v) => v < 0) ? 10 : 5, 1];
}

/** The JPEG with this block right behind its start. */
export function withExif(jpeg: Uint8Array, block: ExifBlock): Uint8Array {
  const exif = exifBytes(block);
  const length = 2 + 6 + exif.length;
  const head = Uint8Array.of(0xff, 0xd8, 0xff, 0xe1, length >> 8, length & 0xff, 0x45, 0x78, 0x69, 0x66, 0, 0);
  const whole = new Uint8Array(head.length + exif.length + jpeg.length - 2);
  whole.set(head);
  whole.set(exif, head.length);
  whole.set(jpeg.subarray(2), head.length + exif.length);
  return whole;
}
