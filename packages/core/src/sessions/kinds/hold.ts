// Facts of a shutter-speed test: its plan, and each shot with what was seen of it.

import { OTHER_RANK, replaced } from "../../facts/index.ts";
import type { HoldPlanBody, ShotBody } from "../../holds/index.ts";
import { GRADES, SETTINGS } from "../../holds/index.ts";
import { keptAnywhere } from "./keptAnywhere.ts";
import type { SessionKind } from "./sessionKind.ts";

/** The whole plan each time: the last one counts. */
export const holdPlan: SessionKind<HoldPlanBody> = {
  ...keptAnywhere,
  rank: 1,
  aimed: false,
  corrects: {},
  words: ({ hold }) => `plan: ${hold.lensName}, ${hold.shotsEach} shots at each time`,
  sample: (draw) => ({
    hold: {
      lensName: "Reed 16 to 55",
      focalMm: 30,
      equivalentMm: draw.maybe() ? 45 : null,
      stance: "eye at the finder",
      by: "RB",
      state: draw.maybe() ? "windy" : "",
      reference: "1/equivalent",
      claimStops: draw.maybe() ? 5 : null,
      spans: { off: { fastest: -8, slowest: -4 }, on: draw.maybe() ? { fastest: -6, slowest: 0 } : null },
      stepStops: 1,
      shotsEach: draw.int(1, 8),
    },
  }),
};

export const shot: SessionKind<ShotBody, Partial<Pick<ShotBody, "grade">>> = {
  ...keptAnywhere,
  rank: OTHER_RANK,
  aimed: false,
  corrects: { grade: replaced("grade", (grade) => `seen as ${grade}`) },
  words: ({ setting, grade }) => `shot with it ${setting}: ${grade}`,
  sample: (draw) => ({ setting: draw.oneOf(SETTINGS), x: draw.int(-24, 6) / 3, grade: draw.oneOf(GRADES) }),
};
