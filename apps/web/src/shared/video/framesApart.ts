// Frames decoded on a thread of their own. A browser gives its decoder one piece at a time, and the next only once the thread that asked is free: on the
// measuring thread the decoder would stand still for as long as a frame is measured.

import { VideoSample } from "mediabunny";
import type { OpenedClip } from "./decode.ts";
import { ClipFault, framesOf } from "./decode.ts";
import type { FromFrames, ToFrames } from "./frames.worker.ts";

/** Decoded frames that may lie ready: a few megabytes each, and enough to even out slow ones. */
const AHEAD = 4;

/** What is needed of the other thread. */
export interface FrameThread {
  send: (message: ToFrames) => void;
  /** Rejects when the thread cannot be had, or breaks. */
  next: () => Promise<FromFrames>;
  end: () => void;
}

/**
 * Every frame of `file`, in order; whoever takes one closes it. Where a thread cannot start another one, they are decoded on this one.
 *
 * @param clip the same file, opened here
 * @throws ClipFault as the decoding thread says; Error when its decoder gives up.
 */
export async function* framesApart(file: Blob, clip: OpenedClip, start: () => FrameThread = otherThread): AsyncGenerator<VideoSample> {
  let thread: FrameThread | null = null;
  let first: FromFrames;
  try {
    thread = start();
    thread.send({ file, ahead: AHEAD });
    first = await thread.next();
  } catch {
    thread?.end();
    yield* framesOf(clip);
    return;
  }
  try {
    for (let said = first; said.kind !== "end"; said = await thread.next()) {
      if (said.kind === "failed") throw said.trouble === null ? new Error("the decoder gave up") : new ClipFault(said.trouble);
      const { frame, ...at } = said;
      thread.send("taken");
      yield new VideoSample(frame, at);
    }
  } finally {
    thread.end();
  }
}

function otherThread(): FrameThread {
  const worker = new Worker(new URL("./frames.worker.ts", import.meta.url), { type: "module" });
  const ready: FromFrames[] = [];
  let broken = false;
  let told: () => void = () => undefined;
  worker.onmessage = ({ data }: MessageEvent<FromFrames>) => {
    ready.push(data);
    told();
  };
  worker.onerror = () => {
    broken = true;
    told();
  };
  return {
    send: (message) => worker.postMessage(message),
    next: async () => {
      while (ready.length === 0 && !broken) await new Promise<void>((done) => (told = done));
      const message = ready.shift();
      if (message === undefined) throw new Error("the decoding thread broke");
      return message;
    },
    end: () => {
      worker.terminate();
      for (const message of ready) if (message.kind === "frame") message.frame.close();
    },
  };
}
