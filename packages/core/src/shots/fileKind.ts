// What a picture file is, by its first bytes, and whether it is whole. JPEG: ITU-T T.81; PNG: ISO/IEC 15948; WebP and HEIF by their containers (from memory).

export type FileKind = "jpeg" | "png" | "webp" | "heic" | "raw";

const starts = (bytes: Uint8Array, ...values: readonly number[]): boolean => values.every((v, i) => bytes[i] === v);
const text = (bytes: Uint8Array, from: number, to: number): string => String.fromCharCode(...bytes.subarray(from, to));
const HEIF_BRANDS = ["heic", "heix", "hevc", "heim", "heis", "mif1", "msf1", "avif"];

/** Null: no picture that is known here. A raw picture is one kept in a TIFF container. */
export function fileKind(bytes: Uint8Array): FileKind | null {
  if (starts(bytes, 0xff, 0xd8, 0xff)) return "jpeg";
  if (starts(bytes, 0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a)) return "png";
  if (text(bytes, 0, 4) === "RIFF" && text(bytes, 8, 12) === "WEBP") return "webp";
  if (text(bytes, 4, 8) === "ftyp" && HEIF_BRANDS.includes(text(bytes, 8, 12))) return "heic";
  return starts(bytes, 0x49, 0x49, 0x2a, 0) || starts(bytes, 0x4d, 0x4d, 0, 0x2a) ? "raw" : null;
}

/** Whether the file goes on to its own end. Some recorders write more behind it. */
export function isWhole(bytes: Uint8Array, kind: FileKind): boolean {
  switch (kind) {
    case "jpeg":
      // In its last bytes, which is quickly seen; else its own end, not that of a small picture inside it, where more is written behind it.
      return lastIndexOf(bytes.subarray(-TAIL), 0xff, 0xd9) >= 0 || endOfJpeg(bytes, 0) !== null;
    case "png":
      return lastIndexOf(bytes, 0x49, 0x45, 0x4e, 0x44) > 0;
    case "webp":
      return bytes.length >= 8 && new DataView(bytes.buffer, bytes.byteOffset).getUint32(4, true) + 8 <= bytes.length + 1;
    case "heic":
    case "raw":
      return true;
  }
}

/** Some recorders pad the end. */
const TAIL = 16;

function lastIndexOf(bytes: Uint8Array, ...values: readonly number[]): number {
  for (let at = bytes.length - values.length; at >= 0; at--) if (values.every((v, i) => bytes[at + i] === v)) return at;
  return -1;
}

/** Pixels of a WebP picture by its first chunk: lossy, lossless, or extended; null when it is none of them. */
export function webpSize(bytes: Uint8Array): { width: number; height: number } | null {
  if (bytes.length < 30) return null;
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const three = (at: number): number => 1 + view.getUint16(at, true) + ((bytes[at + 2] as number) << 16);
  switch (text(bytes, 12, 16)) {
    case "VP8 ":
      return { width: view.getUint16(26, true) & 0x3fff, height: view.getUint16(28, true) & 0x3fff };
    case "VP8L": {
      const packed = view.getUint32(21, true);
      return { width: 1 + (packed & 0x3fff), height: 1 + ((packed >>> 14) & 0x3fff) };
    }
    case "VP8X":
      return { width: three(24), height: three(27) };
    default:
      return null;
  }
}

/** The largest JPEG inside a raw file: its picture as the camera drew it. Null without one. */
export function embeddedJpeg(bytes: Uint8Array): Uint8Array | null {
  let best: Uint8Array | null = null;
  for (let from = bytes.indexOf(0xff); from >= 0; from = bytes.indexOf(0xff, from + 1)) {
    if (bytes[from + 1] !== 0xd8 || bytes[from + 2] !== 0xff) continue;
    const end = endOfJpeg(bytes, from);
    if (end === null) continue;
    if (best === null || end - from > best.length) best = bytes.subarray(from, end);
    from = end - 1;
  }
  return best;
}

/** What a JPEG says before its picture data begin; all of it when they never do. */
export function headOfJpeg(bytes: Uint8Array): Uint8Array {
  for (let at = 2; at + 4 <= bytes.length && bytes[at] === 0xff; ) {
    const marker = bytes[at + 1] as number;
    if (marker === 0xda) return bytes.subarray(0, at + 2);
    at += marker === 0xff ? 1 : 2 + ((bytes[at + 2] as number) << 8) + (bytes[at + 3] as number);
  }
  return bytes;
}

/** Behind its end marker, over its segments; null when it is none. */
function endOfJpeg(bytes: Uint8Array, from: number): number | null {
  let at = from + 2;
  while (at + 2 <= bytes.length) {
    if (bytes[at] !== 0xff) return null;
    const marker = bytes[at + 1] as number;
    if (marker === 0xd9) return at + 2;
    if (marker === 0xff) at += 1;
    else if (marker === 0xda) {
      const end = afterScan(bytes, at + 2);
      if (end === null) return null;
      at = end;
    } else at += 2 + ((bytes[at + 2] as number) << 8) + (bytes[at + 3] as number);
  }
  return null;
}
function afterScan(bytes: Uint8Array, from: number): number | null {
  for (let at = bytes.indexOf(0xff, from); at >= 0 && at + 1 < bytes.length; at = bytes.indexOf(0xff, at + 1)) {
    const next = bytes[at + 1] as number;
    // Stuffed bytes and restarts belong to the scan.
    if (next !== 0 && !(next >= 0xd0 && next <= 0xd7) && next !== 0xff) return at;
  }
  return null;
}
