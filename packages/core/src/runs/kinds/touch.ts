import { replaced } from "../../facts/index.ts";
import type { Touch } from "../vocabulary.ts";
import { TOUCHES } from "../vocabulary.ts";
import type { MarkKind } from "./markKind.ts";
import { remark } from "./markKind.ts";

export interface TouchBody {
  feel: Touch;
}

export const touch: MarkKind<TouchBody, Partial<TouchBody>> = {
  ...remark(),
  corrects: { feel: replaced("feel", (feel) => feel) },
  words: ({ feel }) => (feel === "not said" ? "touch, not said how" : `touch: ${feel}`),
  sample: (draw) => ({ feel: draw.oneOf(TOUCHES) }),
};
