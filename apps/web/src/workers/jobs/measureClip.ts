import type { ClipRecord, KeyFrame, PlaneShape, SimdKernels } from "@keep-rolling/core/motion";
import { clipMeter, combWatch, FULL, measuredSize, NARROW, packRecord } from "@keep-rolling/core/motion";
import type { Microphone } from "@keep-rolling/core/sound";
import { sha256 } from "@noble/hashes/sha2.js";
import { bytesToHex } from "@noble/hashes/utils.js";
import type { VideoSample } from "mediabunny";
import type { ClipTrouble, OpenedClip } from "../../shared/video/decode.ts";
import { ClipFault, microphoneOf, openClip, readPlanes, shapeOf } from "../../shared/video/decode.ts";
import { framesApart } from "../../shared/video/framesApart.ts";
import { kernelsFor } from "../../shared/video/kernels.ts";
import type { ProxyWriter } from "../../shared/video/proxy.ts";
import { proxyWriter } from "../../shared/video/proxy.ts";
import { greyPicture } from "../../shared/video/stills.ts";
import type { JobContext } from "../jobContext.ts";

export interface Still {
  timeSec: number;
  picture: Blob;
}
export type ClipMeasured =
  | {
      ok: true;
      pack: Uint8Array;
      widthPx: number;
      heightPx: number;
      codec: string;
      durationMs: number;
      stills: Still[];
      /** A small copy for looking at; null where this browser cannot encode one. */
      proxy: Blob | null;
      notes: string[];
      sound: Microphone | null;
    }
  | { ok: false; trouble: ClipTrouble };

/** Decodes a clip and measures it frame by frame, with two frames in memory. Progress in thousandths. */
export async function run(file: File, { onProgress }: JobContext): Promise<ClipMeasured> {
  let clip: OpenedClip | null = null;
  try {
    clip = await openClip(file);
    return await measured(file, clip, onProgress);
  } catch (error) {
    if (error instanceof ClipFault) return { ok: false, trouble: error.trouble };
    // A decoder that gives up mid-way says so by an error of its own.
    if (error instanceof DOMException || error instanceof TypeError || error instanceof Error) return { ok: false, trouble: "not-decoded" };
    throw error;
  } finally {
    clip?.close();
  }
}

interface Begun {
  meter: ReturnType<typeof clipMeter>;
  kernels: SimdKernels;
  /** Of the first frame's shape, once its rows in memory are known. */
  reduce: ReturnType<SimdKernels["reducer"]> | null;
  shape: Omit<PlaneShape, "stride">;
  proxy: ProxyWriter;
  room: Uint8Array<ArrayBuffer>;
}

async function measured(file: File, clip: OpenedClip, onProgress: JobContext["onProgress"]): Promise<ClipMeasured> {
  let begun: Begun | null = null;
  let [frames, firstSec, lastSec] = [0, 0, 0];
  const notes = new Set<string>();
  const combs = combWatch();
  for await (const sample of framesApart(file, clip)) {
    try {
      begun ??= await begin(sample);
      const plane = await readPlanes(sample, begun.room);
      begun.reduce ??= begun.kernels.reducer(plane.shape);
      if (plane.shape.width !== begun.shape.width || plane.shape.height !== begun.shape.height) {
        notes.add("size-changed");
        break;
      }
      if (frames === 0) firstSec = sample.timestamp;
      combs.look(plane.plane, plane.shape);
      const frame = begun.meter.frame();
      begun.reduce(plane.plane, frame);
      const copied = begun.proxy.push(frame, plane, Math.max(0, sample.timestamp - firstSec));
      begun.meter.push(sample.timestamp - firstSec);
      await copied;
      lastSec = sample.timestamp;
      if (["pq", "smpte2084", "hlg", "arib-std-b67"].includes(sample.colorSpace.transfer ?? "")) notes.add("hdr");
      if (++frames % 15 === 0) onProgress(Math.min(999, Math.round((1000 * sample.timestamp) / Math.max(0.1, clip.durationSec))), 1000);
    } finally {
      sample.close();
    }
  }
  if (begun === null) return { ok: false, trouble: "not-decoded" };
  if (combs.combed()) notes.add("interlaced");
  if (lastSec - firstSec < clip.durationSec - 0.5) notes.add("cut-off");
  const { keyFrames, ...record } = begun.meter.finish();
  const proxy = await begun.proxy.finish();
  return await answer(clip, record, keyFrames, proxy, [...notes]);
}

async function begin(sample: VideoSample): Promise<Begun> {
  const shape = shapeOf(sample);
  const { width, height } = sizeOf(shape);
  const kernels = await kernelsFor(width, height, sample.allocationSize());
  const meter = clipMeter(width, height, sample.colorSpace.fullRange === true ? FULL : NARROW, kernels);
  return { meter, kernels, reduce: null, shape, proxy: await proxyWriter(width, height, kernels), room: kernels.samples };
}

function sizeOf(shape: Begun["shape"]): { width: number; height: number } {
  try {
    return measuredSize(shape);
  } catch {
    throw new ClipFault("too-small");
  }
}

async function answer(
  clip: OpenedClip,
  record: ClipRecord,
  keyFrames: readonly KeyFrame[],
  proxy: Blob | null,
  notes: string[],
): Promise<ClipMeasured> {
  const stills: Still[] = [];
  for (const { timeSec, half } of keyFrames) stills.push({ timeSec, picture: await greyPicture(half) });
  return {
    ok: true,
    pack: packRecord(record),
    widthPx: clip.widthPx,
    heightPx: clip.heightPx,
    codec: clip.codec,
    durationMs: Math.round(clip.durationSec * 1000),
    stills,
    proxy,
    notes,
    sound: await microphoneOf(clip),
  };
}

const PIECE = 4 * 1024 * 1024;

/** SHA-256 of a file of any size, a piece at a time. */
export async function hashOf(file: Blob): Promise<string> {
  const hash = sha256.create();
  for (let at = 0; at < file.size; at += PIECE) hash.update(new Uint8Array(await file.slice(at, at + PIECE).arrayBuffer()));
  return bytesToHex(hash.digest());
}
