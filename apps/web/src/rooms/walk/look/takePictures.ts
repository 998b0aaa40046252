// The picture of a take for looking at: its small copy, or, of a made take, its frames drawn anew.

import type { MeasuredClip } from "@keep-rolling/contract/walks";
import type { WalkTake } from "@keep-rolling/core/walks";
import type { ClipFrames } from "../../../shared/video/frames.ts";
import { openFrames } from "../../../shared/video/frames.ts";
import { pool } from "../../../workers/pool.ts";

export type NoPicture = "no-clip" | "no-copy" | "not-decoded" | "not-read";
export type TakePicture = { frames: ClipFrames } | { none: NoPicture };

/** Small enough to be drawn in a few seconds. */
const MADE = { width: 416, height: 234, moments: 2 };
const drawn = new Map<string, Promise<Blob | null>>();

export async function pictureOf(take: WalkTake, rows: readonly MeasuredClip[], onShare: (share: number) => void): Promise<TakePicture> {
  const row = rows.find((r) => r.sha256 === take.clips[0]?.sha256);
  if (row === undefined) return { none: "no-clip" };
  const blob = await (row.proxySha256 == null ? (row.by === "made" ? drawnAnew(take.id, onShare) : null) : fetched(row.proxySha256));
  if (blob === null) return { none: row.proxySha256 == null ? "no-copy" : "not-read" };
  const frames = await openFrames(blob);
  return frames === null || frames.timesSec.length === 0 ? { none: "not-decoded" } : { frames };
}

/** Makes ready what will be looked at next. */
export function warmPicture(take: WalkTake, rows: readonly MeasuredClip[]): void {
  const row = rows.find((r) => r.sha256 === take.clips[0]?.sha256);
  const asked = row?.proxySha256 != null ? fetched(row.proxySha256) : row?.by === "made" ? drawnAnew(take.id, () => undefined) : null;
  asked?.catch(() => undefined);
}

async function fetched(sha256: string): Promise<Blob | null> {
  const reply = await fetch(`/api/walks/proxies/${sha256}`).catch(() => null);
  return reply?.ok === true ? reply.blob() : null;
}

/** Kept for the visit: a take is drawn once. */
function drawnAnew(takeId: string, onShare: (share: number) => void): Promise<Blob | null> {
  const known = drawn.get(takeId);
  if (known !== undefined) return known;
  const draw = async (): Promise<Blob | null> => {
    const { demoTakes } = await import("@keep-rolling/demo/walk");
    const made = demoTakes().find((t) => t.id === takeId)?.made;
    if (made === undefined) return null;
    return pool.call("makeClip", { made: { ...made, ...MADE }, name: takeId }, { onProgress: (done, of) => onShare(done / of) });
  };
  const asked = draw();
  drawn.set(takeId, asked);
  asked.catch(() => drawn.delete(takeId));
  return asked;
}
