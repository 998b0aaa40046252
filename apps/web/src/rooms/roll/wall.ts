// The wall: every unit of one bench clock that is under way or resting, one place each. Places stand in the order of the units' names, so
// that a number key means the same unit all day.

import type { SeenRun } from "../../record/runs.ts";
import { isOpen } from "../../record/runs.ts";
import type { Voice } from "./useReminderTone.ts";

/** A body that ended longer ago has left the wall. */
const RESTING_MS = 2 * 3_600_000;
/** Number keys 1 to 9. */
export const WALL_MOST = 9;

/** `focus` keeps its unit's place whatever its state; of any other unit the run under way counts, else the one that ended last. */
export function wallOf(runs: readonly SeenRun[], focus: SeenRun, nowMs: number): SeenRun[] {
  const clockId = focus.fold.setup?.clockId;
  const unitOf = (r: SeenRun): string => r.fold.setup?.unit.id ?? "";
  const places = new Map<string, SeenRun>([[unitOf(focus), focus]]);
  const there = runs.filter((r) => r.fold.setup?.clockId === clockId && unitOf(r) !== unitOf(focus) && (isOpen(r) || rests(r, nowMs)));
  for (const run of there) {
    const before = places.get(unitOf(run));
    if (before === undefined || comesFirst(run, before)) places.set(unitOf(run), run);
  }
  const nameOf = (r: SeenRun): string => `${r.fold.setup?.unit.name ?? ""} ${unitOf(r)}`;
  return [...places.values()].sort((a, b) => (nameOf(a) < nameOf(b) ? -1 : 1)).slice(0, WALL_MOST);
}

const rests = (run: SeenRun, nowMs: number): boolean =>
  run.fold.state === "ended" && run.fold.end !== null && nowMs - run.fold.end.hiMs < RESTING_MS && nowMs >= run.fold.end.loMs;

function comesFirst(a: SeenRun, b: SeenRun): boolean {
  if (isOpen(a) !== isOpen(b)) return isOpen(a);
  return (a.fold.startMs ?? 0) > (b.fold.startMs ?? 0);
}

/** Sounds tell units apart: the nth unit has its own pitch and sounds n times. */
export const voiceOf = (place: number): Voice => ({
  pitchHz: 660 * 2 ** ((place % 4) / 4) * (place >= 4 ? 0.5 : 1),
  beeps: 1 + (place % 4),
});
