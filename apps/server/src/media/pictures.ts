// A picture from outside, rebuilt from the parts that draw it: what is not on the list (positions, serial numbers, maker's notes, comments, thumbnails,
// what lies behind the end) is not copied. Its type follows from its bytes. JPEG: ITU-T T.81; PNG: ISO/IEC 15948.

export interface Picture {
  mime: "image/jpeg" | "image/png";
  /** Which way is up, EXIF's 1 to 8, is kept; nothing else of EXIF. */
  bytes: Uint8Array;
}

/** Null: neither a whole JPEG nor a whole PNG. Rebuilding what was rebuilt changes nothing. */
export function pictureOf(bytes: Uint8Array): Picture | null {
  const all = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const jpeg = all[0] === 0xff && all[1] === 0xd8 ? rebuiltJpeg(all) : null;
  if (jpeg !== null) return { mime: "image/jpeg", bytes: jpeg };
  const png = all.subarray(0, 8).equals(PNG_START) ? rebuiltPng(all) : null;
  return png === null ? null : { mime: "image/png", bytes: png };
}

const [SOI, EOI, SOS, APP0, APP1, APP2, APP14, COM] = [0xd8, 0xd9, 0xda, 0xe0, 0xe1, 0xe2, 0xee, 0xfe];

function rebuiltJpeg(all: Buffer): Buffer | null {
  const kept: Buffer[] = [Buffer.from([0xff, SOI])];
  let [at, drawn, turned] = [2, false, 1];
  for (;;) {
    while (all[at] === 0xff && all[at + 1] === 0xff) at++;
    const marker = all[at + 1];
    if (all[at] !== 0xff || marker === undefined) return null;
    if (marker === EOI) break;
    const length = at + 4 <= all.length ? all.readUInt16BE(at + 2) : 0;
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
  return Buffer.concat([...kept, Buffer.from([0xff, EOI])]);
}

/** Frames, tables, scans, restart intervals; colour profile and Adobe's transform, without which colours are wrong. */
function draws(marker: number, body: Buffer): boolean {
  if (marker === APP2) return body.subarray(0, 12).toString("latin1") === "ICC_PROFILE\0";
  if (marker === APP14) return body.length === 12 && body.subarray(0, 5).toString("latin1") === "Adobe";
  return marker >= 0xc0 && marker < APP0 && marker !== COM;
}

/** JFIF's density, without a thumbnail. */
function jfif(body: Buffer): Buffer[] {
  if (body.length < 14 || body.subarray(0, 5).toString("latin1") !== "JFIF\0") return [];
  return [Buffer.concat([Buffer.from([0xff, APP0, 0, 16]), body.subarray(0, 12), Buffer.from([0, 0])])];
}

/** Where the data of a scan end: at a marker that is neither a stuffed byte nor a restart. */
function afterScan(all: Buffer, from: number): number | null {
  for (let at = all.indexOf(0xff, from); at >= 0 && at + 1 < all.length; at = all.indexOf(0xff, at + 1)) {
    const next = all[at + 1] as number;
    if (next !== 0 && next !== 0xff && !(next >= 0xd0 && next <= 0xd7)) return at;
  }
  return null;
}

/** Tag 0x0112 of the first directory; null where there is none that makes sense. */
function orientationIn(body: Buffer): number | null {
  if (body.length < 20 || body.subarray(0, 6).toString("latin1") !== "Exif\0\0") return null;
  const tiff = body.subarray(6);
  const order = tiff.subarray(0, 2).toString("latin1");
  if (order !== "II" && order !== "MM") return null;
  const u16 = (at: number): number => (at + 2 > tiff.length ? 0 : order === "II" ? tiff.readUInt16LE(at) : tiff.readUInt16BE(at));
  const first = order === "II" ? tiff.readUInt32LE(4) : tiff.readUInt32BE(4);
  for (let i = 0; i < Math.min(u16(first), 200); i++) {
    const entry = first + 2 + 12 * i;
    const value = u16(entry + 8);
    if (u16(entry) === 0x0112 && u16(entry + 2) === 3 && value >= 1 && value <= 8) return value;
  }
  return null;
}

/** The one thing of EXIF that is kept. */
function exifOf(orientation: number): Buffer {
  const tiff = Buffer.alloc(26);
  tiff.write("II*\0", 0, "latin1");
  tiff.writeUInt32LE(8, 4);
  tiff.writeUInt16LE(1, 8);
  tiff.writeUInt16LE(0x0112, 10);
  tiff.writeUInt16LE(3, 12);
  tiff.writeUInt32LE(1, 14);
  tiff.writeUInt16LE(orientation, 18);
  const body = Buffer.concat([Buffer.from("Exif\0\0", "latin1"), tiff]);
  const head = Buffer.from([0xff, APP1, 0, 0]);
  head.writeUInt16BE(body.length + 2, 2);
  return Buffer.concat([head, body]);
}

const PNG_START = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]);
const PNG_KEPT: readonly string[] = ["IHDR", "PLTE", "IDAT", "IEND", "tRNS", "gAMA", "cHRM", "sRGB", "iCCP", "sBIT", "pHYs", "bKGD"];

function rebuiltPng(all: Buffer): Buffer | null {
  const kept: Buffer[] = [PNG_START];
  let [at, drawn] = [8, false];
  while (at + 12 <= all.length) {
    const end = at + 12 + all.readUInt32BE(at);
    if (end > all.length) return null;
    const type = all.subarray(at + 4, at + 8).toString("latin1");
    if (at === 8 && type !== "IHDR") return null;
    if (PNG_KEPT.includes(type)) kept.push(all.subarray(at, end));
    drawn ||= type === "IDAT";
    if (type === "IEND") return drawn ? Buffer.concat(kept) : null;
    at = end;
  }
  return null;
}
