// A small copy of a clip for looking at, encoded from the frames as they are measured: the brightness is reduced to this size already.

import type { Luma, MotionKernels } from "@keep-rolling/core/motion";
import { PROXY_MAX_BYTES } from "@keep-rolling/contract/walks";
import { BufferTarget, canEncodeVideo, Output, VideoSample, VideoSampleSource, WebMOutputFormat } from "mediabunny";
import type { ChromaPlane, LumaPlane } from "./decode.ts";

/** Encoded in half the time of its successor, beside the measuring. */
const CODEC = "vp8";
/** About 2 MB a minute. */
const BITRATE = 270_000;
/** Whoever looks at a take looks at minutes, not hours. */
const MOST_SEC = 1800;
const KEY_EVERY_SEC = 2;
/** Of faster clips every second frame, or fewer: to be looked at, thirty a second will do. */
const LEAST_APART_SEC = 0.9 / 30;

export interface ProxyWriter {
  /** Copies the frame before it returns; resolves when the encoder takes the next one. */
  push: (luma: Luma, plane: LumaPlane, timeSec: number) => Promise<void>;
  /** Null when this browser could not encode it. */
  finish: () => Promise<Blob | null>;
}

/** A clip is measured with or without it: whatever the encoder cannot do ends the copy, never the measuring. */
export async function proxyWriter(width: number, height: number, kernels: MotionKernels): Promise<ProxyWriter> {
  const target = new BufferTarget();
  const output = new Output({ format: new WebMOutputFormat(), target });
  const source = new VideoSampleSource({
    codec: CODEC,
    bitrate: BITRATE,
    latencyMode: "realtime",
    keyFrameInterval: KEY_EVERY_SEC,
  });
  output.addVideoTrack(source);
  let going = await canEncodeVideo(CODEC, { width, height, bitrate: BITRATE }).catch(() => false);
  const give = async (work: () => Promise<void>): Promise<void> => {
    if (going) await work().catch(() => void (going = false));
  };
  await give(() => output.start());
  const [halfWidth, halfHeight] = [Math.ceil(width / 2), Math.ceil(height / 2)];
  // The encoder has copied it by the time the next frame is written over it.
  const bytes = new Uint8Array(width * height + 2 * halfWidth * halfHeight);
  let [frames, nextSec] = [0, 0];
  let table: Int32Array | null = null;
  const push: ProxyWriter["push"] = (luma, plane, timeSec) =>
    give(async () => {
      if (timeSec > MOST_SEC || timeSec < nextSec) return;
      nextSec = timeSec + LEAST_APART_SEC;
      kernels.bytes(luma, bytes.subarray(0, width * height));
      for (const k of [0, 1]) {
        const part = bytes.subarray(width * height + k * halfWidth * halfHeight, width * height + (k + 1) * halfWidth * halfHeight);
        const colour = plane.chroma[k];
        if (colour === undefined) part.fill(128);
        else {
          // Both planes are laid out alike, and every frame as the first.
          table ??= nearestOf(colour, plane.shape.turns, halfWidth, halfHeight);
          copyBy(table, colour.samples, plane.shape.bits - 8, part);
        }
      }
      const form = { format: "I420", codedWidth: width, codedHeight: height } as const;
      const frame = new VideoFrame(bytes, { ...form, timestamp: Math.round(1e6 * timeSec), colorSpace: { fullRange: plane.fullRange } });
      const sample = new VideoSample(frame, { timestamp: timeSec });
      await source.add(sample).finally(() => sample.close());
      frames++;
    });
  const finish = async (): Promise<Blob | null> => {
    await give(() => output.finalize());
    if (!going || frames === 0 || target.buffer === null || target.buffer.byteLength > PROXY_MAX_BYTES) {
      await output.cancel().catch(() => undefined);
      return null;
    }
    return new Blob([target.buffer], { type: "video/webm" });
  };
  return { push, finish };
}

/** For each pixel of the small copy, which sample of a colour plane lies nearest: colour is looked at, never measured. Turned as the picture is. */
function nearestOf(from: ChromaPlane, turns: LumaPlane["shape"]["turns"], width: number, height: number): Int32Array {
  const table = new Int32Array(width * height);
  for (let y = 0, at = 0; y < height; y++)
    for (let x = 0; x < width; x++, at++) {
      const [u, v] = [(x + 0.5) / width, (y + 0.5) / height];
      const [su, sv] = turns === 0 ? [u, v] : turns === 1 ? [v, 1 - u] : turns === 2 ? [1 - u, 1 - v] : [1 - v, u];
      table[at] = Math.floor(sv * from.height) * from.stride + Math.floor(su * from.width) * from.step;
    }
  return table;
}

function copyBy(table: Int32Array, samples: ChromaPlane["samples"], down: number, to: Uint8Array): void {
  for (let i = 0; i < table.length; i++) to[i] = (samples[table[i] as number] as number) >> down;
}
