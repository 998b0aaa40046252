// Sessions as they travel: their facts on the same road as marks, tied to the core's types.

import type { SessionBodies, SessionFact, SessionFactKind } from "@keep-rolling/core/sessions";
import { SESSION_FACT_KINDS, SESSION_FACTS, SESSION_KINDS, SESSION_VERSION } from "@keep-rolling/core/sessions";
import { z } from "zod";
import { factEnvelope } from "./facts.ts";
import { holdBodies, holdCorrections } from "./holds.ts";
import { idSchema, millis } from "./primitives.ts";
import { walkBodies, walkCorrections } from "./walks.ts";

const text = z.string().max(4000);
const place = z.string().max(200);

export const sessionBodies = {
  begin: z.strictObject({
    sessionKind: z.enum(SESSION_KINDS),
    clockId: z.string().min(1).max(64),
    place,
    unitIds: z.array(idSchema).max(20),
  }),
  note: z.strictObject({ text }),
  ...walkBodies,
  ...holdBodies,
  correction: z.strictObject({
    atMs: millis.optional(),
    place: place.optional(),
    text: text.optional(),
    ...walkCorrections,
    ...holdCorrections,
  }),
  undo: z.strictObject({}),
} satisfies { [K in SessionFactKind]: z.ZodType<SessionBodies[K]> };

const envelope = { ...factEnvelope, sessionId: idSchema };
const of = <K extends SessionFactKind>(kind: K) =>
  z.strictObject({
    ...envelope,
    ...(SESSION_FACTS[kind].aimed ? { target: idSchema } : {}),
    v: z.literal(SESSION_VERSION),
    kind: z.literal(kind),
    body: sessionBodies[kind],
  });
const known = z.discriminatedUnion("kind", SESSION_FACT_KINDS.map(of) as [ReturnType<typeof of>]);

const isFuture = (f: { kind: string; v: number }): boolean =>
  f.v > SESSION_VERSION || !(SESSION_FACT_KINDS as readonly string[]).includes(f.kind);
const foreign = z
  .looseObject({
    ...envelope,
    v: z.int().min(1),
    kind: z.string().min(1).max(40),
    body: z.record(z.string(), z.unknown()),
    foreign: z.literal(true).default(true),
  })
  .refine(isFuture, "a known kind of this version must have the body of its kind");

export const sessionFact = z.union([known, foreign]) as unknown as z.ZodType<SessionFact, SessionFact>;

export const storedFact = z.object({ seq: z.int(), receivedAtMs: millis, fact: sessionFact });
export type StoredFact = z.infer<typeof storedFact>;

export const sessionRow = z.object({
  id: idSchema,
  kind: z.enum(SESSION_KINDS),
  clockId: z.string(),
  status: z.enum(["none", "open", "void"]),
  begunMs: millis,
  lastSeq: z.int(),
});
export type SessionRow = z.infer<typeof sessionRow>;
export const sessionsReply = z.object({ sessions: z.array(sessionRow) });
export const sessionReply = z.object({ session: sessionRow, facts: z.array(storedFact) });
export type SessionReply = z.infer<typeof sessionReply>;

/** Lines of the archive. */
export const sessionLines = {
  /** In delivery order within a session, so what a fact names comes before it. */
  facts: storedFact,
};
