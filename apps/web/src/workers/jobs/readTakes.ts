import type { Measures, Spectrum, Wake } from "@keep-rolling/core/motion";
import { measuresOf, spectrumOf, unpackRecord, wakeOf } from "@keep-rolling/core/motion";
import { handlingOf } from "@keep-rolling/core/walks";

/** Seconds a wake shows, and how far its spectrum goes. */
const WAKE_SEC = 6;
const TOP_HZ = 12;

export interface TakeQuestion {
  sha256: string;
  pack: ArrayBuffer;
  /** As the tester set it; null: what the clip's own handling says. */
  trim: { inFrame: number; outFrame: number | null } | null;
}
export interface TakeRead {
  sha256: string;
  measures: Measures;
  /** Frames of the whole clip. */
  frames: number;
  wake: Wake;
  /** The whole clip's way, for the trimming bar. */
  whole: Wake;
  spectrum: Spectrum | null;
  /** Of each frame between in and out, best first. */
  sharpness: number[];
  inFrame: number;
  outFrame: number;
}

/** Numbers of each take from its packed path; a path that cannot be read is left out. */
export function run(questions: TakeQuestion[]): TakeRead[] {
  return questions.flatMap(({ sha256, pack, trim }) => {
    const record = unpackRecord(new Uint8Array(pack));
    if (record === null) return [];
    const frames = record.series.timesSec.length;
    const gaps = (record.series.timesSec.at(-1) ?? 0) - (record.series.timesSec[0] ?? 0);
    const own = handlingOf(record.series, gaps > 0 ? (frames - 1) / gaps : 30);
    const [inFrame, outFrame] = trim === null ? [own.inFrame, own.outFrame] : [trim.inFrame, Math.min(frames, trim.outFrame ?? frames)];
    const { series } = record;
    const measures = measuresOf(record, inFrame, outFrame);
    const whole = wakeOf(series, { ...measures, dips: [], pans: [], jumps: [] }, 0, frames, frames / measures.fps + 1);
    const sharp = series.sharpness.slice(inFrame, outFrame);
    const best = Math.max(...sharp, 1e-12);
    return [
      {
        sha256,
        measures,
        frames,
        inFrame,
        outFrame,
        whole,
        wake: wakeOf(series, measures, inFrame, outFrame, WAKE_SEC),
        spectrum: spectrumOf(series, inFrame, outFrame, measures.fps, TOP_HZ, 240),
        sharpness: sharp.map((s) => s / best).sort((a, b) => b - a),
      },
    ];
  });
}
