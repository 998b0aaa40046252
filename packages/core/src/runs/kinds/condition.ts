import { OTHER_RANK, replaced } from "../../facts/index.ts";
import { use } from "../timeline.ts";
import type { ConditionChange } from "../vocabulary.ts";
import { CONDITION_CHANGES } from "../vocabulary.ts";
import type { MarkKind } from "./markKind.ts";

export interface ConditionBody {
  change: ConditionChange;
  text?: string | undefined;
}
export interface ConditionCorrection {
  change?: ConditionChange | undefined;
  text?: string | undefined;
}

export const condition: MarkKind<ConditionBody, ConditionCorrection> = {
  rank: OTHER_RANK,
  aimed: false,
  place: "while it runs",
  acts: ["surroundings"],
  corrects: { change: replaced("change", (change) => change), text: replaced("text", (text) => text) },
  words: ({ change, text }) => [change === "not said" ? "condition changed" : change, text].filter(Boolean).join(": "),
  apply: (t, mark) => {
    t.changes.push({ atMs: mark.atMs, change: mark.body.change, text: mark.body.text ?? null, markId: mark.id });
    use(t, mark);
  },
  sample: (draw) => ({ change: draw.oneOf(CONDITION_CHANGES) }),
};
