// A comparison as a file: frames side by side with their names, as WebM, made here from the frames that are on the page.

import { BufferTarget, CanvasSource, canEncodeVideo, Output, WebMOutputFormat } from "mediabunny";

export interface ClipPlan {
  width: number;
  height: number;
  /** Shared moments to draw, s, rising. */
  timesSec: readonly number[];
  draw: (c: OffscreenCanvasRenderingContext2D, sec: number) => Promise<void>;
  onShare: (share: number) => void;
  signal: AbortSignal;
}

const BITRATE = 6_000_000;
const CODECS = ["vp9", "vp8"] as const;

/** Null when this browser encodes no WebM of that size, or it was stopped. */
export async function clipOf({ width, height, timesSec, draw, onShare, signal }: ClipPlan): Promise<Blob | null> {
  const codec = (
    await Promise.all(CODECS.map(async (c) => ((await canEncodeVideo(c, { width, height, bitrate: BITRATE })) ? c : null)))
  ).find((c) => c !== null);
  const canvas = new OffscreenCanvas(width, height);
  const c = canvas.getContext("2d");
  const [first = 0, second = first + 0.04] = timesSec;
  if (codec === undefined || codec === null || c === null) return null;
  const target = new BufferTarget();
  const output = new Output({ format: new WebMOutputFormat(), target });
  const source = new CanvasSource(canvas, { codec, bitrate: BITRATE });
  output.addVideoTrack(source);
  await output.start();
  for (const [i, sec] of timesSec.entries()) {
    if (signal.aborted) {
      await output.cancel();
      return null;
    }
    await draw(c, sec);
    await source.add(sec - first, (timesSec[i + 1] ?? sec + second - first) - sec);
    onShare((i + 1) / timesSec.length);
  }
  await output.finalize();
  return target.buffer === null ? null : new Blob([target.buffer], { type: "video/webm" });
}
