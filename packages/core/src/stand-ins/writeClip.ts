// Writes what the simulated camera's card holds: an MP4 with a right index (creation time, durations, sizes of samples, time code) and a picture
// of zeros. The zeros are never made: a clip of many gigabytes is its head, a length, and its tail. Source: ISO/IEC 14496-12 boxes, from
// memory; checked by a demuxer and by another program's reader in the tests.

export interface ClipSpec {
  /** Camera time, ms; written in whole seconds. */
  createdMs: number;
  frames: number;
  fpsNum: number;
  fpsDen: number;
  widthPx: number;
  heightPx: number;
  fourcc: "avc1" | "hvc1";
  /** Bytes of one frame. */
  sampleBytes: number;
  /** Frames since midnight; null: no time code track. */
  timeCodeFrame: number | null;
  dropFrame: boolean;
  /** The power went while it was written: no index. */
  cutOff: boolean;
}
/** Bytes of the file: head, `zeros` zero bytes, tail. */
export interface LaidOut {
  bytes: number;
  head: Uint8Array;
  zeros: number;
  tail: Uint8Array;
}

/** Seconds between 1904 and 1970. */
const EPOCH_SEC = 2_082_844_800;
const CODE_BYTES = 4;

type Bytes = readonly number[];
const u16 = (v: number): Bytes => [(v >>> 8) & 255, v & 255];
const u32 = (v: number): Bytes => [Math.floor(v / 2 ** 24) & 255, (v >>> 16) & 255, (v >>> 8) & 255, v & 255];
const u64 = (v: number): Bytes => [...u32(Math.floor(v / 2 ** 32)), ...u32(v % 2 ** 32)];
const text = (s: string): Bytes => [...s].map((c) => c.charCodeAt(0));
const zeros = (n: number): Bytes => new Array<number>(n).fill(0);
const box = (type: string, ...parts: Bytes[]): Bytes => {
  const body = parts.flat();
  return [...u32(body.length + 8), ...text(type), ...body];
};
const full = (type: string, flags: number, ...parts: Bytes[]): Bytes => box(type, u32(flags), ...parts);

/** `RangeError` for a clip without frames or rate. */
export function layOutClip(spec: ClipSpec): LaidOut {
  if (!(spec.frames > 0)) throw new RangeError(`frames must be positive, got ${spec.frames}`);
  if (!(spec.fpsNum > 0 && spec.fpsDen > 0)) throw new RangeError(`the rate must be positive, got ${spec.fpsNum}/${spec.fpsDen}`);
  const ftyp = box("ftyp", text("isom"), u32(512), text("isom"), text("mp42"));
  const picture = spec.frames * spec.sampleBytes;
  const mdatHead = [...u32(1), ...text("mdat"), ...u64(16 + CODE_BYTES + picture)];
  const head = Uint8Array.from([...ftyp, ...mdatHead, ...u32(spec.timeCodeFrame ?? 0)]);
  const tail = spec.cutOff ? new Uint8Array(0) : Uint8Array.from(moov(spec, head.length));
  return { bytes: head.length + picture + tail.length, head, zeros: picture, tail };
}

/** Bytes [from, to) of the file. */
export function bytesOf({ head, zeros: gap, tail, bytes }: LaidOut, from: number, to: number): Uint8Array<ArrayBuffer> {
  const end = Math.min(to, bytes);
  const out = new Uint8Array(Math.max(0, end - from));
  const put = (part: Uint8Array, at: number): void => {
    const [lo, hi] = [Math.max(from, at), Math.min(end, at + part.length)];
    if (hi > lo) out.set(part.subarray(lo - at, hi - at), lo - from);
  };
  put(head, 0);
  put(tail, head.length + gap);
  return out;
}

function moov(spec: ClipSpec, pictureAt: number): Bytes {
  const created = Math.floor(spec.createdMs / 1000) + EPOCH_SEC;
  const duration = spec.frames * spec.fpsDen;
  const tracks = spec.timeCodeFrame === null ? 1 : 2;
  const mvhd = full(
    "mvhd",
    0,
    u32(created),
    u32(created),
    u32(spec.fpsNum),
    u32(duration),
    u32(0x10000),
    u16(0x100),
    zeros(10),
    MATRIX,
    zeros(24),
    u32(tracks + 1),
  );
  const video = track(spec, {
    id: 1,
    created,
    duration,
    handler: "vide",
    header: full("vmhd", 1, zeros(8)),
    table: videoTable(spec, pictureAt),
  });
  if (spec.timeCodeFrame === null) return box("moov", mvhd, video);
  const code = track(spec, {
    id: 2,
    created,
    duration,
    handler: "tmcd",
    header: full("nmhd", 0),
    table: codeTable(spec, duration, pictureAt - CODE_BYTES),
  });
  return box("moov", mvhd, video, code);
}

const MATRIX: Bytes = [...u32(0x10000), ...zeros(12), ...u32(0x10000), ...zeros(12), ...u32(0x40000000)];

interface TrackParts {
  id: number;
  created: number;
  duration: number;
  handler: "vide" | "tmcd";
  header: Bytes;
  table: Bytes;
}

function track(spec: ClipSpec, t: TrackParts): Bytes {
  const [w, h] = t.handler === "vide" ? [spec.widthPx, spec.heightPx] : [0, 0];
  const tkhd = full(
    "tkhd",
    3,
    u32(t.created),
    u32(t.created),
    u32(t.id),
    u32(0),
    u32(t.duration),
    zeros(16),
    MATRIX,
    u16(w),
    u16(0),
    u16(h),
    u16(0),
  );
  const mdhd = full("mdhd", 0, u32(t.created), u32(t.created), u32(spec.fpsNum), u32(t.duration), u16(0x55c4), u16(0));
  const hdlr = full("hdlr", 0, u32(0), text(t.handler), zeros(12), text("stand-in"), [0]);
  const dinf = box("dinf", full("dref", 0, u32(1), full("url ", 1)));
  return box("trak", tkhd, box("mdia", mdhd, hdlr, box("minf", t.header, dinf, t.table)));
}

const sampleTable = (entry: Bytes, count: number, delta: number, size: number, chunkAt: number): Bytes =>
  box(
    "stbl",
    full("stsd", 0, u32(1), entry),
    full("stts", 0, u32(1), u32(count), u32(delta)),
    full("stsc", 0, u32(1), u32(1), u32(count), u32(1)),
    full("stsz", 0, u32(size), u32(count)),
    full("co64", 0, u32(1), u64(chunkAt)),
  );

const videoTable = (spec: ClipSpec, at: number): Bytes => sampleTable(videoEntry(spec), spec.frames, spec.fpsDen, spec.sampleBytes, at);

function videoEntry({ fourcc, widthPx, heightPx }: ClipSpec): Bytes {
  const shared = [zeros(6), u16(1), zeros(16), u16(widthPx), u16(heightPx), u32(0x480000), u32(0x480000), u32(0), u16(1), zeros(32)];
  const config = fourcc === "avc1" ? box("avcC", [1, 0x64, 0, 0x33, 0xff, 0xe0, 0]) : box("hvcC", [1, 2], zeros(10), [0x99], zeros(9), [0]);
  return box(fourcc, ...shared, u16(24), u16(0xffff), config);
}

/** One sample, one number: the count of the first frame. */
function codeTable(spec: ClipSpec, duration: number, at: number): Bytes {
  const nominal = Math.round(spec.fpsNum / spec.fpsDen);
  const entry = box("tmcd", zeros(6), u16(1), u32(0), u32(spec.dropFrame ? 1 : 0), u32(spec.fpsNum), u32(spec.fpsDen), [nominal, 0]);
  return sampleTable(entry, 1, duration, CODE_BYTES, at);
}
