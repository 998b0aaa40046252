// A mark: one human-scale fact about a run. Marks are only ever added. Times are integer milliseconds on the run's bench clock.

import type { ConditionSnapshot, ContinuityRule, ModeSnapshot, ProtocolSnapshot, UnitSnapshot } from "../kit/index.ts";
import type {
  Ambient,
  CheckItem,
  CheckResult,
  ConditionChange,
  EndCause,
  GapCause,
  GapPower,
  MarkSource,
  RunKind,
  StartState,
  Touch,
  WarningPhase,
} from "./vocabulary.ts";

export interface StartBody {
  runKind: RunKind;
  clockId: string;
  unit: UnitSnapshot;
  mode: ModeSnapshot;
  condition: ConditionSnapshot;
  protocol: ProtocolSnapshot;
  ambient: Ambient;
  startState: StartState;
  parentRunId?: string | undefined;
  /** The block of a planned day it was started from. */
  slot?: SlotRef | undefined;
  /** For a duty run: what is repeated until something ends it. */
  duty?: DutyCycle | undefined;
}

/** Minutes recording, minutes not, with the body on or powered off meanwhile. */
export interface DutyCycle {
  onMin: number;
  offMin: number;
  power: GapPower;
}

/** A planned trial: the day's id and the slot's name within it. */
export interface SlotRef {
  dayId: string;
  slot: string;
}

/** One or more values read at one moment; none yet while the detail row is still open. */
export interface ReadingValues {
  ambientC?: number | undefined;
  humidityPct?: number | undefined;
  shellC?: number | undefined;
  gauge?: number | undefined;
  batteryPct?: number | undefined;
  countdownSec?: number | undefined;
  freeGb?: number | undefined;
}

export interface MarkBodies {
  start: StartBody;
  gap: { cause: GapCause; power: GapPower };
  resume: Record<never, never>;
  split: Record<never, never>;
  reading: ReadingValues;
  touch: { feel: Touch };
  warning: { phase: WarningPhase; minutesLeft?: number | undefined };
  condition: { change: ConditionChange; text?: string | undefined };
  end: { cause: EndCause; foundOff?: { lastSeenMs: number } | undefined; becauseHot?: boolean | undefined };
  check: { item: CheckItem; result: CheckResult; minutes?: number | undefined };
  note: { text: string };
  photo: { sha256?: string | undefined; caption?: string | undefined };
  correction: CorrectionBody;
  undo: Record<never, never>;
}

/** Only the fields given are replaced, in the mark at the root of the chain; never its kind. */
export interface CorrectionBody extends ReadingValues {
  atMs?: number | undefined;
  cause?: EndCause | GapCause | undefined;
  power?: GapPower | undefined;
  feel?: Touch | undefined;
  phase?: WarningPhase | undefined;
  minutesLeft?: number | undefined;
  change?: ConditionChange | undefined;
  item?: CheckItem | undefined;
  result?: CheckResult | undefined;
  minutes?: number | undefined;
  text?: string | undefined;
  caption?: string | undefined;
  sha256?: string | undefined;
  lastSeenMs?: number | null | undefined;
  becauseHot?: boolean | undefined;
  ambient?: Ambient | undefined;
  startState?: StartState | undefined;
  /** How this run's gaps are read, where that is not as its protocol said at the start. */
  continuity?: ContinuityRule | undefined;
}

export type KnownKind = keyof MarkBodies;

export interface MarkEnvelope {
  id: string;
  runId: string;
  deviceId: string;
  /** One counter per device, drawn in the outbox transaction. */
  deviceSeq: number;
  v: number;
  /** Bench-clock time the fact happened. */
  atMs: number;
  /** Bench-clock time of the press. */
  madeAtMs: number;
  source: MarkSource;
  /** Device wall clock at the press; offset = server minus device. */
  deviceMs: number;
  offsetMs: number;
  offsetErrMs: number;
  /** For corrections and undo. */
  target?: string | undefined;
  /** For a correction: the live correction its author saw. */
  replaces?: string | undefined;
  /** The device event this mark took over (source: accepted). */
  accepts?: string | undefined;
}

export type MarkOf<K extends KnownKind> = MarkEnvelope & { kind: K; body: MarkBodies[K] };
export type KnownMark = { [K in KnownKind]: MarkOf<K> }[KnownKind];
/** A kind or version from the future: kept, shown as "not understood by this version". */
export type ForeignMark = MarkEnvelope & { kind: string; body: Record<string, unknown>; foreign: true };
export type Mark = KnownMark | ForeignMark;

export const MARK_VERSION = 1;
export const KNOWN_KINDS: readonly KnownKind[] = [
  "start",
  "gap",
  "resume",
  "split",
  "reading",
  "touch",
  "warning",
  "condition",
  "end",
  "check",
  "note",
  "photo",
  "correction",
  "undo",
];

export const isForeign = (mark: Mark): mark is ForeignMark => "foreign" in mark;
