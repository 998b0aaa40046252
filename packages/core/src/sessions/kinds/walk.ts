// Facts of a walking test: its plan, takes walked, clips brought in, and which clip is which take.

import { OTHER_RANK, replaced } from "../../facts/index.ts";
import type { WalkPlan } from "../../walks/index.ts";
import type { Placed, SessionKind } from "./sessionKind.ts";
import type { SessionState } from "../timeline.ts";

const keep = (s: SessionState, fact: Placed<object>): void => {
  s.kept.push(fact);
  s.usedIds.push(fact.id);
};
const anywhere = { rank: OTHER_RANK, place: "anywhere", apply: keep } as const;

export interface PlanBody {
  walk: WalkPlan;
}
/** The whole plan each time: the last one counts. Ids of setups and moves are kept when a plan is changed. */
export const plan: SessionKind<PlanBody> = {
  ...anywhere,
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

export interface TakeBody {
  setupId: string;
  moveId: string;
  unitId: string | null;
  /** Walked without the card and said afterwards: when, nobody knows. The fact's own time is that of the telling. */
  untimed?: boolean | undefined;
}
export const take: SessionKind<TakeBody, Partial<Pick<TakeBody, "setupId" | "moveId">>> = {
  ...anywhere,
  aimed: false,
  corrects: {
    setupId: replaced("setupId", () => "another setup"),
    moveId: replaced("moveId", () => "another move"),
  },
  words: ({ untimed }) => (untimed === true ? "take walked without the card" : "take begun"),
  sample: (draw) => ({
    setupId: "01900000-0000-7000-8000-0000000000b1",
    moveId: "01900000-0000-7000-8000-0000000000a1",
    unitId: draw.maybe() ? "01900000-0000-7000-8000-0000000000c1" : null,
    ...(draw.maybe() ? {} : { untimed: true }),
  }),
};

export const takeEnded: SessionKind = { ...anywhere, aimed: true, corrects: {}, words: () => "take ended", sample: () => ({}) };

export interface TakeBadBody {
  reason: string;
}
export const takeBad: SessionKind<TakeBadBody, Partial<TakeBadBody>> = {
  ...anywhere,
  aimed: true,
  corrects: { reason: replaced("reason", (reason) => reason) },
  words: ({ reason }) => (reason === "" ? "bad take" : `bad take: ${reason}`),
  sample: (draw) => ({ reason: draw.maybe() ? "tripped" : "" }),
};

export interface ClipBody {
  sha256: string;
  name: string;
  bytes: number;
  /** When its first frame was taken, bench clock; null: the file does not say, or the camera's clock is not known. */
  startMs: number | null;
  durationMs: number;
}
export const clip: SessionKind<ClipBody> = {
  ...anywhere,
  aimed: false,
  corrects: {},
  words: ({ name }) => `clip ${name}`,
  sample: (draw) => ({
    sha256: draw.oneOf(["a", "b", "c"]).repeat(64),
    name: "C0001.MP4",
    bytes: draw.int(1, 1e9),
    startMs: draw.maybe() ? draw.int(0, 1e6) : null,
    durationMs: draw.int(1, 60_000),
  }),
};

export const ASSIGNED_BY = ["time", "order", "hand"] as const;
export interface AssignBody {
  sha256: string;
  /** The fact that began the take; null: to none. */
  takeId: string | null;
  by: (typeof ASSIGNED_BY)[number];
}
/** The last one of a clip counts. */
export const assign: SessionKind<AssignBody> = {
  ...anywhere,
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

export interface TrimBody {
  sha256: string;
  inFrame: number;
  /** The first frame left out; null: to the end. */
  outFrame: number | null;
}
export const trim: SessionKind<TrimBody> = {
  ...anywhere,
  aimed: false,
  corrects: {},
  words: ({ inFrame, outFrame }) => `from frame ${inFrame} to ${outFrame ?? "the end"}`,
  sample: (draw) => ({ sha256: "a".repeat(64), inFrame: draw.int(0, 30), outFrame: draw.maybe() ? draw.int(40, 90) : null }),
};
