import { OTHER_RANK, replaced } from "../../facts/index.ts";
import type { SessionKind } from "./sessionKind.ts";

export interface SessionNoteBody {
  text: string;
}

export const note: SessionKind<SessionNoteBody, Partial<SessionNoteBody>> = {
  rank: OTHER_RANK,
  aimed: false,
  place: "anywhere",
  corrects: { text: replaced("text", (text) => text) },
  words: ({ text }) => text || "note",
  apply: (s, fact) => {
    s.kept.push(fact);
    s.usedIds.push(fact.id);
  },
  sample: (draw) => ({ text: draw.maybe() ? "wet grass" : "" }),
};
