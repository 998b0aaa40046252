// Who did what when: every mark of a run in the order it was pressed, with what became of it. Nothing is hidden here, undone marks and
// undos included.

import { distinctFacts, isCorrection, liveness, rootOf } from "../facts/index.ts";
import type { TemperatureUnit } from "../format/index.ts";
import { describeCorrection, describeMark } from "./describe.ts";
import type { Mark } from "./mark.ts";

export interface HistoryLine {
  mark: Mark;
  words: string;
  /** Null: it counts as pressed. */
  became: "taken back" | "corrected" | null;
  /** For a correction or an undo: what it names, in words; null when that is not on record. */
  about: string | null;
}

/** By press, then device and number: the order in which it happened to the testers, not the order of delivery. */
export function historyOf(marks: readonly Mark[], unit: TemperatureUnit = "C"): HistoryLine[] {
  const byId = distinctFacts(marks);
  const { isLive } = liveness(byId);
  const corrected = new Set([...byId.values()].filter((m) => isCorrection(m) && isLive(m.id)).map((m) => rootOf(m.id, byId)?.id));
  const ordered = [...byId.values()].sort(
    (a, b) => a.madeAtMs - b.madeAtMs || (a.deviceId < b.deviceId ? -1 : a.deviceId > b.deviceId ? 1 : a.deviceSeq - b.deviceSeq),
  );
  return ordered.map((mark) => ({
    mark,
    words: isCorrection(mark) ? describeCorrection(mark, unit) : describeMark(mark, unit),
    became: !isLive(mark.id) ? "taken back" : corrected.has(mark.id) ? "corrected" : null,
    about: aboutOf(mark, byId, unit),
  }));
}

function aboutOf(mark: Mark, byId: ReadonlyMap<string, Mark>, unit: TemperatureUnit): string | null {
  const target = mark.target === undefined ? undefined : byId.get(mark.target);
  if (target === undefined) return null;
  return isCorrection(target) ? `the correction "${describeCorrection(target, unit)}"` : describeMark(target, unit);
}
