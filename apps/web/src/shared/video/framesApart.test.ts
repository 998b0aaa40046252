// Frames from the decoder's own thread: all of them, in order, room given back for each; every way it can fail.

import { afterEach, beforeEach, expect, it, vi } from "vitest";
import type { OpenedClip } from "./decode.ts";
import { ClipFault } from "./decode.ts";
import type { FromFrames, ToFrames } from "./frames.worker.ts";
import type { FrameThread } from "./framesApart.ts";
import { framesApart } from "./framesApart.ts";

class Frame {
  format = "I420";
  codedWidth = 4;
  codedHeight = 2;
  displayWidth = 4;
  displayHeight = 2;
  visibleRect = { x: 0, y: 0, width: 4, height: 2 };
  colorSpace = {};
  constructor(readonly timestamp: number) {}
  close(): void {
    closed++;
  }
}
let closed = 0;
beforeEach(() => {
  closed = 0;
  vi.stubGlobal("VideoFrame", Frame);
});
afterEach(() => vi.unstubAllGlobals());

const frame = (n: number): FromFrames => ({
  kind: "frame",
  frame: new Frame(Math.round((1e6 * n) / 30)) as unknown as VideoFrame,
  timestamp: n / 30,
  duration: 1 / 30,
  rotation: 90,
});

function threadSaying(...messages: (FromFrames | Error)[]) {
  const heard: ToFrames[] = [];
  const state = { heard, ended: 0 };
  const thread: FrameThread = {
    send: (message) => void heard.push(message),
    next: async () => {
      const message = messages.shift();
      if (message === undefined || message instanceof Error) throw message ?? new Error("asked for more than there is");
      return message;
    },
    end: () => void state.ended++,
  };
  return { ...state, state, start: () => thread };
}
/** A clip that cannot be decoded on this thread: to be seen when it is asked for. */
const clip = { track: null } as unknown as OpenedClip;
const file = new Blob(["clip"]);

async function all(start: () => FrameThread): Promise<number[]> {
  const times: number[] = [];
  for await (const sample of framesApart(file, clip, start)) {
    times.push(sample.timestamp);
    expect(sample.rotation).toBe(90);
    sample.close();
  }
  return times;
}

it("come whole and in order, each giving room for another, and the thread is ended", async () => {
  const { heard, state, start } = threadSaying(frame(0), frame(1), frame(2), { kind: "end" });
  expect(await all(start)).toEqual([0, 1 / 30, 2 / 30]);
  expect(heard).toEqual([{ file, ahead: 4 }, "taken", "taken", "taken"]);
  expect([closed, state.ended]).toEqual([3, 1]);
});
it("end the thread when nobody wants more of them", async () => {
  const { state, start } = threadSaying(frame(0), frame(1));
  for await (const sample of framesApart(file, clip, start)) {
    sample.close();
    break;
  }
  expect(state.ended).toBe(1);
});
it("fail as the thread says, also half-way", async () => {
  const fault = threadSaying(frame(0), { kind: "failed", trouble: "cut-off" });
  await expect(all(fault.start)).rejects.toEqual(new ClipFault("cut-off"));
  const gaveUp = threadSaying({ kind: "failed", trouble: null });
  await expect(all(gaveUp.start)).rejects.toThrow("the decoder gave up");
  const broke = threadSaying(frame(0), new Error("the decoding thread broke"));
  await expect(all(broke.start)).rejects.toThrow("the decoding thread broke");
  expect([fault.state.ended, gaveUp.state.ended, broke.state.ended]).toEqual([1, 1, 1]);
});
it("are decoded on this thread where another one cannot be had", async () => {
  // The clip here has no track: that its own decoding is tried is seen by how it fails.
  const own = /rack must be/;
  const none = (): FrameThread => {
    throw new ReferenceError("Worker is not defined");
  };
  await expect(all(none)).rejects.toThrow(own);
  const deaf = threadSaying(new Error("the script could not be loaded"));
  await expect(all(deaf.start)).rejects.toThrow(own);
  expect(deaf.state.ended).toBe(1);
});
