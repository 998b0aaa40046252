// What the facts of a walking test say.

export interface TakeBody {
  setupId: string;
  moveId: string;
  unitId: string | null;
  /** Walked without the card and said afterwards: when, nobody knows. The fact's own time is that of the telling. */
  untimed?: boolean | undefined;
  /** The take of which this is a corrected copy: nobody walked it again. */
  of?: string | undefined;
}
export interface ClipBody {
  sha256: string;
  name: string;
  bytes: number;
  /** When its first frame was taken, bench clock; null: the file does not say, or the camera's clock is not known. */
  startMs: number | null;
  durationMs: number;
  /** Whose card it came from; absent: not said. */
  unitId?: string | undefined;
}
export const ASSIGNED_BY = ["time", "order", "picture", "hand"] as const;
export interface AssignBody {
  sha256: string;
  /** The fact that began the take; null: to none. */
  takeId: string | null;
  by: (typeof ASSIGNED_BY)[number];
}
export interface TrimBody {
  sha256: string;
  inFrame: number;
  /** The first frame left out; null: to the end. */
  outFrame: number | null;
}
export interface SegmentBody {
  sha256: string;
  takeId: string;
  /** From the clip's first frame; null: no part of the clip is this take's after all. */
  fromMs: number | null;
  /** Null: to the end. */
  toMs: number | null;
}
