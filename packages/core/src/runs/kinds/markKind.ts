// What a kind of mark says about itself: one file a kind. Known kinds, correctable fields, order, words, what it changes and the generator
// of the laws follow from it; kinds.ts lists them.

import type { FactEnvelope, FactKind } from "../../facts/index.ts";
import type { FindingCode } from "../findings.ts";
import type { Timeline } from "../timeline.ts";

export type Placed<Body> = FactEnvelope & { kind: string; body: Body };

/**
 * Where in a run a mark of the kind counts. "anywhere": wherever it lies. "while it runs": after the start and before the end, else it is a
 * finding. "from the start": after the start, after the end too. "first": only the earliest. "apart": it acts on other marks.
 */
export type Place = "first" | "while it runs" | "from the start" | "anywhere" | "apart";

/** What a mark of the kind can change: recorded time and end; the surroundings of the body; the warnings. */
export type Acts = "time" | "surroundings" | "warnings";

export interface MarkKind<Body extends object = object, Fields extends object = object> extends FactKind<Body, Fields> {
  place: Place;
  acts: readonly Acts[];
  /** One line for the log; corrections are already applied. */
  words(body: Body, unit: "C" | "F"): string;
  /** Its part of the timeline: uses the mark, corroborates, or leaves a finding; never drops it. */
  apply(timeline: Timeline, mark: Placed<Body>): void;
  /** After the end: true when it took the mark; else it is a finding. */
  afterEnd?(timeline: Timeline, mark: Placed<Body>): boolean;
  /** What is odd about the mark by itself. */
  odd?(mark: Placed<Body>): FindingCode[];
}

/** A kind whose marks are kept beside the times and never change them. */
export const remark = <Body extends object>(): Pick<MarkKind<Body>, "rank" | "aimed" | "place" | "acts" | "apply"> => ({
  rank: 2,
  aimed: false,
  place: "anywhere",
  acts: [],
  apply: (t, mark) => {
    t.remarks.push(mark);
    t.usedIds.push(mark.id);
  },
});
