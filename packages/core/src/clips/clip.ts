// What is read of a clip, without its picture. Times are the camera's own: `createdMs` is what stands in the file, read as if UTC.

import type { TimeCode } from "./timeCode.ts";

export interface ClipRead {
  /** Whole seconds; null: the file has none, or the zero some cameras write. */
  createdMs: number | null;
  durationMs: number;
  timeCode: TimeCode | null;
  widthPx: number;
  heightPx: number;
  fpsNum: number;
  fpsDen: number;
  /** As in the file, such as "avc1.64001e". */
  codec: string;
  /** Of the picture, from the sizes of its samples over the duration. */
  mbps: number;
}

export interface Clip {
  name: string;
  bytes: number;
  /** As the file system says; null: unknown. */
  modifiedMs: number | null;
  /** Null: it has no index, as when the power went while it was written. */
  read: ClipRead | null;
}
export type ReadableClip = Clip & { read: ClipRead };

export const isReadable = (clip: Clip): clip is ReadableClip => clip.read !== null;

/** How a unit writes creation times: asked once, kept with the unit. */
export interface ClipConvention {
  /** The moment the file was begun, or closed. */
  stamp: "start" | "close";
  zone: "UTC" | "local";
}
