// Facts of a shutter-speed test: its plan, each shot with what was seen of it at once, its pictures, and what judges said of each.

import { OTHER_RANK, replaced } from "../../facts/index.ts";
import type { HoldPlanBody, KeptFromBody, PictureBody, PictureFields, SharpnessBody, ShotBody } from "../../holds/index.ts";
import { GRADES, LIGHTS, ORDERS, SETTINGS, SHARPNESS } from "../../holds/index.ts";
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
      ...(draw.maybe() ? { order: draw.oneOf(ORDERS), seed: draw.int(0, 9), light: draw.oneOf(LIGHTS), share: 0.7 } : {}),
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

const hash = (letter: string): string => letter.repeat(64);
export const picture: SessionKind<PictureBody, PictureFields> = {
  ...keptAnywhere,
  rank: OTHER_RANK,
  aimed: false,
  corrects: {
    setting: replaced("setting", (setting) => `with it ${setting ?? "not said"}`),
    settingBy: replaced("settingBy", (by) => `said by ${by ?? "nobody"}`),
    cuts: replaced("cuts", (cuts) => `${cuts?.length ?? 0} squares kept of it`),
    counted: replaced("counted", (counted) => (counted === false ? "left out" : counted === true ? "counted all the same" : "as it fits")),
  },
  words: ({ name, setting }) => `picture ${name}${setting === null ? "" : `, with it ${setting}`}`,
  sample: (draw) => ({
    sha256: hash(draw.oneOf(["a", "b", "c"])),
    name: `P${draw.int(1000, 9999)}.JPG`,
    camera: "Reed 2",
    exposureSec: 2 ** -draw.int(0, 8),
    takenAt: draw.maybe() ? "2031-06-14T10:20:30" : null,
    focalMm: draw.maybe() ? 30 : null,
    iso: draw.maybe() ? 400 : null,
    fNumber: null,
    widthPx: 6000,
    heightPx: 4000,
    setting: draw.maybe() ? draw.oneOf(SETTINGS) : null,
    settingBy: draw.maybe() ? "hand" : null,
    preview: hash("d"),
    sidePx: 480,
    cuts: [{ u: 0.5, v: 0.5, sha256: hash("e") }],
    counted: null,
  }),
};

/** Of one picture, which it names; a judge's last word counts. */
export const sharpness: SessionKind<SharpnessBody> = {
  ...keptAnywhere,
  rank: OTHER_RANK,
  aimed: true,
  corrects: {},
  words: ({ by, sharpness: grade }) => `${grade}, says ${by}`,
  sample: (draw) => ({ by: draw.oneOf(["RB", "JT"]), sharpness: draw.oneOf(SHARPNESS), blind: draw.maybe() }),
};

export const keptFrom: SessionKind<KeptFromBody> = {
  ...keptAnywhere,
  rank: OTHER_RANK,
  aimed: false,
  corrects: {},
  words: ({ keptFrom: kept }) => `kept for print from ${kept.print} on`,
  sample: (draw) => ({ keptFrom: { print: "sharp", "half size": draw.oneOf(["sharp", "usable"] as const), screen: "soft" } }),
};
