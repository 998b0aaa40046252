import { highPass, resampled, runningSum, unpackRecord } from "@keep-rolling/core/motion";
import { loudnessOf } from "@keep-rolling/core/sound";
import type { Sync, SyncClip } from "@keep-rolling/core/walks";
import { PATH_HZ, syncOf } from "@keep-rolling/core/walks";

export interface SyncQuestion {
  pack: ArrayBuffer;
  /** Null: no sound, or measured before its loudness was kept. */
  envelope: Uint8Array | null;
}

/** When the second clip begins within the first; null where neither sound nor path says. */
export function run([a, b]: [SyncQuestion, SyncQuestion]): Sync | null {
  return syncOf(clipOf(a), clipOf(b));
}

function clipOf({ pack, envelope }: SyncQuestion): SyncClip {
  const series = unpackRecord(new Uint8Array(pack))?.series;
  const loudness = envelope === null || envelope.length === 0 ? null : loudnessOf(envelope);
  if (series === undefined || series.by.includes("none")) return { loudness, height: new Float64Array(0) };
  const height = resampled(runningSum(series.dyFrac), Float64Array.from(series.timesSec), PATH_HZ);
  return { loudness, height: highPass(height, PATH_HZ) };
}
