// Another tester's time beside few runs of ours: too few for a ratio, enough to say which known difference works the wrong way and cannot be it alone,
// which could be it, and what to ask. Directions only; which way a cause works is common practice, without a source.

import type { Figure } from "../kit/index.ts";
import { namesTime, saidOf } from "../kit/index.ts";
import type { Cause } from "./causes.ts";
import { endedBefore, stepsTo } from "./rating.ts";
import type { RunRecord } from "./records.ts";

/** One step of the cause makes a run longer (1) or shorter (-1). */
const WAY = {
  ambient: -1,
  "start heat": -1,
  "direct sun": -1,
  "screen lit": -1,
  breeze: 1,
  fan: 1,
  "outside power": 1,
  "high power-off setting": 1,
} as const satisfies Partial<Record<Cause, 1 | -1>>;
type Directed = keyof typeof WAY;
const DIRECTED = Object.keys(WAY) as Directed[];
export type DirectedCause = Directed | "codec";

export type FewRuns =
  /** No run of ours, or none that heat ended before theirs. */
  | { what: "nothing to hold it against" | "ours had not ended" }
  /** Between our shortest and longest, or "more than" what ours reached. */
  | { what: "no difference" }
  | Differing;
export interface Differing {
  what: "theirs longer" | "theirs shorter";
  runId: string;
  ourSec: number;
  /** Heat did not end ours, or nobody saw when: it lasted at least this. */
  atLeast: boolean;
  /** Known differences that work the other way. */
  against: DirectedCause[];
  could: DirectedCause[];
  /** Not said, and able to make the difference. */
  ask: DirectedCause[];
}

/** `ours`: runs of the figure's mode, read to the shutdown. Theirs is held against our longest where it is longer than all, against our shortest where shorter. */
export function besideFew(figure: Figure, ours: readonly RunRecord[]): FewRuns {
  if (!namesTime(figure) || ours.length === 0) return { what: "nothing to hold it against" };
  const theirsSec = figure.limitSec;
  // What was cut before theirs might have gone on as long: it tells nothing.
  const telling = ours.filter((r) => r.timeSec >= theirsSec || endedBefore(r, theirsSec));
  const first = telling[0];
  if (first === undefined) return { what: "ours had not ended" };
  const shortest = telling.reduce((least, r) => (r.timeSec < least.timeSec ? r : least), first);
  const longest = telling.reduce((most, r) => (r.timeSec > most.timeSec ? r : most), first);
  if (theirsSec > longest.timeSec) return { what: "theirs longer", ...reasons(figure, longest, 1) };
  if (figure.stated === "more than" || theirsSec >= shortest.timeSec) return { what: "no difference" };
  return { what: "theirs shorter", ...reasons(figure, shortest, -1) };
}

function reasons(figure: Figure, ours: RunRecord, wanted: 1 | -1): Omit<Differing, "what"> {
  const [against, could, ask]: [DirectedCause[], DirectedCause[], DirectedCause[]] = [[], [], []];
  const codec = saidOf(figure.says?.compression);
  if (codec === undefined) ask.push("codec");
  else if (codec !== ours.setup.mode.compression) could.push("codec");
  for (const cause of DIRECTED) {
    const steps = stepsTo(cause, figure, ours);
    if (steps === null) {
      if (able(cause, ours, wanted)) ask.push(cause);
    } else if (steps !== 0) (Math.sign(steps) * WAY[cause] === wanted ? could : against).push(cause);
  }
  return { runId: ours.runId, ourSec: ours.timeSec, atLeast: ours.lasted.kind !== "exact", against, could, ask };
}

/** Whether the cause, unsaid by them, can differ from ours in the wanted direction: what ours had already cannot have come on top. */
function able(cause: Directed, ours: RunRecord, wanted: 1 | -1): boolean {
  if (cause === "ambient") return true;
  if (cause === "start heat") return wanted === -1 || ours.startHeat > 0;
  const had = (stepsTo(cause, { ambientC: null, says: NONE }, ours) ?? 0) < 0;
  return WAY[cause] === wanted ? !had : had;
}
/** Said to be without any of it. */
const NONE = { sun: "none", air: "still", screen: "dark", power: "internal", powerOffSetting: "normal" } as const;
