import type { Setting, ShotSession } from "@keep-rolling/core/holds";
import { rowsApart } from "@keep-rolling/core/holds";
import type { Gain } from "@keep-rolling/core/statistics";

/** Sessions of two rows of the table of hands. */
export const run = ({ one, other, setting }: { one: readonly ShotSession[]; other: readonly ShotSession[]; setting: Setting }): Gain =>
  rowsApart(one, other, setting);
