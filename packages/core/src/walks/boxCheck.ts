// Does a stabiliser listen to motion sensors, or to the picture? A target fixed to the camera's own frame moves with it: nothing in the picture
// changes when both are shaken. One that listens to sensors sees the shake and moves the picture against it; one that looks at the picture, or
// does nothing, leaves it still.

export interface BoxClip {
  /** Root mean square of the picture's jumping about its slow way, share of the width; null: it could not be followed. */
  jitterFrac: number | null;
  /** Seconds counted. */
  seconds: number;
}
export type BoxCheck =
  | { ok: true; says: "motion sensors" | "the picture, or nothing"; offFrac: number; onFrac: number }
  | { ok: false; reason: "not-followed" | "too-short" | "target-not-fixed" | "cannot-tell"; offFrac: number | null; onFrac: number | null };

/** Below this nothing moves: a measured picture that stands still reads a few hundredths of a per cent. */
const STILL_FRAC = 0.0006;
/** A picture that moves by this much moves by more than loose screws. */
const MOVES_FRAC = 0.002;
const LEAST_SEC = 2;
/** Moves against still, at least. */
const TIMES = 4;

/** `off` and `on`: the same shaking with the stabiliser off and on. */
export function boxCheck(off: BoxClip, on: BoxClip): BoxCheck {
  const seen = { offFrac: off.jitterFrac, onFrac: on.jitterFrac };
  if (off.seconds < LEAST_SEC || on.seconds < LEAST_SEC) return { ok: false, reason: "too-short", ...seen };
  const [offFrac, onFrac] = [off.jitterFrac, on.jitterFrac];
  if (offFrac === null || onFrac === null) return { ok: false, reason: "not-followed", ...seen };
  if (offFrac >= MOVES_FRAC) return { ok: false, reason: "target-not-fixed", ...seen };
  if (onFrac >= MOVES_FRAC && onFrac >= TIMES * offFrac) return { ok: true, says: "motion sensors", offFrac, onFrac };
  if (onFrac <= STILL_FRAC || onFrac <= 1.5 * offFrac) return { ok: true, says: "the picture, or nothing", offFrac, onFrac };
  return { ok: false, reason: "cannot-tell", offFrac, onFrac };
}
