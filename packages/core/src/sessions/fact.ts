// A fact of a session: the envelope of every fact, and which session it belongs to.

import type { FactEnvelope } from "../facts/index.ts";
import type { SessionBodies, SessionFactKind } from "./kinds/kinds.ts";

export interface SessionEnvelope extends FactEnvelope {
  sessionId: string;
}
export type SessionFactOf<K extends SessionFactKind> = SessionEnvelope & { kind: K; body: SessionBodies[K] };
export type KnownSessionFact = { [K in SessionFactKind]: SessionFactOf<K> }[SessionFactKind];
export type ForeignSessionFact = SessionEnvelope & { kind: string; body: Record<string, unknown>; foreign: true };
export type SessionFact = KnownSessionFact | ForeignSessionFact;

export const SESSION_VERSION = 1;
