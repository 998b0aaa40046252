// The clip reader in its worker. One set of files at a time; the worker ends with the answer.

import type { Clip } from "@keep-rolling/core/clips";
import type { ClipJob, ClipReply, ClipSource } from "./messages.ts";

export interface ClipsRead {
  clips: Clip[];
  /** How much of the files was read. */
  bytesRead: number;
}

/** Rejects with what went wrong: a file that vanished, a card that does not answer. */
export function readClips(sources: ClipSource[], onProgress: (done: number, of: number) => void): Promise<ClipsRead> {
  const worker = new Worker(new URL("./job.worker.ts", import.meta.url), { type: "module" });
  const job: ClipJob = { jobId: 1, sources };
  return new Promise<ClipsRead>((done, fail) => {
    worker.addEventListener("message", ({ data }: MessageEvent<ClipReply>) => {
      if (data.kind === "progress") onProgress(data.done, data.of);
      else if (data.kind === "done") done({ clips: data.clips, bytesRead: data.bytesRead });
      else fail(new Error(data.code));
    });
    worker.addEventListener("error", () => fail(new Error("the clip reader could not be loaded")));
    worker.postMessage(job);
  }).finally(() => worker.terminate());
}
