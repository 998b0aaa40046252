// The decoder's own thread: see framesApart.ts.

import type { ClipTrouble } from "./decode.ts";
import { ClipFault, framesOf, openClip } from "./decode.ts";

/** To this thread: the clip, once, with how many frames may be on their way; then a word for each that was taken. */
export type ToFrames = { file: Blob; ahead: number } | "taken";
export type FromFrames =
  | { kind: "frame"; frame: VideoFrame; timestamp: number; duration: number; rotation: 0 | 90 | 180 | 270 }
  | { kind: "end" }
  /** Null: the decoder gave up. */
  | { kind: "failed"; trouble: ClipTrouble | null };

let room = 0;
let wake: () => void = () => undefined;

async function decode(file: Blob): Promise<void> {
  const say = (message: FromFrames, moved: Transferable[] = []): void => postMessage(message, { transfer: moved });
  try {
    const clip = await openClip(file);
    for await (const sample of framesOf(clip)) {
      while (room <= 0) await new Promise<void>((done) => (wake = done));
      room--;
      const frame = sample.toVideoFrame();
      const { timestamp, duration, rotation } = sample;
      sample.close();
      say({ kind: "frame", frame, timestamp, duration, rotation }, [frame]);
    }
    say({ kind: "end" });
  } catch (error) {
    say({ kind: "failed", trouble: error instanceof ClipFault ? error.trouble : null });
  }
}

addEventListener("message", ({ data }: MessageEvent<ToFrames>) => {
  if (data !== "taken") {
    room = data.ahead;
    void decode(data.file);
    return;
  }
  room++;
  wake();
});
