// The kinds of marks. A kind is one file beside this one and one line here; its schema in the contract is then asked for by the compiler.

import type { Acts, MarkKind } from "./markKind.ts";
import { check } from "./check.ts";
import { condition } from "./condition.ts";
import { correction } from "./correction.ts";
import { end } from "./end.ts";
import { gap } from "./gap.ts";
import { note } from "./note.ts";
import { photo } from "./photo.ts";
import { reading } from "./reading.ts";
import { resume } from "./resume.ts";
import { split } from "./split.ts";
import { start } from "./start.ts";
import { touch } from "./touch.ts";
import { undo } from "./undo.ts";
import { warning } from "./warning.ts";

export const MARK_KINDS = { start, gap, resume, split, reading, touch, warning, condition, end, check, note, photo, correction, undo };

type Kinds = typeof MARK_KINDS;
export type KnownKind = keyof Kinds;
export const KNOWN_KINDS = Object.keys(MARK_KINDS) as KnownKind[];

type BodyOf<K> = K extends MarkKind<infer Body, infer _Fields> ? Body : never;
type FieldsOf<K> = K extends MarkKind<infer _Body, infer Fields> ? Fields : never;

/** All kinds' correctable fields; one of several kinds takes the values of each. */
type AllFields = { [K in KnownKind]: FieldsOf<Kinds[K]> }[KnownKind];
type KeyOf<U> = U extends unknown ? keyof U : never;
type ValueOf<U, F> = U extends unknown ? (F extends keyof U ? U[F] : never) : never;
export type CorrectionBody = { atMs?: number | undefined } & { [F in KeyOf<AllFields>]?: ValueOf<AllFields, F> | undefined };

export type MarkBodies = { [K in Exclude<KnownKind, "correction">]: BodyOf<Kinds[K]> } & { correction: CorrectionBody };

/** Kinds as a table that more can be put beside, as a later version will. */
export type MarkKinds = Readonly<Record<string, MarkKind<never, never> | undefined>>;
export const KINDS: MarkKinds = MARK_KINDS as unknown as MarkKinds;

/** Whether a mark of this kind can change one of these; a kind that is not known here may change anything. */
export const actsOn = (kind: string, what: readonly Acts[]): boolean => KINDS[kind]?.acts.some((a) => what.includes(a)) ?? true;
