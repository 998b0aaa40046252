// The undo and redo keys: what they act on, for one device. They only ever add marks.

import { applyCorrections, distinctFacts, isCorrection, liveness, rootOf } from "../facts/index.ts";
import { KINDS } from "./kinds/kinds.ts";
import type { Mark } from "./mark.ts";

const bySeqDown = (a: Mark, b: Mark): number => b.deviceSeq - a.deviceSeq;

/** The last live mark made on this device that is not itself an undo; null when there is none left. */
export function undoTarget(marks: readonly Mark[], deviceId: string): Mark | null {
  const byId = distinctFacts(marks);
  const live = liveness(byId);
  const mine = [...byId.values()].filter((m) => m.deviceId === deviceId && m.kind !== "undo" && live.isLive(m.id));
  return mine.sort(bySeqDown)[0] ?? null;
}

/** The undo that redo takes back: this device's last live undo, as long as no new mark was made after it. */
export function redoTarget(marks: readonly Mark[], deviceId: string): Mark | null {
  const byId = distinctFacts(marks);
  const live = liveness(byId);
  const mine = [...byId.values()].filter((m) => m.deviceId === deviceId).sort(bySeqDown);
  for (const mark of mine) {
    if (mark.kind !== "undo") return null;
    const target = mark.target === undefined ? undefined : byId.get(mark.target);
    if (live.isLive(mark.id) && target?.kind !== "undo") return mark;
  }
  return null;
}

/** The live correction an author sees on a mark now: what a new correction says it replaces. */
export function liveCorrectionOf(marks: readonly Mark[], rootId: string): string | undefined {
  const byId = distinctFacts(marks);
  const live = liveness(byId);
  const on = [...byId.values()].filter((m) => isCorrection(m) && live.isLive(m.id) && rootOf(m.id, byId)?.id === rootId);
  on.sort((a, b) => b.madeAtMs - a.madeAtMs || (a.id < b.id ? 1 : -1));
  return on[0]?.id;
}

/** How a mark reads now, corrections applied, live or not; null when it is unknown. */
export function asCorrected(marks: readonly Mark[], id: string): Mark | null {
  const byId = distinctFacts(marks);
  const live = liveness(byId);
  return applyCorrections(byId, live.isLive, KINDS).effective.find((m) => m.id === id) ?? null;
}
