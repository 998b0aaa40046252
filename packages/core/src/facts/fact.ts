// A fact: one human-scale thing about a run or a session, only ever added. The envelope is the same for all; the kinds differ. Times are
// integer milliseconds on the bench clock of what the fact belongs to.

export const FACT_SOURCES = ["pressed", "typed", "accepted", "late"] as const;
export type FactSource = (typeof FACT_SOURCES)[number];

export interface FactEnvelope {
  id: string;
  deviceId: string;
  /** One counter per device, drawn in the outbox transaction. */
  deviceSeq: number;
  v: number;
  /** Bench-clock time the fact happened. */
  atMs: number;
  /** Bench-clock time of the press. */
  madeAtMs: number;
  source: FactSource;
  /** Device wall clock at the press; offset = server minus device. */
  deviceMs: number;
  offsetMs: number;
  offsetErrMs: number;
  /** For corrections and undo. */
  target?: string | undefined;
  /** For a correction: the live correction its author saw. */
  replaces?: string | undefined;
  /** The device event this fact took over (source: accepted). */
  accepts?: string | undefined;
}

export interface Fact extends FactEnvelope {
  kind: string;
  body: object;
}

/** A kind or version from the future: kept, shown as "not understood by this version". */
export const isForeign = <F extends Fact>(fact: F): fact is Extract<F, { foreign: true }> => "foreign" in fact;
