// Facts of a walking test: its plan, takes walked, clips brought in, and which clip is which take.

import { OTHER_RANK, replaced } from "../../facts/index.ts";
import type {
  AssignBody,
  ClipBody,
  ConclusionBody,
  JudgementBody,
  PriceBody,
  SegmentBody,
  TakeBody,
  TrimBody,
  WalkPlan,
} from "../../walks/index.ts";
import { ANSWERS, ASSIGNED_BY, PRICES, USES } from "../../walks/index.ts";
import { keptAnywhere } from "./keptAnywhere.ts";
import type { SessionKind } from "./sessionKind.ts";

export interface PlanBody {
  walk: WalkPlan;
}
/** The whole plan each time: the last one counts. Ids of setups and moves are kept when a plan is changed. */
export const plan: SessionKind<PlanBody> = {
  ...keptAnywhere,
  rank: 1,
  aimed: false,
  corrects: {},
  words: ({ walk }) => `plan: ${walk.setups.length} setups, ${walk.moves.length} moves, ${walk.takesWanted} takes each`,
  sample: (draw) => ({
    walk: {
      routeM: draw.maybe() ? draw.int(5, 200) : null,
      ground: draw.maybe() ? "gravel" : "",
      walker: "RB",
      lensName: "Grebe 31",
      focalMm: 31,
      equivalentMm: null,
      locked: {
        mode: "",
        shutter: "1/50",
        aperture: "",
        ISO: "automatic",
        ND: "",
        "white balance": "",
        "focus distance": "",
        sharpening: "",
        "noise reduction": "",
      },
      rateHz: draw.maybe() ? 25 : null,
      shutterSec: 0.02,
      moves: [{ id: "01900000-0000-7000-8000-0000000000a1", kind: "walk" }],
      setups: [],
      controlId: null,
      takesWanted: draw.int(1, 5),
      seed: draw.int(0, 1000),
    },
  }),
};

export const take: SessionKind<TakeBody, Partial<Pick<TakeBody, "setupId" | "moveId">>> = {
  ...keptAnywhere,
  aimed: false,
  corrects: {
    setupId: replaced("setupId", () => "another setup"),
    moveId: replaced("moveId", () => "another move"),
  },
  words: ({ untimed, of }) =>
    of !== undefined ? "corrected copy of a take" : untimed === true ? "take walked without the card" : "take begun",
  sample: (draw) => ({
    setupId: "01900000-0000-7000-8000-0000000000b1",
    moveId: "01900000-0000-7000-8000-0000000000a1",
    unitId: draw.maybe() ? "01900000-0000-7000-8000-0000000000c1" : null,
    ...(draw.maybe() ? {} : { untimed: true }),
    ...(draw.maybe() ? {} : { of: "01900000-0000-7000-8000-0000000000d1" }),
  }),
};

export const takeEnded: SessionKind = { ...keptAnywhere, aimed: true, corrects: {}, words: () => "take ended", sample: () => ({}) };

export interface TakeBadBody {
  reason: string;
}
export const takeBad: SessionKind<TakeBadBody, Partial<TakeBadBody>> = {
  ...keptAnywhere,
  aimed: true,
  corrects: { reason: replaced("reason", (reason) => reason) },
  words: ({ reason }) => (reason === "" ? "bad take" : `bad take: ${reason}`),
  sample: (draw) => ({ reason: draw.maybe() ? "tripped" : "" }),
};

export const clip: SessionKind<ClipBody> = {
  ...keptAnywhere,
  aimed: false,
  corrects: {},
  words: ({ name }) => `clip ${name}`,
  sample: (draw) => ({
    sha256: draw.oneOf(["a", "b", "c"]).repeat(64),
    name: "C0001.MP4",
    bytes: draw.int(1, 1e9),
    startMs: draw.maybe() ? draw.int(0, 1e6) : null,
    durationMs: draw.int(1, 60_000),
    ...(draw.maybe() ? {} : { unitId: "01900000-0000-7000-8000-0000000000c1" }),
  }),
};

/** The last one of a clip counts. */
export const assign: SessionKind<AssignBody> = {
  ...keptAnywhere,
  rank: OTHER_RANK + 1,
  aimed: false,
  corrects: {},
  words: ({ takeId, by }) => (takeId === null ? "clip of no take" : `clip of a take, by ${by}`),
  sample: (draw) => ({
    sha256: "a".repeat(64),
    takeId: draw.maybe() ? "01900000-0000-7000-8000-0000000000d1" : null,
    by: draw.oneOf(ASSIGNED_BY),
  }),
};

export const trim: SessionKind<TrimBody> = {
  ...keptAnywhere,
  aimed: false,
  corrects: {},
  words: ({ inFrame, outFrame }) => `from frame ${inFrame} to ${outFrame ?? "the end"}`,
  sample: (draw) => ({ sha256: "a".repeat(64), inFrame: draw.int(0, 30), outFrame: draw.maybe() ? draw.int(40, 90) : null }),
};

/** A part of a clip that is a take's own: a setting was switched while the camera ran. The last one of a clip and a take counts. */
export const segment: SessionKind<SegmentBody> = {
  ...keptAnywhere,
  rank: OTHER_RANK + 1,
  aimed: false,
  corrects: {},
  words: ({ fromMs, toMs }) =>
    fromMs === null ? "no part of a clip" : `part of a clip from ${fromMs / 1000} s to ${toMs === null ? "the end" : `${toMs / 1000} s`}`,
  sample: (draw) => ({
    sha256: draw.oneOf(["a", "b"]).repeat(64),
    takeId: "01900000-0000-7000-8000-0000000000d1",
    fromMs: draw.maybe() ? draw.int(0, 5000) : null,
    toMs: draw.maybe() ? draw.int(6000, 20_000) : null,
  }),
};

const SAMPLE_MOVE = "01900000-0000-7000-8000-0000000000a1";
const SAMPLE_SETUP = "01900000-0000-7000-8000-0000000000b1";
const SAMPLE_TAKE = "01900000-0000-7000-8000-0000000000d1";

export const judgement: SessionKind<JudgementBody> = {
  ...keptAnywhere,
  aimed: false,
  corrects: {},
  words: ({ judge }) => `a pair judged by ${judge}`,
  sample: (draw) => ({
    moveId: SAMPLE_MOVE,
    judge: draw.oneOf(["RB", "KD"]),
    left: SAMPLE_TAKE,
    right: "01900000-0000-7000-8000-0000000000d2",
    answers: { steadier: draw.oneOf(ANSWERS), "better picture": draw.oneOf(ANSWERS), "would use": draw.oneOf(ANSWERS) },
  }),
};

/** The last one of a setup and a price counts. */
export const price: SessionKind<PriceBody> = {
  ...keptAnywhere,
  aimed: false,
  corrects: {},
  words: ({ price: what, value }) => (value === null ? `${what} taken back` : `${what}: ${value}`),
  sample: (draw) => ({ setupId: SAMPLE_SETUP, price: draw.oneOf(PRICES), value: draw.maybe() ? draw.int(0, 900) : null }),
};

export const conclusion: SessionKind<ConclusionBody> = {
  ...keptAnywhere,
  aimed: false,
  corrects: {},
  words: ({ use, verdict }) => `recorded for ${use}: ${verdict}`,
  sample: (draw) => ({
    use: draw.oneOf(USES),
    moveId: SAMPLE_MOVE,
    verdict: "use it",
    setupId: SAMPLE_SETUP,
    why: draw.maybe() ? "light enough" : "",
    unitId: null,
    firmware: "2.1",
    lensName: "Grebe 31",
    said: "",
    shake: draw.maybe() ? { point: 0.004, low90: 0.0035, high90: 0.0046 } : null,
    notToldApart: [],
    steadierThen: [],
    takeIds: [SAMPLE_TAKE],
    judgements: draw.int(0, 40),
    method: "walk-comparison 1",
  }),
};
