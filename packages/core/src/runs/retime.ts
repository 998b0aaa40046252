// A device whose clock turns out to have been off: the presses it made before anybody compared its clock can be moved by what the
// comparison says. Only those: a press whose stated error is smaller than the move was right then, whatever the clock did later.

import { distinctFacts, isCorrection, liveness, rootOf } from "../facts/index.ts";
import type { Mark } from "./mark.ts";

export interface MovedClock {
  deviceId: string;
  /** Server minus device as known at the press, and later. */
  offsetThenMs: number;
  offsetNowMs: number;
}
export interface Retimed {
  target: string;
  atMs: number;
}

/** The corrections that move unsure presses of a moved clock; none when all were sure, or are corrected already. */
export function retimeMoved(marks: readonly Mark[], moved: MovedClock): Retimed[] {
  const byId = distinctFacts(marks);
  const { isLive } = liveness(byId);
  const moveMs = moved.offsetNowMs - moved.offsetThenMs;
  const timed = new Set(
    [...byId.values()]
      .filter((m) => isCorrection(m) && isLive(m.id) && "atMs" in m.body && m.body.atMs !== undefined)
      .map((m) => rootOf(m.id, byId)?.id),
  );
  return [...byId.values()]
    .filter((m) => m.deviceId === moved.deviceId && m.offsetMs === moved.offsetThenMs && m.offsetErrMs >= Math.abs(moveMs))
    .filter((m) => m.kind !== "undo" && !isCorrection(m) && isLive(m.id) && !timed.has(m.id))
    .map((m) => ({ target: m.id, atMs: m.atMs + moveMs }));
}
