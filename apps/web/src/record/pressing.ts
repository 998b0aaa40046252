// Making a mark: its times by the bench clock and this device's, its id here. Nothing is stored by this file; the outbox does.

import type { Clock } from "@keep-rolling/contract/clocks";
import type { FactSource } from "@keep-rolling/core/facts";
import type { CorrectionBody, KnownKind, Mark, MarkBodies } from "@keep-rolling/core/runs";
import { liveCorrectionOf, MARK_VERSION } from "@keep-rolling/core/runs";
import { v7 as uuidv7 } from "uuid";
import type { Draft } from "./outbox.ts";
import { benchNowMs, clockOffset, theOutbox } from "./device.ts";

export interface PressOptions {
  /** When it happened, if not at the press. */
  atMs?: number;
  /** When it was pressed, if that was a moment ago: keys wait in line while the one before is being stored. */
  madeAtMs?: number;
  target?: string;
  replaces?: string;
  source?: FactSource;
  accepts?: string;
}

export function draftMark<K extends KnownKind>(
  runId: string,
  clock: Clock | undefined,
  kind: K,
  body: MarkBodies[K],
  options: PressOptions = {},
): Draft {
  const { offsetMs, errMs } = clockOffset();
  const { target, replaces, accepts, source = "pressed", madeAtMs = benchNowMs(clock), atMs = madeAtMs } = options;
  const draft = {
    id: uuidv7(),
    runId,
    v: MARK_VERSION,
    kind,
    atMs: Math.round(atMs),
    madeAtMs,
    source,
    deviceMs: Date.now(),
    offsetMs,
    offsetErrMs: errMs,
    body,
    ...(target === undefined ? {} : { target }),
    ...(replaces === undefined ? {} : { replaces }),
    ...(accepts === undefined ? {} : { accepts }),
  };
  // The body was typed by its kind above; the union of marks cannot express that link.
  return draft;
}

export type Press = <K extends KnownKind>(kind: K, body: MarkBodies[K], options?: PressOptions) => Promise<Mark>;

export function presser(runId: string, clock: Clock | undefined): Press {
  return async (kind, body, options) => {
    const [mark] = await theOutbox().press([draftMark(runId, clock, kind, body, options)]);
    return mark as Mark;
  };
}

/** Several corrections of one run as its author saw it, kept together or not at all: a run moved in halves is neither the old nor the new. */
export async function correctAll(
  runId: string,
  clock: Clock | undefined,
  marks: readonly Mark[],
  corrections: readonly (readonly [string, CorrectionBody])[],
): Promise<void> {
  await theOutbox().press(
    corrections.map(([target, fields]) => {
      const replaces = liveCorrectionOf(marks, target);
      return draftMark(runId, clock, "correction", fields, { target, ...(replaces === undefined ? {} : { replaces }) });
    }),
  );
}

/** A correction of the mark as its author saw it. */
export function correct(press: Press, marks: readonly Mark[], targetId: string, fields: CorrectionBody): Promise<Mark> {
  const replaces = liveCorrectionOf(marks, targetId);
  return press("correction", fields, { target: targetId, ...(replaces === undefined ? {} : { replaces }) });
}
