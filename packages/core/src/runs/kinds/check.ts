import { replaced } from "../../facts/index.ts";
import type { CheckItem, CheckResult } from "../vocabulary.ts";
import { CHECK_ITEMS, CHECK_RESULTS } from "../vocabulary.ts";
import type { MarkKind } from "./markKind.ts";
import { remark } from "./markKind.ts";

export interface CheckBody {
  item: CheckItem;
  result: CheckResult;
  minutes?: number | undefined;
}
export interface CheckCorrection {
  item?: CheckItem | undefined;
  result?: CheckResult | undefined;
  minutes?: number | undefined;
}

/** Right after the end: what the body still does. */
export const check: MarkKind<CheckBody, CheckCorrection> = {
  ...remark(),
  corrects: {
    item: replaced("item", (item) => item),
    result: replaced("result", (result) => result),
    minutes: replaced("minutes", (min) => `${min} min`),
  },
  words: ({ item, result, minutes }) => `${item}: ${result}${minutes === undefined ? "" : `, ${minutes} min`}`,
  sample: (draw) => ({ item: draw.oneOf(CHECK_ITEMS), result: draw.oneOf(CHECK_RESULTS) }),
};
