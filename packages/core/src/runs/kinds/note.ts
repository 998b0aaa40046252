import { replaced } from "../../facts/index.ts";
import type { MarkKind } from "./markKind.ts";
import { remark } from "./markKind.ts";

export interface NoteBody {
  text: string;
}

export const note: MarkKind<NoteBody, Partial<NoteBody>> = {
  ...remark(),
  corrects: { text: replaced("text", (text) => text) },
  words: ({ text }) => text || "note",
  sample: (draw) => ({ text: draw.maybe() ? "odd click" : "" }),
};
