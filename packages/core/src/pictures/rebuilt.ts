// A picture from outside, rebuilt from the parts that draw it: what is not on the list (positions, serial numbers, maker's notes, comments, thumbnails,
// what lies behind the end) is not copied. Its type follows from its bytes. A page does it before it names a picture by its content, the server once more: what
// the one has rebuilt the other leaves as it is. JPEG: ITU-T T.81; PNG: ISO/IEC 15948; orientation: Exif 2.32 (from memory).

export interface Picture {
  mime: "image/jpeg" | "image/png";
  /** Which way is up, EXIF's 1 to 8, is kept; nothing else of EXIF. */
  bytes: Uint8Array;
}

/** Null: neither a whole JPEG nor a whole PNG. Rebuilding what was rebuilt changes nothing. */
export function pictureOf(bytes: Uint8Array): Picture | null {
  const jpeg = bytes[0] === 0xff && bytes[1] === 0xd8 ? rebuiltJpeg(bytes) : null;
  if (jpeg !== null) return { mime: "image/jpeg", bytes: jpeg };
  const png = PNG_START.every((byte, i) => bytes[i] === byte) ? rebuiltPng(bytes) : null;
  return png === null ? null : { mime: "image/png", bytes: png };
}

const viewOf = (bytes: Uint8Array): DataView => new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
const latin = (bytes: Uint8Array, from: number, to: number): string => String.fromCharCode(...bytes.subarray(from, to));
const bytesOf = (text: string): number[] => [...text].map((c) => c.charCodeAt(0));

function joined(parts: readonly Uint8Array[]): Uint8Array {
  const whole = new Uint8Array(parts.reduce((sum, p) => sum + p.length, 0));
  let at = 0;
  for (const part of parts) {
    whole.set(part, at);
    at += part.length;
  }
  return whole;
}

const [SOI, EOI, SOS, APP0, APP1, APP2, APP14, COM] = [0xd8, 0xd9, 0xda, 0xe0, 0xe1, 0xe2, 0xee, 0xfe];

function rebuiltJpeg(all: Uint8Array): Uint8Array | null {
  const view = viewOf(all);
  const kept: Uint8Array[] = [Uint8Array.of(0xff, SOI)];
  let [at, drawn, turned] = [2, false, 1];
  for (;;) {
    while (all[at] === 0xff && all[at + 1] === 0xff) at++;
    const marker = all[at + 1];
    if (all[at] !== 0xff || marker === undefined) return null;
    if (marker === EOI) break;
    const length = at + 4 <= all.length ? view.getUint16(at + 2) : 0;
    const end = at + 2 + length;
    if (length < 2 || end > all.length) return null;
    const body = all.subarray(at + 4, end);
    if (marker === APP1) turned = orientationIn(body) ?? turned;
    else if (marker === APP0) kept.push(...jfif(body));
    else if (draws(marker, body)) kept.push(all.subarray(at, end));
    at = end;
    if (marker !== SOS) continue;
    const next = afterScan(all, at);
    if (next === null) return null;
    kept.push(all.subarray(at, next));
    [at, drawn] = [next, true];
  }
  if (!drawn) return null;
  // Right behind JFIF, or first without it.
  if (turned !== 1) kept.splice(kept[1]?.[1] === APP0 ? 2 : 1, 0, exifOf(turned));
  return joined([...kept, Uint8Array.of(0xff, EOI)]);
}

/** Frames, tables, scans, restart intervals; colour profile and Adobe's transform, without which colours are wrong. */
function draws(marker: number, body: Uint8Array): boolean {
  if (marker === APP2) return latin(body, 0, 12) === "ICC_PROFILE\0";
  if (marker === APP14) return body.length === 12 && latin(body, 0, 5) === "Adobe";
  return marker >= 0xc0 && marker < APP0 && marker !== COM;
}

/** JFIF's density, without a thumbnail. */
function jfif(body: Uint8Array): Uint8Array[] {
  if (body.length < 14 || latin(body, 0, 5) !== "JFIF\0") return [];
  return [Uint8Array.of(0xff, APP0, 0, 16, ...body.subarray(0, 12), 0, 0)];
}

/** Where the data of a scan end: at a marker that is neither a stuffed byte nor a restart. */
function afterScan(all: Uint8Array, from: number): number | null {
  for (let at = all.indexOf(0xff, from); at >= 0 && at + 1 < all.length; at = all.indexOf(0xff, at + 1)) {
    const next = all[at + 1] as number;
    if (next !== 0 && next !== 0xff && !(next >= 0xd0 && next <= 0xd7)) return at;
  }
  return null;
}

/** Tag 0x0112 of the first directory; null where there is none that makes sense. */
function orientationIn(body: Uint8Array): number | null {
  if (body.length < 20 || latin(body, 0, 6) !== "Exif\0\0") return null;
  const tiff = viewOf(body.subarray(6));
  const order = latin(body, 6, 8);
  if (order !== "II" && order !== "MM") return null;
  const little = order === "II";
  const u16 = (at: number): number => (at + 2 > tiff.byteLength ? 0 : tiff.getUint16(at, little));
  const first = tiff.getUint32(4, little);
  for (let i = 0; i < Math.min(u16(first), 200); i++) {
    const entry = first + 2 + 12 * i;
    const value = u16(entry + 8);
    if (u16(entry) === 0x0112 && u16(entry + 2) === 3 && value >= 1 && value <= 8) return value;
  }
  return null;
}

/** The one thing of EXIF that is kept: a little-endian directory of one entry, a short. */
function exifOf(orientation: number): Uint8Array {
  const directory = [1, 0, 0x12, 0x01, 3, 0, 1, 0, 0, 0, orientation, 0, 0, 0, 0, 0, 0, 0];
  const body = [...bytesOf("Exif\0\0"), ...bytesOf("II*\0"), 8, 0, 0, 0, ...directory];
  return Uint8Array.of(0xff, APP1, 0, body.length + 2, ...body);
}

const PNG_START = Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a);
const PNG_KEPT: readonly string[] = ["IHDR", "PLTE", "IDAT", "IEND", "tRNS", "gAMA", "cHRM", "sRGB", "iCCP", "sBIT", "pHYs", "bKGD"];

function rebuiltPng(all: Uint8Array): Uint8Array | null {
  const view = viewOf(all);
  const kept: Uint8Array[] = [PNG_START];
  let [at, drawn] = [8, false];
  while (at + 12 <= all.length) {
    const end = at + 12 + view.getUint32(at);
    if (end > all.length) return null;
    const type = latin(all, at + 4, at + 8);
    if (at === 8 && type !== "IHDR") return null;
    if (PNG_KEPT.includes(type)) kept.push(all.subarray(at, end));
    drawn ||= type === "IDAT";
    if (type === "IEND") return drawn ? joined(kept) : null;
    at = end;
  }
  return null;
}
