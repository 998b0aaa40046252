// Frames of a clip from the browser's own decoder, each as its brightness plane. Runs in a worker.

import type { PlaneShape, Turns } from "@keep-rolling/core/motion";
import type { Microphone } from "@keep-rolling/core/sound";
import { soundMeter } from "@keep-rolling/core/sound";
import { ALL_FORMATS, AudioSampleSink, BlobSource, Input, VideoSampleSink } from "mediabunny";
import type { InputVideoTrack, VideoSample } from "mediabunny";

export interface OpenedClip {
  input: Input;
  track: InputVideoTrack;
  widthPx: number;
  heightPx: number;
  codec: string;
  durationSec: number;
  close: () => void;
}

/** Why a clip cannot be measured here: the server's decoder is asked for "not-decoded" only. */
export type ClipTrouble = "no-clip" | "no-picture" | "not-decoded" | "cut-off" | "too-small" | "too-large";
export class ClipFault extends Error {
  constructor(readonly trouble: ClipTrouble) {
    super(trouble);
  }
}

export async function openClip(file: Blob): Promise<OpenedClip> {
  const input = new Input({ source: new BlobSource(file), formats: ALL_FORMATS });
  const close = (): void => input.dispose();
  try {
    const track = await input
      .getPrimaryVideoTrack()
      .catch(async () => Promise.reject(new ClipFault((await looksLikeClip(file)) ? "cut-off" : "no-clip")));
    // Without any track at all its index is gone: it was not closed, or not copied whole.
    if (track === null) throw new ClipFault((await input.getTracks()).length > 0 ? "no-picture" : "cut-off");
    const [widthPx, heightPx] = [await track.getDisplayWidth(), await track.getDisplayHeight()];
    if (Math.max(widthPx, heightPx) > 8192) throw new ClipFault("too-large");
    if (!(await track.canDecode())) throw new ClipFault("not-decoded");
    return {
      input,
      track,
      widthPx,
      heightPx,
      codec: (await track.getCodec()) ?? "unknown",
      durationSec: await track.computeDuration(),
      close,
    };
  } catch (error) {
    close();
    throw error;
  }
}

const BOXES = ["ftyp", "moov", "mdat", "wide", "free", "skip"];
async function looksLikeClip(file: Blob): Promise<boolean> {
  const head = new Uint8Array(await file.slice(0, 12).arrayBuffer());
  return BOXES.includes(String.fromCharCode(...head.subarray(4, 8))) || (head[0] === 0x1a && head[1] === 0x45);
}

export const framesOf = (clip: OpenedClip): AsyncGenerator<VideoSample> => new VideoSampleSink(clip.track).samples();

export interface ChromaPlane {
  samples: Uint8Array | Uint16Array;
  width: number;
  height: number;
  /** From one row to the next, and from one sample of this colour to the next. */
  stride: number;
  step: 1 | 2;
}
export interface LumaPlane {
  plane: Uint8Array | Uint16Array;
  shape: PlaneShape;
  fullRange: boolean;
  /** U, V; empty for a picture without colour. */
  chroma: readonly ChromaPlane[];
}

/** Shape of a frame but for its rows in memory, which only its samples tell. */
export function shapeOf(sample: VideoSample): Omit<PlaneShape, "stride"> {
  const { format } = sample;
  // An opaque or RGB frame has no brightness plane of its own: the browser converts it.
  if (format === null || !/^(I4|NV12)/.test(format)) throw new ClipFault("not-decoded");
  const { width, height } = sample.visibleRect;
  return { width, height, bits: Number(/P(1\d)/.exec(format)?.[1] ?? 8), turns: ((sample.rotation / 90) % 4) as Turns };
}

/** Reads the planes of a frame into `room`, or into memory of their own when they do not fit. */
export async function readPlanes(sample: VideoSample, room: Uint8Array<ArrayBuffer>): Promise<LumaPlane> {
  const shaped = shapeOf(sample);
  const size = sample.allocationSize();
  const into = room.byteLength < size ? new Uint8Array(size) : room;
  const [luma, ...colours] = await sample.copyTo(into);
  if (luma === undefined) throw new ClipFault("not-decoded");
  const bytes = shaped.bits > 8 ? 2 : 1;
  const at = into.byteOffset + luma.offset;
  const length = (luma.stride / bytes) * shaped.height;
  const plane = shaped.bits > 8 ? new Uint16Array(into.buffer, at, length) : new Uint8Array(into.buffer, at, length);
  const shape: PlaneShape = { ...shaped, stride: luma.stride / bytes };
  return { plane, shape, fullRange: sample.colorSpace.fullRange === true, chroma: chromaOf(into, sample.format ?? "", colours, shape) };
}

/** Views of the colour planes: half as wide and high in 4:2:0, half as wide in 4:2:2; U and V side by side in NV12. */
function chromaOf(
  { buffer, byteOffset }: Uint8Array<ArrayBuffer>,
  format: string,
  planes: readonly { offset: number; stride: number }[],
  { width, height, bits }: PlaneShape,
): ChromaPlane[] {
  const bytes = bits > 8 ? 2 : 1;
  const [acrossBy, downBy] = format.startsWith("I444") ? [1, 1] : format.startsWith("I422") ? [2, 1] : [2, 2];
  const [w, h] = [Math.ceil(width / acrossBy), Math.ceil(height / downBy)];
  const view = (from: number, stride: number, step: 1 | 2): ChromaPlane => {
    const offset = byteOffset + from;
    const length = (stride / bytes) * (h - 1) + step * (w - 1) + 1;
    const samples = bits > 8 ? new Uint16Array(buffer, offset, length) : new Uint8Array(buffer, offset, length);
    return { samples, width: w, height: h, stride: stride / bytes, step };
  };
  const [u, v] = planes;
  if (u === undefined) return [];
  if (v === undefined) return [view(u.offset, u.stride, 2), view(u.offset + bytes, u.stride, 2)];
  return [view(u.offset, u.stride, 1), view(v.offset, v.stride, 1)];
}

/** The clip's microphone, first channel; null without sound, or when it cannot be decoded here. */
export async function microphoneOf({ input }: OpenedClip): Promise<Microphone | null> {
  try {
    const track = await input.getPrimaryAudioTrack();
    if (track === null || !(await track.canDecode())) return null;
    let meter: ReturnType<typeof soundMeter> | null = null;
    let samples = new Float32Array(0);
    for await (const sample of new AudioSampleSink(track).samples()) {
      meter ??= soundMeter(sample.sampleRate);
      if (samples.length !== sample.numberOfFrames) samples = new Float32Array(sample.numberOfFrames);
      sample.copyTo(samples, { planeIndex: 0, format: "f32-planar" });
      sample.close();
      meter.push(samples);
    }
    return meter?.finish() ?? null;
  } catch {
    // Sound is beside the matter: a clip whose sound is broken is measured all the same.
    return null;
  }
}
