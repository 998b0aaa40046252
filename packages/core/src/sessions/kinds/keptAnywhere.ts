// Facts that are kept as they are, wherever they lie: what they add up to is the room's to say.

import { OTHER_RANK } from "../../facts/index.ts";
import type { SessionState } from "../timeline.ts";
import type { Placed } from "./sessionKind.ts";

const keep = (s: SessionState, fact: Placed<object>): void => {
  s.kept.push(fact);
  s.usedIds.push(fact.id);
};
export const keptAnywhere = { rank: OTHER_RANK, place: "anywhere", apply: keep } as const;
