import { replaced } from "../../facts/index.ts";
import { note, openGapOf, openSegmentOf, use } from "../timeline.ts";
import type { EndCause } from "../vocabulary.ts";
import { END_CAUSES, endWords } from "../vocabulary.ts";
import type { MarkKind } from "./markKind.ts";

export interface EndBody {
  cause: EndCause;
  foundOff?: { lastSeenMs: number } | undefined;
  becauseHot?: boolean | undefined;
}
export interface EndCorrection {
  cause?: EndCause | undefined;
  /** Null: it was seen, not found off. */
  lastSeenMs?: number | null | undefined;
  becauseHot?: boolean | undefined;
}

/** The earliest end counts; another corroborates, or names another cause. */
export const end: MarkKind<EndBody, EndCorrection> = {
  rank: 4,
  aimed: false,
  place: "from the start",
  acts: ["time"],
  corrects: {
    cause: { set: (body, cause) => (END_CAUSES.includes(cause) ? { ...body, cause } : null), words: endWords },
    lastSeenMs: {
      set: ({ foundOff: _before, ...body }, lastSeenMs) => (lastSeenMs === null ? body : { ...body, foundOff: { lastSeenMs } }),
      words: (lastSeenMs) => (lastSeenMs === null ? "not found off" : "found off"),
    },
    becauseHot: replaced("becauseHot", (hot) => (hot ? "stopped because it was hot" : "not stopped because of heat")),
  },
  words: ({ cause, foundOff }) => `end: ${endWords(cause)}${foundOff ? ", found off" : ""}`,
  apply: (t, mark) => {
    const { cause, foundOff, becauseHot = false } = mark.body;
    if (t.end !== null) {
      const settled = t.end.cause === cause || t.end.cause === "unknown" || cause === "unknown";
      return settled ? use(t, mark) : note(t, "end-causes-differ", { id: t.end.markId }, mark);
    }
    const segment = openSegmentOf(t);
    const gap = openGapOf(t);
    // Recording was seen alive when its last segment began: an uncertain end cannot lie before that.
    const aliveMs = segment?.fromMs ?? gap?.fromMs ?? mark.atMs;
    const lastSeenMs = foundOff?.lastSeenMs ?? mark.atMs;
    if (lastSeenMs > mark.atMs) note(t, "last-seen-after-found", mark);
    const loMs = segment === undefined ? mark.atMs : Math.min(mark.atMs, Math.max(aliveMs, lastSeenMs));
    if (segment !== undefined) segment.toMs = mark.atMs;
    if (gap !== undefined) gap.toMs = mark.atMs;
    t.end = { markId: mark.id, cause, loMs, hiMs: mark.atMs, becauseHot };
    use(t, mark);
  },
  sample: (draw) => ({
    cause: draw.oneOf(END_CAUSES),
    ...(draw.maybe() ? { foundOff: { lastSeenMs: draw.int(0, 100_000) } } : {}),
  }),
};
