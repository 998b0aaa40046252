// foldRun: the pure function from marks to a run. Total: it never throws on schema-valid marks. One fold for server, console
// and print. Its laws are in fold.laws.test.ts.

import { applyCorrections } from "./corrections.ts";
import type { Finding } from "./findings.ts";
import { liveness } from "./liveness.ts";
import type { Mark, MarkOf, ReadingValues, StartBody } from "./mark.ts";
import { isForeign } from "./mark.ts";
import { compareMarks, distinctMarks } from "./order.ts";
import type { Timeline } from "./timeline.ts";
import { buildTimeline } from "./timeline.ts";

export const FOLD_VERSION = 1;
/** A press cannot name a moment further ahead than this. */
const FUTURE_SLACK_MS = 2000;

export type RunState = "none" | "rolling" | "gap" | "ended" | "void";

export interface RunFold extends Omit<Timeline, "usedIds" | "findings"> {
  state: RunState;
  /** When the start of a void run was undone; null otherwise. */
  voidedMs: number | null;
  /** The start's facts as corrected; null without a start mark. */
  setup: StartBody | null;
  /** Live marks in order with corrections applied; those a screen lists. */
  effective: readonly Mark[];
  usedIds: ReadonlySet<string>;
  findings: readonly Finding[];
}

/** The marks of one run in any order, with repeats. A run whose start was undone folds as it was, with state "void". */
export function foldRun(marks: readonly Mark[]): RunFold {
  const byId = distinctMarks(marks);
  const live = liveness(byId);
  const corrected = applyCorrections(byId, live.isLive);
  const ordered = corrected.effective.sort(compareMarks);
  const starts = ordered.filter((m): m is MarkOf<"start"> => m.kind === "start" && !isForeign(m));
  const liveStarts = starts.filter((m) => live.isLive(m.id));
  const isVoid = liveStarts.length === 0 && starts.length > 0;
  const counted = ordered.filter((m) => live.isLive(m.id) || (isVoid && m === starts[0]));
  const timeline = buildTimeline(counted);
  const setup = (isVoid ? starts : liveStarts)[0]?.body ?? null;
  const usedIds = new Set([...timeline.usedIds, ...corrected.usedIds, ...liveUndos(byId, live.isLive)]);
  const odd = counted.flatMap((m) => oddities(m, corrected.saidAtMs.get(m.id) ?? m.madeAtMs));
  return {
    ...timeline,
    setup,
    usedIds,
    voidedMs: isVoid ? undoneAtMs(starts[0], byId, live.isLive) : null,
    state: isVoid ? "void" : stateOf(timeline),
    effective: counted.filter((m) => live.isLive(m.id)),
    findings: sortFindings([...live.findings, ...corrected.findings, ...timeline.findings, ...odd]),
  };
}

function undoneAtMs(start: Mark | undefined, byId: ReadonlyMap<string, Mark>, isLive: (id: string) => boolean): number | null {
  const times = [...byId.values()].filter((m) => m.kind === "undo" && m.target === start?.id && isLive(m.id)).map((m) => m.atMs);
  return times.length === 0 ? null : Math.min(...times);
}

const liveUndos = (byId: ReadonlyMap<string, Mark>, isLive: (id: string) => boolean): string[] =>
  [...byId.values()].filter((m) => m.kind === "undo" && isLive(m.id)).map((m) => m.id);

function stateOf(t: Timeline): RunState {
  if (t.startMs === null) return "none";
  if (t.end !== null) return "ended";
  return t.gaps.some((g) => g.toMs === null) ? "gap" : "rolling";
}

const RANGES: Readonly<Record<keyof ReadingValues, readonly [number, number]>> = {
  ambientC: [-40, 70],
  humidityPct: [0, 100],
  shellC: [-40, 110],
  gauge: [0, 10],
  batteryPct: [0, 100],
  countdownSec: [0, 36_000],
  freeGb: [0, 100_000],
};

function oddities(mark: Mark, saidAtMs: number): Finding[] {
  const found: Finding[] = [];
  if (mark.atMs > saidAtMs + FUTURE_SLACK_MS) found.push({ code: "future-time", markIds: [mark.id] });
  if (mark.kind === "photo" && !isForeign(mark) && mark.body.sha256 === undefined)
    found.push({ code: "picture-missing", markIds: [mark.id] });
  if (mark.kind === "reading" && !isForeign(mark)) {
    const given = (Object.keys(RANGES) as (keyof ReadingValues)[]).filter((key) => mark.body[key] !== undefined);
    if (given.length === 0) found.push({ code: "details-missing", markIds: [mark.id] });
    if (given.some((key) => isOutside(mark.body[key], RANGES[key]))) found.push({ code: "odd-value", markIds: [mark.id] });
  }
  return found;
}

const isOutside = (value: number | undefined, [lo, hi]: readonly [number, number]): boolean =>
  value !== undefined && !(value >= lo && value <= hi);

const sortFindings = (findings: readonly Finding[]): Finding[] => {
  const key = (f: Finding): string => `${f.code} ${f.markIds.join(" ")}`;
  return [...findings].sort((a, b) => (key(a) < key(b) ? -1 : key(a) > key(b) ? 1 : 0));
};
