// What a clip says of itself, before it is decoded.

import { z } from "zod";
import { CAREFUL, FfmpegError, printed } from "./ffmpeg.ts";
import type { Container } from "./sniff.ts";
import { containerOf } from "./sniff.ts";

export interface VideoProbe {
  container: Container;
  codec: string;
  /** As stored, before any turn. */
  width: number;
  height: number;
  /** As shown. */
  shownWidth: number;
  shownHeight: number;
  pixelFormat: string;
  bits: number;
  fullRange: boolean;
  interlaced: boolean;
  /** Light coded for a high-dynamic-range display: stops of a plain curve do not hold. */
  hdr: boolean;
  rateHz: number;
  /** Frames the file says it holds; null where it says nothing. */
  frames: number | null;
  durationSec: number | null;
  sound: boolean;
}

export const VIDEO_PROBLEMS = [
  "no-clip",
  "no-picture",
  "cut-off",
  "unreadable",
  "too-small",
  "too-large",
  "no-frames",
  "no-ffmpeg",
  "stuck",
] as const;
export type VideoProblem = (typeof VIDEO_PROBLEMS)[number];
export type Probed = { ok: true; probe: VideoProbe } | { ok: false; problem: VideoProblem };

const rational = z.string().transform((text) => {
  const [num, den] = text.split("/").map(Number);
  return num !== undefined && den !== undefined && num > 0 && den > 0 ? num / den : 0;
});
const stream = z.looseObject({
  codec_type: z.string(),
  codec_name: z.string().default("unknown"),
  width: z.number().default(0),
  height: z.number().default(0),
  pix_fmt: z.string().default("unknown"),
  color_range: z.string().optional(),
  color_transfer: z.string().optional(),
  field_order: z.string().optional(),
  avg_frame_rate: rational.optional(),
  nb_frames: z.string().optional(),
  disposition: z.looseObject({ attached_pic: z.number().default(0) }).optional(),
  side_data_list: z.array(z.looseObject({ rotation: z.number().optional() })).optional(),
});
const answer = z.looseObject({
  streams: z.array(stream).default([]),
  format: z.looseObject({ duration: z.string().optional() }).optional(),
});
type Stream = z.infer<typeof stream>;

const MOST_ANSWER = 1_000_000;
const MOST_SIDE_PX = 8192;

export async function probeVideo(file: string, signal?: AbortSignal): Promise<Probed> {
  const container = await containerOf(file);
  if (container === null) return { ok: false, problem: "no-clip" };
  const args = ["-v", "error", "-protocol_whitelist", CAREFUL[2], "-f", container, "-show_streams", "-show_format", "-of", "json", file];
  try {
    const read = answer.parse(JSON.parse(await printed("ffprobe", args, MOST_ANSWER, signal)));
    const video = read.streams.find((s) => s.codec_type === "video" && s.disposition?.attached_pic !== 1);
    if (video === undefined) return { ok: false, problem: "no-picture" };
    if (video.width < 16 || video.height < 16) return { ok: false, problem: "unreadable" };
    if (Math.max(video.width, video.height) > MOST_SIDE_PX) return { ok: false, problem: "too-large" };
    return {
      ok: true,
      probe: asProbe(
        container,
        video,
        Number(read.format?.duration),
        read.streams.some((s) => s.codec_type === "audio"),
      ),
    };
  } catch (error) {
    signal?.throwIfAborted();
    return { ok: false, problem: problemOf(error) };
  }
}

export function problemOf(error: unknown): VideoProblem {
  if (!(error instanceof FfmpegError)) return "unreadable";
  if (error.code === "missing") return "no-ffmpeg";
  if (error.code === "stuck") return "stuck";
  return /moov atom not found|End of file|truncat|partial file|invalid as first byte of an EBML/i.test(error.message)
    ? "cut-off"
    : "unreadable";
}

const INTERLACED = ["tt", "bb", "tb", "bt"];
const HDR = ["smpte2084", "arib-std-b67"];

function asProbe(container: Container, v: Stream, durationSec: number, sound: boolean): VideoProbe {
  const rotation = v.side_data_list?.find((d) => d.rotation !== undefined)?.rotation ?? 0;
  const turned = Math.abs(Math.round(rotation / 90)) % 2 === 1;
  const frames = Number(v.nb_frames);
  return {
    container,
    codec: v.codec_name,
    width: v.width,
    height: v.height,
    shownWidth: turned ? v.height : v.width,
    shownHeight: turned ? v.width : v.height,
    pixelFormat: v.pix_fmt,
    bits: Number(/p(\d\d)(?:le|be)$/.exec(v.pix_fmt)?.[1] ?? /gray(\d\d)/.exec(v.pix_fmt)?.[1] ?? 8),
    fullRange: v.color_range === "pc" || v.pix_fmt.startsWith("yuvj"),
    interlaced: INTERLACED.includes(v.field_order ?? ""),
    hdr: HDR.includes(v.color_transfer ?? ""),
    rateHz: v.avg_frame_rate ?? 0,
    frames: frames > 0 ? frames : null,
    durationSec: durationSec > 0 ? durationSec : null,
    sound,
  };
}
