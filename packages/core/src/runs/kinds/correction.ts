import { OTHER_RANK } from "../../facts/index.ts";
import { END_CAUSES, GAP_CAUSES, GAP_POWERS } from "../vocabulary.ts";
import type { MarkKind } from "./markKind.ts";

/** Only the fields given are replaced, in the mark at the root of the chain; never its kind. What a field may be is said by that kind. */
export const correction: MarkKind<object> = {
  rank: OTHER_RANK,
  aimed: true,
  place: "apart",
  acts: ["time", "surroundings", "warnings"],
  corrects: {},
  words: () => "correction",
  apply: () => undefined,
  sample: (draw) => ({
    ...(draw.maybe() ? { atMs: draw.int(0, 100_000) } : {}),
    ...(draw.maybe() ? { cause: draw.oneOf([...END_CAUSES, ...GAP_CAUSES]) } : {}),
    ...(draw.maybe() ? { power: draw.oneOf(GAP_POWERS) } : {}),
    ...(draw.maybe() ? { gauge: draw.int(0, 10) } : {}),
    ...(draw.maybe() ? { lastSeenMs: draw.maybe() ? draw.int(0, 100_000) : null } : {}),
  }),
};
