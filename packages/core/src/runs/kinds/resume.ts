import { note, openGapOf, use } from "../timeline.ts";
import type { MarkKind } from "./markKind.ts";

export const resume: MarkKind<Record<never, never>> = {
  rank: 1,
  aimed: false,
  place: "while it runs",
  acts: ["time"],
  corrects: {},
  words: () => "recording again",
  apply: (t, mark) => {
    const open = openGapOf(t);
    if (open !== undefined) {
      open.toMs = mark.atMs;
      t.segments.push({ fromMs: mark.atMs, toMs: null });
      t.resumedBy = mark.deviceId;
      return use(t, mark);
    }
    // The second of two devices resuming the same gap corroborates; the same device twice is a slip.
    if (t.resumedBy !== null && t.resumedBy !== mark.deviceId) use(t, mark);
    else note(t, "resume-without-gap", mark);
  },
  sample: () => ({}),
};
