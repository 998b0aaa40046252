// A mark: one human-scale fact about a run. Marks are only ever added. Times are integer milliseconds on the run's bench clock.

import type { FactEnvelope } from "../facts/index.ts";
import type { KnownKind, MarkBodies } from "./kinds/kinds.ts";

export interface MarkEnvelope extends FactEnvelope {
  runId: string;
}

export type MarkOf<K extends KnownKind> = MarkEnvelope & { kind: K; body: MarkBodies[K] };
export type KnownMark = { [K in KnownKind]: MarkOf<K> }[KnownKind];
/** A kind or version from the future: kept, shown as "not understood by this version". */
export type ForeignMark = MarkEnvelope & { kind: string; body: Record<string, unknown>; foreign: true };
export type Mark = KnownMark | ForeignMark;

export const MARK_VERSION = 1;

export const isForeign = (mark: Mark): mark is ForeignMark => "foreign" in mark;
