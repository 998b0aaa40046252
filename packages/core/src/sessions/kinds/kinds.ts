// The kinds of session facts: one file a room, and a line here.

import { OTHER_RANK } from "../../facts/index.ts";
import type { SessionKind } from "./sessionKind.ts";
import { begin } from "./begin.ts";
import { holdPlan, keptFrom, picture, sharpness, shot } from "./hold.ts";
import { note } from "./note.ts";
import { assign, clip, conclusion, judgement, plan, price, segment, take, takeBad, takeEnded, trim } from "./walk.ts";

const apart = (words: string): SessionKind<object> => ({
  rank: OTHER_RANK,
  aimed: true,
  place: "apart",
  corrects: {},
  words: () => words,
  apply: () => undefined,
  sample: () => ({}),
});

export const SESSION_FACTS = {
  begin,
  note,
  plan,
  take,
  takeEnded,
  takeBad,
  clip,
  assign,
  trim,
  segment,
  judgement,
  price,
  conclusion,
  holdPlan,
  shot,
  picture,
  sharpness,
  keptFrom,
  correction: apart("correction"),
  undo: apart("undo"),
};

export type SessionFactKind = keyof typeof SESSION_FACTS;
export const SESSION_FACT_KINDS = Object.keys(SESSION_FACTS) as SessionFactKind[];

type BodyOf<K> = K extends SessionKind<infer Body, infer _Fields> ? Body : never;
type FieldsOf<K> = K extends SessionKind<infer _Body, infer Fields> ? Fields : never;
type AllFields = { [K in SessionFactKind]: FieldsOf<(typeof SESSION_FACTS)[K]> }[SessionFactKind];
type KeyOf<U> = U extends unknown ? keyof U : never;
type ValueOf<U, F> = U extends unknown ? (F extends keyof U ? U[F] : never) : never;
export type SessionCorrection = { atMs?: number | undefined } & { [F in KeyOf<AllFields>]?: ValueOf<AllFields, F> | undefined };
export type SessionBodies = { [K in Exclude<SessionFactKind, "correction">]: BodyOf<(typeof SESSION_FACTS)[K]> } & {
  correction: SessionCorrection;
};
export type SessionKinds = Readonly<Record<string, SessionKind<never, never> | undefined>>;
export const KINDS = SESSION_FACTS as unknown as SessionKinds;
