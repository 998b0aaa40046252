import { replaced } from "../../facts/index.ts";
import type { SessionKind } from "./sessionKind.ts";

export const SESSION_KINDS = ["walk", "hold", "job"] as const;

export interface BeginBody {
  sessionKind: (typeof SESSION_KINDS)[number];
  clockId: string;
  place: string;
  /** Bodies of the session: a test with two is two takes or runs under one session. */
  unitIds: readonly string[];
}
export interface BeginCorrection {
  place?: string | undefined;
}

export const begin: SessionKind<BeginBody, BeginCorrection> = {
  rank: 0,
  aimed: false,
  place: "first",
  corrects: { place: replaced("place", (place) => `at ${place}`) },
  words: ({ sessionKind, place }) => `${sessionKind} session begun${place === "" ? "" : `, ${place}`}`,
  apply: (s, fact) => {
    s.begunMs = fact.atMs;
    s.usedIds.push(fact.id);
  },
  sample: (draw) => ({ sessionKind: draw.oneOf(SESSION_KINDS), clockId: "real", place: draw.maybe() ? "towpath" : "", unitIds: [] }),
};
