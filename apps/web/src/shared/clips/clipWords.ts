// Clips in words: their times as the camera wrote them, sizes, and why they cannot be put in order.

import type { Arrangement, Clip, ClipConvention, ClockEstimate, EdgeKind } from "@keep-rolling/core/clips";
import { formatSpan } from "@keep-rolling/core/format";

export const WHY_NOT: Readonly<Record<Exclude<Arrangement, { ok: true }>["reason"], string>> = {
  "nothing-readable":
    "None of these files has an index: either they are no film files, or all of them were cut off. Nothing was read from them.",
  "no-creation-times": "At least one file has no creation time, so the files cannot be put in order. Nothing was proposed.",
  overlap: "Two files lie over each other in time: they are not of one run, or the camera stamps its clips the other way.",
};

export const CUT_OFF_WHY = {
  "no-siblings": "The last file was cut off and there is no whole one to tell its bitrate from: it tells nothing of the end.",
  "size-and-time-disagree":
    "The last file was cut off; its size and the time it was last written contradict each other, so it tells nothing of the end.",
} as const;

export const EDGE_WORDS: Readonly<Record<EdgeKind, string>> = {
  start: "start",
  gap: "gap",
  resume: "recording again",
  split: "new file",
  end: "end",
};

export function sizeWords(bytes: number): string {
  if (bytes >= 1e9) return `${(bytes / 1e9).toFixed(1)} GB`;
  return bytes >= 1e6 ? `${(bytes / 1e6).toFixed(1)} MB` : `${Math.ceil(bytes / 1000)} kB`;
}

/** As it stands in the file, without a claim of what zone it means. */
export const asWritten = (createdMs: number | null): string =>
  createdMs === null ? "none" : new Date(createdMs).toISOString().slice(0, 19).replace("T", " ");

const DAY_MS = 86_400_000;
/** A clock nobody set is days or years off: hours would say nothing. */
function farWords(ms: number): string {
  const days = Math.round(ms / DAY_MS);
  if (days < 2) return formatSpan(ms);
  return days < 700 ? `about ${days} days` : `about ${Math.round(days / 365.25)} years`;
}

export function clockWords({ offsetMs, errMs }: Pick<ClockEstimate, "offsetMs" | "errMs">): string {
  const side =
    offsetMs === 0 ? "in step with the bench's" : `${farWords(Math.abs(offsetMs))} ${offsetMs > 0 ? "behind" : "ahead of"} the bench's`;
  return `The camera's clock is ${side}, within ${formatSpan(Math.max(1000, errMs))}.`;
}

/** What stands in the file as local time becomes an instant by this device's zone. */
export function inZone(clips: readonly Clip[], zone: ClipConvention["zone"]): Clip[] {
  if (zone === "UTC") return [...clips];
  return clips.map((c) => (c.read?.createdMs == null ? c : { ...c, read: { ...c.read, createdMs: instantOfLocal(c.read.createdMs) } }));
}

function instantOfLocal(asUtcMs: number): number {
  const d = new Date(asUtcMs);
  return new Date(d.getUTCFullYear(), d.getUTCMonth(), d.getUTCDate(), d.getUTCHours(), d.getUTCMinutes(), d.getUTCSeconds()).getTime();
}

/** For the record: which files it was, and how long. */
export function filesNote(clips: readonly Clip[]): string {
  const parts = clips.map((c) => `${c.name} ${c.read === null ? "cut off" : formatSpan(c.read.durationMs)}`);
  return `From ${clips.length === 1 ? "one file" : `${clips.length} files`}: ${parts.join(", ")}`.slice(0, 3900);
}
