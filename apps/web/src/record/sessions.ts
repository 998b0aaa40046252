// Sessions as this device sees them: what the server has, joined with what this device pressed and may not have sent yet.

import type { Clock } from "@keep-rolling/contract/clocks";
import type { SessionReply, SessionRow } from "@keep-rolling/contract/sessions";
import { sessionReply, sessionsReply } from "@keep-rolling/contract/sessions";
import type { SessionBodies, SessionFact, SessionFold, SessionFactKind } from "@keep-rolling/core/sessions";
import { foldSession, SESSION_VERSION } from "@keep-rolling/core/sessions";
import { useMemo } from "react";
import { v7 as uuidv7 } from "uuid";
import { api } from "../shared/api/api.ts";
import { benchNowMs, clockOffset, theOutbox, useDevice } from "./device.ts";
import type { Draft, Entry } from "./outbox.ts";

export const sessionApi = api.injectEndpoints({
  endpoints: (build) => ({
    sessions: build.query<{ sessions: SessionRow[] }, void>({
      query: () => "sessions",
      responseSchema: sessionsReply,
      providesTags: ["Sessions"],
    }),
    session: build.query<SessionReply, string>({
      query: (id) => `sessions/${id}`,
      responseSchema: sessionReply,
      providesTags: (_reply, _error, id) => [{ type: "Session", id }],
    }),
  }),
});

export interface SeenSession {
  id: string;
  facts: readonly SessionFact[];
  fold: SessionFold;
}

const factsOf = (entries: readonly Entry[], id?: string): SessionFact[] =>
  entries.flatMap(({ mark, delivery }) =>
    delivery !== "set aside" && "sessionId" in mark && (id === undefined || mark.sessionId === id) ? [mark] : [],
  );

function joined(id: string, server: readonly { fact: SessionFact }[], mine: readonly SessionFact[]): SeenSession {
  const known = new Set(server.map((s) => s.fact.id));
  const facts = [...server.map((s) => s.fact), ...mine.filter((f) => !known.has(f.id))];
  return { id, facts, fold: foldSession(facts) };
}

/** `missing`: neither the server nor this device knows it. */
export function useSession(id: string) {
  const query = sessionApi.useSessionQuery(id);
  const { entries } = useDevice().outbox;
  const session = useMemo(() => joined(id, query.currentData?.facts ?? [], factsOf(entries, id)), [id, query.currentData, entries]);
  // What only waits here to be sent is not the whole, unless the session was begun here.
  const known = session.facts.length > 0 && (query.currentData !== undefined || session.fold.begun !== null);
  return { session, known, isLoading: !known && query.isFetching, error: known ? undefined : query.error, refetch: query.refetch };
}

/** Newest first; sessions that only this device has come too. */
export function useSessions(kind: SessionRow["kind"]) {
  const query = sessionApi.useSessionsQuery();
  const { entries } = useDevice().outbox;
  const sessions = useMemo(() => {
    const listed = (query.currentData?.sessions ?? []).filter((s) => s.kind === kind && s.status !== "void");
    const here = new Set(listed.map((s) => s.id));
    const mine = factsOf(entries).filter(
      (f) => f.kind === "begin" && !here.has(f.sessionId) && (f.body as SessionBodies["begin"]).sessionKind === kind,
    );
    return [...mine.map((f) => ({ id: f.sessionId, begunMs: f.atMs })), ...listed.map((s) => ({ id: s.id, begunMs: s.begunMs }))];
  }, [query.currentData, entries, kind]);
  const unread = query.currentData === undefined;
  // Then only what waits on this device is listed.
  return { ...query, sessions, unread, unlisted: unread && query.isError && !query.isFetching };
}

export type SessionPress = <K extends Exclude<SessionFactKind, "correction" | "undo">>(
  kind: K,
  body: SessionBodies[K],
  options?: { target?: string; atMs?: number },
) => Promise<string>;

function draftFact(
  sessionId: string,
  clock: Clock | undefined,
  kind: SessionFactKind,
  body: object,
  target?: string,
  atMs?: number,
): Draft {
  const { offsetMs, errMs } = clockOffset();
  const madeAtMs = benchNowMs(clock);
  return {
    id: uuidv7(),
    sessionId,
    v: SESSION_VERSION,
    kind,
    atMs: Math.round(atMs ?? madeAtMs),
    madeAtMs,
    source: atMs === undefined ? "pressed" : "typed",
    deviceMs: Date.now(),
    offsetMs,
    offsetErrMs: errMs,
    body,
    ...(target === undefined ? {} : { target }),
  };
}

/** Keeps the fact on this device, then sends it; answers its id. */
export const sessionPresser =
  (sessionId: string, clock: Clock | undefined): SessionPress =>
  async (kind, body, options = {}) => {
    const draft = draftFact(sessionId, clock, kind, body, options.target, options.atMs);
    await theOutbox().press([draft]);
    return draft.id;
  };

/** `id`: chosen beforehand, where another fact of the same press names it. */
export type Pressed = readonly [kind: SessionFactKind, body: object, target?: string | undefined, id?: string];

/** Several facts kept together or not at all. */
export async function pressAll(sessionId: string, clock: Clock | undefined, facts: readonly Pressed[]): Promise<void> {
  await theOutbox().press(
    facts.map(([kind, body, target, id]) => ({ ...draftFact(sessionId, clock, kind, body, target), ...(id === undefined ? {} : { id }) })),
  );
}

export const undoFacts = (sessionId: string, clock: Clock | undefined, targets: readonly string[]): Promise<void> =>
  pressAll(
    sessionId,
    clock,
    targets.map((target) => ["undo", {}, target] as const),
  );
