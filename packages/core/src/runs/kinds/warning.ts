import { OTHER_RANK, replaced } from "../../facts/index.ts";
import type { Timeline } from "../timeline.ts";
import { note, use } from "../timeline.ts";
import type { WarningPhase } from "../vocabulary.ts";
import { WARNING_PHASES } from "../vocabulary.ts";
import type { MarkKind, Placed } from "./markKind.ts";

export interface WarningBody {
  phase: WarningPhase;
  minutesLeft?: number | undefined;
}
export interface WarningCorrection {
  phase?: WarningPhase | undefined;
  minutesLeft?: number | undefined;
}

export const warning: MarkKind<WarningBody, WarningCorrection> = {
  rank: OTHER_RANK,
  aimed: false,
  place: "while it runs",
  acts: ["warnings"],
  corrects: {
    phase: replaced("phase", (phase) => phase),
    minutesLeft: replaced("minutesLeft", (min) => `${min} min left`),
  },
  words: ({ phase, minutesLeft }) => `warning ${phase}${minutesLeft === undefined ? "" : `, camera says ${minutesLeft} min left`}`,
  apply: warn,
  afterEnd: (t, mark) => {
    if (mark.body.phase !== "cleared" || !t.warnings.some((w) => w.clearedMs === null)) return false;
    warn(t, mark);
    return true;
  },
  sample: (draw) => ({ phase: draw.oneOf(WARNING_PHASES) }),
};

function warn(t: Timeline, mark: Placed<WarningBody>): void {
  const index = t.warnings.findLastIndex((w) => w.clearedMs === null);
  const open = t.warnings[index];
  const { phase } = mark.body;
  const minutesLeft = mark.body.minutesLeft ?? open?.minutesLeft ?? null;
  if (open === undefined) {
    if (phase !== "shown") note(t, "warning-in-odd-order", mark);
    if (phase === "cleared") return;
    const escalatedMs = phase === "escalated" ? [mark.atMs] : [];
    t.warnings.push({ markId: mark.id, shownMs: mark.atMs, escalatedMs, clearedMs: null, minutesLeft });
  } else if (phase === "escalated") t.warnings[index] = { ...open, escalatedMs: [...open.escalatedMs, mark.atMs], minutesLeft };
  else if (phase === "cleared") t.warnings[index] = { ...open, clearedMs: mark.atMs };
  else t.warnings[index] = { ...open, minutesLeft };
  use(t, mark);
}
