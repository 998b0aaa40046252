import type { ClipFrames } from "../../../shared/video/frames.ts";
import type { TakeRead } from "../../../workers/jobs/readTakes.ts";

/** A take with all that looking at it needs. */
export interface LookedAt {
  id: string;
  name: string;
  read: TakeRead;
  frames: ClipFrames;
  /** Against the control; null: not known. */
  cropFactor: number | null;
}
