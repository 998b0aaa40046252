import { replaced } from "../../facts/index.ts";
import { note, openGapOf, openSegmentOf, use } from "../timeline.ts";
import type { GapCause, GapPower } from "../vocabulary.ts";
import { GAP_CAUSES, GAP_POWERS } from "../vocabulary.ts";
import type { MarkKind } from "./markKind.ts";

export interface GapBody {
  cause: GapCause;
  power: GapPower;
  /** What the battery that came out still showed, %. */
  batteryPct?: number | undefined;
}
export interface GapCorrection {
  cause?: GapCause | undefined;
  power?: GapPower | undefined;
  batteryPct?: number | undefined;
}

const powerWords = (power: GapPower): string => (power === "on" ? "body on" : "powered off");

/** A second gap of an open one opens nothing: it corroborates, or the details are to be settled. */
export const gap: MarkKind<GapBody, GapCorrection> = {
  rank: 3,
  aimed: false,
  place: "while it runs",
  acts: ["time"],
  corrects: {
    cause: { set: (body, cause) => (GAP_CAUSES.includes(cause) ? { ...body, cause } : null), words: (cause) => cause },
    power: replaced("power", powerWords),
    batteryPct: replaced("batteryPct", (pct) => `old battery ${pct} %`),
  },
  words: ({ cause, power, batteryPct }) =>
    `gap: ${cause === "unknown" ? "cause not said" : cause}, ${powerWords(power)}${batteryPct === undefined ? "" : `, old battery ${batteryPct} %`}`,
  apply: (t, mark) => {
    t.resumedBy = null;
    const open = openGapOf(t);
    const { cause, power } = mark.body;
    if (open === undefined) {
      const segment = openSegmentOf(t);
      if (segment !== undefined) segment.toMs = mark.atMs;
      t.gaps.push({ fromMs: mark.atMs, toMs: null, cause, power, markId: mark.id });
      return use(t, mark);
    }
    const both = open.cause !== "unknown" && cause !== "unknown";
    if (both && (open.cause !== cause || open.power !== power)) note(t, "gap-details-differ", { id: open.markId }, mark);
    else use(t, mark);
  },
  sample: (draw) => ({ cause: draw.oneOf(GAP_CAUSES), power: draw.oneOf(GAP_POWERS) }),
};
