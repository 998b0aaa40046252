import { OTHER_RANK } from "../../facts/index.ts";
import { note, openGapOf, use } from "../timeline.ts";
import type { MarkKind } from "./markKind.ts";

/** The camera starts a new file without a gap. */
export const split: MarkKind<Record<never, never>> = {
  rank: OTHER_RANK,
  aimed: false,
  place: "while it runs",
  acts: [],
  corrects: {},
  words: () => "new file, no gap",
  apply: (t, mark) => {
    if (openGapOf(t) !== undefined) return note(t, "split-in-gap", mark);
    t.splits.push(mark.atMs);
    use(t, mark);
  },
  sample: () => ({}),
};
