// What the page and the clip reader's worker say to each other.

import type { Clip } from "@keep-rolling/core/clips";

/** A dropped file, or one of a simulated camera's card, read over the network a piece at a time. */
export type ClipSource = { kind: "file"; file: File } | { kind: "address"; url: string; name: string; bytes: number; modifiedMs: number };
export interface ClipJob {
  jobId: number;
  sources: ClipSource[];
}
export type ClipReply =
  | { jobId: number; kind: "progress"; done: number; of: number }
  | { jobId: number; kind: "done"; clips: Clip[]; bytesRead: number }
  | { jobId: number; kind: "failed"; code: string };
