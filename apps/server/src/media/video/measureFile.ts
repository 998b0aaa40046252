// Measures a clip by ffmpeg: the brightness plane of each frame through a pipe into the same meter the browser uses.

import type { ClipRecord, KeyFrame, PlaneShape } from "@keep-rolling/core/motion";
import { clipMeter, combWatch, FULL, MEASURED_LONG_PX, measuredSize, NARROW, planeReducer, risingTimes } from "@keep-rolling/core/motion";
import type { Microphone } from "@keep-rolling/core/sound";
import { soundMeter } from "@keep-rolling/core/sound";
import { CAREFUL, run } from "./ffmpeg.ts";
import type { Probed, VideoProbe, VideoProblem } from "./probe.ts";
import { problemOf, probeVideo } from "./probe.ts";

export interface FileMeasured {
  probe: VideoProbe;
  record: ClipRecord;
  keyFrames: readonly KeyFrame[];
  sound: Microphone | null;
  /** Fewer frames came than the file says it holds. */
  cutOff: boolean;
}
export type FileMeasurement = ({ ok: true } & FileMeasured) | { ok: false; problem: VideoProblem };

export interface MeasureOptions {
  signal?: AbortSignal;
  /** Where to write a small copy for looking at. */
  proxyTo?: string;
  onProgress?: (frames: number, of: number | null) => void;
}

export async function measureFile(file: string, options: MeasureOptions = {}): Promise<FileMeasurement> {
  const probed: Probed = await probeVideo(file, options.signal);
  if (!probed.ok) return probed;
  const { probe } = probed;
  const shape = shapeOf(probe);
  if (!fits(shape)) return { ok: false, problem: "too-small" };
  try {
    return await decoded(file, probe, shape, options);
  } catch (error) {
    options.signal?.throwIfAborted();
    return { ok: false, problem: problemOf(error) };
  }
}

/** As ffmpeg gives it: turned already, packed. */
const shapeOf = (p: VideoProbe): PlaneShape => ({
  width: p.shownWidth,
  height: p.shownHeight,
  stride: p.shownWidth,
  bits: p.bits,
  turns: 0,
});

function fits(shape: PlaneShape): boolean {
  try {
    measuredSize(shape);
    return true;
  } catch {
    return false;
  }
}

async function decoded(
  file: string,
  probe: VideoProbe,
  shape: PlaneShape,
  { signal, onProgress, proxyTo }: MeasureOptions,
): Promise<FileMeasurement> {
  const size = measuredSize(shape);
  const meter = clipMeter(size.width, size.height, probe.fullRange ? FULL : NARROW);
  const reduce = planeReducer(shape);
  const combs = combWatch();
  const frame = Buffer.alloc(shape.width * shape.height * (shape.bits > 8 ? 2 : 1));
  const plane = shape.bits > 8 ? new Uint16Array(frame.buffer, frame.byteOffset, frame.length / 2) : frame;
  const rate = probe.rateHz > 0 ? probe.rateHz : 30;
  const shownSec: number[] = [];
  let [filled, frames] = [0, 0];
  const onOut = (chunk: Buffer): void => {
    for (let at = 0; at < chunk.length; ) {
      const took = chunk.copy(frame, filled, at, Math.min(chunk.length, at + frame.length - filled));
      at += took;
      filled += took;
      if (filled < frame.length) continue;
      filled = 0;
      combs.look(plane, shape);
      reduce(plane, meter.frame());
      meter.push(frames++ / rate);
      if (frames % 30 === 0) onProgress?.(frames, probe.frames);
    }
  };
  const onLine = (line: string): void => {
    const time = /showinfo.* pts_time:\s*(-?[\d.]+)/.exec(line)?.[1];
    if (time !== undefined) shownSec.push(Number(time));
  };
  const format = shape.bits > 8 ? `gray${shape.bits}le` : "gray";
  const plain = /^(yuvj?4|nv\d|p0\d\d|gray)/.test(probe.pixelFormat) ? "" : "format=yuv420p,";
  const filter = `${plain}extractplanes=y,showinfo=checksum=0`;
  const input = [...CAREFUL, "-f", probe.container, "-i", file];
  const output = [
    "-map",
    "0:V:0",
    "-an",
    "-sn",
    "-dn",
    "-vf",
    filter,
    "-fps_mode",
    "passthrough",
    "-pix_fmt",
    format,
    "-f",
    "rawvideo",
    "pipe:1",
  ];
  const copy = proxyTo === undefined ? [] : proxyOutput(proxyTo);
  await run("ffmpeg", ["-v", "info", "-hide_banner", "-nostats", ...input, ...output, ...copy], { onOut, onLine, signal });
  if (frames === 0) return { ok: false, problem: "no-frames" };
  const { series, facts, keyFrames } = meter.finish();
  // Time stamps come by another road than the frames; they count when each frame has one.
  const timesSec = shownSec.length === frames ? risingTimes(shownSec) : series.timesSec;
  const cutOff = probe.frames !== null && frames < probe.frames - 2;
  const sound = probe.sound ? await microphoneOf(file, probe, signal) : null;
  return {
    ok: true,
    probe: { ...probe, interlaced: probe.interlaced || combs.combed() },
    record: { series: { ...series, timesSec }, facts },
    keyFrames,
    sound,
    cutOff,
  };
}

const PROXY_MOST_SEC = 1800;
/** The same frames at 640 px, about 2 MB a minute, without sound. */
const proxyOutput = (to: string): string[] => [
  ...["-map", "0:V:0", "-an", "-sn", "-dn", "-t", String(PROXY_MOST_SEC)],
  ...["-vf", `scale=${MEASURED_LONG_PX}:${MEASURED_LONG_PX}:force_original_aspect_ratio=decrease:force_divisible_by=2,format=yuv420p`],
  ...["-fps_mode", "passthrough", "-c:v", "libvpx", "-deadline", "realtime", "-cpu-used", "8", "-b:v", "270k", "-g", "30"],
  ...["-map_metadata", "-1", "-f", "webm", "-y", to],
];

const SOUND_HZ = 48_000;

/** First sound track as one channel; null when it cannot be decoded: sound is beside the matter. */
async function microphoneOf(file: string, probe: VideoProbe, signal: AbortSignal | undefined): Promise<Microphone | null> {
  const meter = soundMeter(SOUND_HZ);
  let rest: Buffer = Buffer.alloc(0);
  const onOut = (chunk: Buffer): void => {
    const bytes = rest.length === 0 ? chunk : Buffer.concat([rest, chunk]);
    const whole = bytes.length - (bytes.length % 4);
    meter.push(Float32Array.from({ length: whole / 4 }, (_, i) => bytes.readFloatLE(4 * i)));
    rest = bytes.subarray(whole);
  };
  const input = [...CAREFUL, "-f", probe.container, "-i", file];
  const output = ["-map", "0:a:0", "-vn", "-af", "pan=mono|c0=c0", "-ar", String(SOUND_HZ), "-f", "f32le", "pipe:1"];
  try {
    await run("ffmpeg", ["-v", "error", ...input, ...output], { onOut, signal });
    return meter.finish();
  } catch {
    signal?.throwIfAborted();
    return null;
  }
}
