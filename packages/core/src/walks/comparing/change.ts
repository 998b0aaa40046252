// One setup on two walks, before and after something was changed: a firmware, a setting. Each walk's own control stands for its day, so that
// a firmer step or a calmer wind is not taken for the change.

import type { Density } from "../../statistics/index.ts";
import { difference, quantileOf } from "../../statistics/index.ts";
import type { Interval, SessionLevel } from "./pairs.ts";
import { SAME_RATIO, widened } from "./pairs.ts";

export interface SetupOnWalk {
  setup: SessionLevel;
  /** Null: not walked, or it is the control itself. */
  control: SessionLevel | null;
}
export interface Change {
  /** Of the log: after less before; negative: steadier now. */
  log: number;
  interval: Interval;
  says: "steadier" | "shakier" | "same within 10 %" | "cannot tell";
  /** False: one walk has no control, and a difference of the days is in it. */
  againstControls: boolean;
}

export function changeOf(before: SetupOnWalk, after: SetupOnWalk): Change {
  const againstControls = before.control !== null && after.control !== null;
  const [was, is] = [before, after].map((w) => (againstControls ? aboveControl(w) : alone(w))) as [Seen, Seen];
  const d = difference(is.density, was.density);
  const interval = widened(d, 0.05, Math.hypot(was.dayError, is.dayError));
  return { log: quantileOf(d, 0.5), interval, says: saysOf(interval), againstControls };
}

interface Seen {
  density: Density;
  dayError: number;
}
function aboveControl({ setup, control }: SetupOnWalk): Seen {
  if (control === null) return alone({ setup, control });
  return { density: difference(setup.density, control.density), dayError: (setup.position - control.position) * setup.trendSd };
}
const alone = ({ setup }: SetupOnWalk): Seen => ({ density: setup.density, dayError: setup.position * setup.trendSd });

function saysOf({ low, high }: Interval): Change["says"] {
  const margin = Math.log(SAME_RATIO);
  if (low > -margin && high < margin) return "same within 10 %";
  if (high < 0) return "steadier";
  return low > 0 ? "shakier" : "cannot tell";
}
