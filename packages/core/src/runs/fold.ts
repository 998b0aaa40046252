// foldRun: the pure function from marks to a run. Total: it never throws on schema-valid marks. One fold for server, console
// and print. Its laws are in fold.laws.test.ts.

import { applyCorrections, distinctFacts, isCorrection, liveness, orderOf, rootOf, sortFindings } from "../facts/index.ts";
import type { Finding } from "./findings.ts";
import type { KnownKind, MarkKinds } from "./kinds/kinds.ts";
import { KINDS } from "./kinds/kinds.ts";
import type { MarkKind } from "./kinds/markKind.ts";
import type { StartBody } from "./kinds/start.ts";
import type { Mark, MarkOf } from "./mark.ts";
import { isForeign } from "./mark.ts";
import type { Timeline } from "./timeline.ts";
import { buildTimeline } from "./timeline.ts";

export const FOLD_VERSION = 4;
/** A press cannot name a moment further ahead than this. */
const FUTURE_SLACK_MS = 2000;

export type RunState = "none" | "rolling" | "gap" | "ended" | "void";

export interface RunFold extends Omit<Timeline, "usedIds" | "findings" | "remarks" | "resumedBy"> {
  state: RunState;
  readings: readonly MarkOf<"reading">[];
  touches: readonly MarkOf<"touch">[];
  checks: readonly MarkOf<"check">[];
  notes: readonly MarkOf<"note">[];
  photos: readonly MarkOf<"photo">[];
  /** When the start of a void run was undone; null otherwise. */
  voidedMs: number | null;
  /** The start's facts as corrected; null without a start mark. */
  setup: StartBody | null;
  /** Live marks in order with corrections applied; those a screen lists. */
  effective: readonly Mark[];
  /** How many live corrections stand on a mark; marks without one are absent. */
  corrections: ReadonlyMap<string, number>;
  usedIds: ReadonlySet<string>;
  findings: readonly Finding[];
}

/** The marks of one run in any order, with repeats. A run whose start was undone folds as it was, with state "void". */
export const foldRun = (marks: readonly Mark[]): RunFold => foldWith(KINDS, marks);

/** As `foldRun`, for a program that knows these kinds. */
export function foldWith(kinds: MarkKinds, marks: readonly Mark[]): RunFold {
  const kindOf = (mark: { kind: string }): MarkKind<object, never> | undefined => kinds[mark.kind];
  const byId = distinctFacts(marks);
  const live = liveness(byId);
  const corrected = applyCorrections(byId, live.isLive, kinds);
  const ordered = corrected.effective.sort(orderOf(kinds));
  const starts = ordered.filter((m): m is MarkOf<"start"> => m.kind === "start" && !isForeign(m));
  const liveStarts = starts.filter((m) => live.isLive(m.id));
  const isVoid = liveStarts.length === 0 && starts.length > 0;
  const counted = ordered.filter((m) => live.isLive(m.id) || (isVoid && m === starts[0]));
  const { remarks, resumedBy: _by, ...timeline } = buildTimeline(counted, kindOf);
  const setup = (isVoid ? starts : liveStarts)[0]?.body ?? null;
  const usedIds = new Set([...timeline.usedIds, ...corrected.usedIds, ...liveUndos(byId, live.isLive)]);
  const odd = counted.flatMap((m) => oddities(m, kindOf(m), corrected.saidAtMs.get(m.id) ?? m.madeAtMs));
  const kept = <K extends KnownKind>(kind: K): MarkOf<K>[] => remarks.filter((m) => m.kind === kind) as unknown as MarkOf<K>[];
  return {
    ...timeline,
    readings: kept("reading"),
    touches: kept("touch"),
    checks: kept("check"),
    notes: kept("note"),
    photos: kept("photo"),
    setup,
    usedIds,
    corrections: countCorrections(byId, live.isLive),
    voidedMs: isVoid ? undoneAtMs(starts[0], byId, live.isLive) : null,
    state: isVoid ? "void" : stateOf(timeline),
    effective: counted.filter((m) => live.isLive(m.id)),
    findings: sortFindings([...live.findings, ...corrected.findings, ...timeline.findings, ...odd]),
  };
}

function countCorrections(byId: ReadonlyMap<string, Mark>, isLive: (id: string) => boolean): Map<string, number> {
  const counts = new Map<string, number>();
  for (const mark of byId.values()) {
    const root = isCorrection(mark) && isLive(mark.id) ? rootOf(mark.id, byId) : null;
    if (root !== null) counts.set(root.id, (counts.get(root.id) ?? 0) + 1);
  }
  return counts;
}

function undoneAtMs(start: Mark | undefined, byId: ReadonlyMap<string, Mark>, isLive: (id: string) => boolean): number | null {
  const times = [...byId.values()].filter((m) => m.kind === "undo" && m.target === start?.id && isLive(m.id)).map((m) => m.atMs);
  return times.length === 0 ? null : Math.min(...times);
}

const liveUndos = (byId: ReadonlyMap<string, Mark>, isLive: (id: string) => boolean): string[] =>
  [...byId.values()].filter((m) => m.kind === "undo" && isLive(m.id)).map((m) => m.id);

function stateOf(t: Pick<Timeline, "startMs" | "end" | "gaps">): RunState {
  if (t.startMs === null) return "none";
  if (t.end !== null) return "ended";
  return t.gaps.some((g) => g.toMs === null) ? "gap" : "rolling";
}

function oddities(mark: Mark, kind: MarkKind<object, never> | undefined, saidAtMs: number): Finding[] {
  const found: Finding[] = mark.atMs > saidAtMs + FUTURE_SLACK_MS ? [{ code: "future-time", markIds: [mark.id] }] : [];
  const own = isForeign(mark) ? [] : (kind?.odd?.(mark) ?? []);
  return [...found, ...own.map((code) => ({ code, markIds: [mark.id] }))];
}
