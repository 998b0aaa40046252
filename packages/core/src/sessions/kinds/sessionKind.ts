// What a kind of session fact says about itself: one file a kind, as for marks.

import type { FactEnvelope, FactKind } from "../../facts/index.ts";
import type { SessionState } from "../timeline.ts";

export type Placed<Body> = FactEnvelope & { kind: string; body: Body };

export interface SessionKind<Body extends object = object, Fields extends object = object> extends FactKind<Body, Fields> {
  /** "first": the earliest opens the session. "anywhere": counts wherever it lies. "apart": it acts on other facts. */
  place: "first" | "anywhere" | "apart";
  words(body: Body): string;
  apply(session: SessionState, fact: Placed<Body>): void;
}
