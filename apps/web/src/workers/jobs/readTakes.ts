import type { ClipSeries, Measures, Spectrum, Wake } from "@keep-rolling/core/motion";
import { footfallsOf, measuresOf, spectrumOf, unpackRecord, wakeOf } from "@keep-rolling/core/motion";
import { handlingOf } from "@keep-rolling/core/walks";

/** Seconds a wake shows, and how far its spectrum goes. */
const WAKE_SEC = 6;
const TOP_HZ = 12;

export interface TakeQuestion {
  /** Of the clip, or of its part that is one take's. */
  key: string;
  pack: ArrayBuffer;
  /** As the tester set it; null: what the clip's own handling says. */
  trim: { inFrame: number; outFrame: number | null } | null;
  /** The part of the clip that counts; null: all of it. */
  part: { fromMs: number; toMs: number | null } | null;
  /** Parts of the clip that are takes of their own. */
  without: readonly { fromMs: number; toMs: number | null }[];
}
export interface TakeRead {
  key: string;
  measures: Measures;
  /** Frames of the whole clip. */
  frames: number;
  wake: Wake;
  /** The whole clip's way, for the trimming bar. */
  whole: Wake;
  spectrum: Spectrum | null;
  /** Of each frame between in and out, best first. */
  sharpness: number[];
  /** Of every frame of the clip, as a share of the best that counts. */
  sharpnessAll: number[];
  /** Seconds from the clip's first frame. */
  footfallsSec: number[];
  inFrame: number;
  outFrame: number;
}

/** Numbers of each take from its packed path; a path that cannot be read is left out. */
export function run(questions: TakeQuestion[]): TakeRead[] {
  return questions.flatMap((question) => {
    const record = unpackRecord(new Uint8Array(question.pack));
    if (record === null) return [];
    const { series } = record;
    const frames = series.timesSec.length;
    const { inFrame, outFrame } = spanOf(series, question);
    const measures = measuresOf(record, inFrame, outFrame);
    const whole = wakeOf(series, { ...measures, dips: [], pans: [], jumps: [] }, 0, frames, frames / measures.fps + 1);
    const sharp = series.sharpness.slice(inFrame, outFrame);
    const best = Math.max(...sharp, 1e-12);
    return [
      {
        key: question.key,
        measures,
        frames,
        inFrame,
        outFrame,
        whole,
        wake: wakeOf(series, measures, inFrame, outFrame, WAKE_SEC),
        spectrum: spectrumOf(series, inFrame, outFrame, measures.fps, TOP_HZ, 240),
        sharpness: sharp.map((s) => s / best).sort((a, b) => b - a),
        sharpnessAll: series.sharpness.map((s) => s / best),
        footfallsSec: footfallsOf(series, inFrame, outFrame, measures.fps, measures.stepHz),
      },
    ];
  });
}

interface FrameSpan {
  inFrame: number;
  /** The first frame left out. */
  outFrame: number;
}

function spanOf(series: ClipSeries, { trim, part, without }: TakeQuestion): FrameSpan {
  const frames = series.timesSec.length;
  const seconds = (series.timesSec.at(-1) ?? 0) - (series.timesSec[0] ?? 0);
  const rateHz = seconds > 0 ? (frames - 1) / seconds : 30;
  // The frame nearest to each end.
  const frameAt = (ms: number): number => {
    const found = series.timesSec.findIndex((t) => t >= ms / 1000 - 0.5 / rateHz);
    return found === -1 ? frames : found;
  };
  const framesOf = ({ fromMs, toMs }: { fromMs: number; toMs: number | null }): FrameSpan => {
    const inFrame = Math.min(frameAt(fromMs), Math.max(0, frames - 2));
    return { inFrame, outFrame: Math.max(inFrame + 2, toMs === null ? frames : frameAt(toMs)) };
  };
  if (part !== null) return framesOf(part);
  const own = trim === null ? handlingOf(series, rateHz) : { inFrame: trim.inFrame, outFrame: Math.min(frames, trim.outFrame ?? frames) };
  return without.map(framesOf).reduce(longestBeside, own);
}

/** The longer of what lies before and behind a part of another take: no frame counts twice. At least two frames. */
function longestBeside(own: FrameSpan, other: FrameSpan): FrameSpan {
  if (other.outFrame <= own.inFrame || other.inFrame >= own.outFrame) return own;
  const before = { inFrame: own.inFrame, outFrame: Math.max(own.inFrame + 2, other.inFrame) };
  const behind = { inFrame: Math.min(other.outFrame, own.outFrame - 2), outFrame: own.outFrame };
  return other.inFrame - own.inFrame >= own.outFrame - other.outFrame ? before : behind;
}
