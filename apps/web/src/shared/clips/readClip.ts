// One clip's index through the demuxer, a piece at a time: what lies between is skipped, so a file of many gigabytes costs a few reads. The time
// code, which the demuxer knows but does not read, is four bytes at a place its index names.

import type { Clip, ClipRead, TimeCode } from "@keep-rolling/core/clips";
import { createFile, Log, MP4BoxBuffer } from "mp4box";
import type { ISOFile, Movie, Track } from "mp4box";

/** Where bytes come from: a dropped file, or an address that answers ranges. */
export interface ByteSource {
  name: string;
  bytes: number;
  modifiedMs: number | null;
  /** Bytes [from, to). */
  read: (from: number, to: number) => Promise<ArrayBuffer>;
}

// Broken boxes are told by the answer, not on the console.
Log.error = (module, message, file) => file?.onError?.(module, message ?? "");
Log.warn = () => undefined;

const PIECE_BYTES = 256 * 1024;
/** Nobody's index is larger; what claims to be is broken. */
const INDEX_MOST_BYTES = 256 * 1024 * 1024;

export async function readClip(source: ByteSource): Promise<Clip> {
  const { name, bytes, modifiedMs } = source;
  const guarded: ByteSource = {
    ...source,
    read: (from, to) => source.read(from, to).catch((error: unknown) => Promise.reject(new SourceGone(error))),
  };
  const read = await readIndex(guarded).catch((error: unknown) => {
    // A file that is no film, or half of one, is an answer; one that can no longer be read is not.
    if (error instanceof SourceGone) throw error;
    return null;
  });
  return { name, bytes, modifiedMs, read };
}

class SourceGone extends Error {
  constructor(cause: unknown) {
    super(cause instanceof Error ? cause.message : String(cause), { cause });
  }
}

async function readIndex(source: ByteSource): Promise<ClipRead | null> {
  const file = createFile();
  let ready = false;
  let broken = false;
  file.onReady = () => (ready = true);
  file.onError = () => (broken = true);
  let taken = 0;
  for (let at = 0; at < source.bytes && !broken && taken < INDEX_MOST_BYTES; ) {
    const piece = await source.read(at, Math.min(source.bytes, at + PIECE_BYTES));
    taken += piece.byteLength;
    at = next(file, piece, at);
    if (ready && !file.getInfo().isFragmented) break;
  }
  if (!ready || broken) return null;
  file.flush();
  return readOf(source, file);
}

/** Where to read on: past the picture's bytes, which are not kept. Never backwards: a broken file must end too. */
function next(file: ISOFile, piece: ArrayBuffer, at: number): number {
  const wanted = file.appendBuffer(MP4BoxBuffer.fromArrayBuffer(piece, at));
  return Math.max(at + 1, wanted ?? at + piece.byteLength);
}

async function readOf(source: ByteSource, file: ISOFile): Promise<ClipRead | null> {
  const info = file.getInfo();
  const video = info.tracks.find((t) => t.type === "video" && t.nb_samples > 0);
  if (video?.video === undefined) return null;
  // An index that stands first outlives the pictures behind it: what it promises must be in the file.
  if (endOfSamples(file, info) > source.bytes) return null;
  const sec = lengthOf(video) / video.timescale;
  if (!(sec > 0)) return null;
  const { num, den } = reduced(video.nb_samples * video.timescale, lengthOf(video));
  return {
    createdMs: createdOf(info),
    durationMs: Math.round(sec * 1000),
    timeCode: await timeCodeOf(source, file),
    widthPx: video.video.width,
    heightPx: video.video.height,
    fpsNum: num,
    fpsDen: den,
    codec: video.codec,
    mbps: Math.round((video.size * 8) / sec / 1000) / 1000,
  };
}

/** Where the last byte of any picture or sound ends that the index names. */
function endOfSamples(file: ISOFile, info: Movie): number {
  let end = 0;
  for (const { id } of info.tracks) for (const sample of file.getTrackSamplesInfo(id)) end = Math.max(end, sample.offset + sample.size);
  return end;
}

/** A fragmented file's length stands in its fragments. */
const lengthOf = (track: Track): number => (track.duration > 0 ? track.duration : track.samples_duration);

/** A zero date (1904) means that the camera wrote none. */
function createdOf({ created }: Movie): number | null {
  const ms = created.getTime();
  return Number.isFinite(ms) && ms > 0 ? ms : null;
}

function reduced(num: number, den: number): { num: number; den: number } {
  let [a, b] = [num, den];
  while (b !== 0) [a, b] = [b, a % b];
  return { num: num / a, den: den / a };
}

interface CodeTrack {
  /** After the data reference: reserved 4, flags 4, time scale 4, frame duration 4, frames a second 1. */
  data?: Uint8Array;
  offset: number;
}

async function timeCodeOf(source: ByteSource, file: ISOFile): Promise<TimeCode | null> {
  const track = codeTrackOf(file);
  if (track?.data === undefined || track.data.byteLength < 17 || track.offset + 4 > source.bytes) return null;
  const entry = new DataView(track.data.buffer, track.data.byteOffset);
  const [fpsNum, fpsDen] = [entry.getUint32(8), entry.getUint32(12)];
  if (fpsNum === 0 || fpsDen === 0) return null;
  const frame = new DataView(await source.read(track.offset, track.offset + 4)).getUint32(0);
  return { frame, ...rate(fpsNum, fpsDen), dropFrame: (entry.getUint32(4) & 1) === 1 };
}

function rate(fpsNum: number, fpsDen: number): Pick<TimeCode, "fpsNum" | "fpsDen"> {
  const { num, den } = reduced(fpsNum, fpsDen);
  return { fpsNum: num, fpsDen: den };
}

function codeTrackOf(file: ISOFile): CodeTrack | null {
  for (const trak of file.moov.traks) {
    const { stsd, stco, co64 } = trak.mdia.minf.stbl;
    const [entry] = stsd.entries as unknown as { type: string; data?: Uint8Array }[];
    const offset = stco?.chunk_offsets[0] ?? co64?.chunk_offsets[0];
    if (entry?.type !== "tmcd" || offset === undefined) continue;
    return { ...(entry.data === undefined ? {} : { data: entry.data }), offset: Number(offset) };
  }
  return null;
}
