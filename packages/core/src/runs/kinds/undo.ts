import { OTHER_RANK } from "../../facts/index.ts";
import type { MarkKind } from "./markKind.ts";

/** Takes one mark back, of any kind; undo of undo is redo. */
export const undo: MarkKind<Record<never, never>> = {
  rank: OTHER_RANK,
  aimed: true,
  place: "apart",
  acts: ["time", "surroundings", "warnings"],
  corrects: {},
  words: () => "undo",
  apply: () => undefined,
  sample: () => ({}),
};
