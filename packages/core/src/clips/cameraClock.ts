// How far the camera's clock is from the bench's: marks against the edges of the files. Presses are late by a second or two; one that is far off
// must not drag the rest, so the offset is the one under which most marks have their edge.

import { median } from "es-toolkit/math";
import type { RunFold } from "../runs/index.ts";
import type { Arranged } from "./arrange.ts";

export type EdgeKind = "start" | "gap" | "resume" | "split" | "end";
export interface Edge {
  kind: EdgeKind;
  cameraMs: number;
  /** The file after it was cut off: whether the camera stopped here or only began a new file is not in the files. */
  either?: true;
}
export interface MarkedEdge {
  kind: EdgeKind;
  markId: string;
  atMs: number;
}
export interface Residual {
  mark: MarkedEdge;
  edge: Edge;
  /** Mark minus file, ms: positive, it was pressed late. */
  residualMs: number;
}
export interface ClockEstimate {
  /** Bench minus camera, ms. */
  offsetMs: number;
  /** Half the spread of the marks that agree; never below half a stamp. */
  errMs: number;
  agreeing: number;
  residuals: Residual[];
  /** Edges of the files nobody marked, and marks without an edge. */
  unmarked: Edge[];
  unwitnessed: MarkedEdge[];
  /** Marks later than the whole files reach: what the cut-off one held cannot be seen. */
  hidden: MarkedEdge[];
  /** Another offset fits as many marks: which of them were pressed wrongly cannot be told from these files alone. */
  rivals: number[];
}

/** A press this far from the file's edge still agrees with it. */
export const PRESS_MS = 4000;
const LEAST_ERR_MS = 500;

export function edgesOf(arranged: Pick<Arranged, "placed" | "joins">): Edge[] {
  const { placed, joins } = arranged;
  const first = placed[0];
  if (first === undefined) return [];
  const between = joins.flatMap((j): Edge[] => {
    const [before, next] = [placed[j.after], placed[j.after + 1]];
    if (before?.endMs == null || next === undefined) return [];
    return j.kind === "split"
      ? [{ kind: "split", cameraMs: next.startMs }]
      : [
          { kind: "gap", cameraMs: before.endMs },
          { kind: "resume", cameraMs: next.startMs },
        ];
  });
  const endMs = placed.at(-1)?.endMs;
  const wholeMs = placed.findLast((p) => p.endMs !== null)?.endMs;
  const last: Edge[] =
    endMs != null ? [{ kind: "end", cameraMs: endMs }] : wholeMs == null ? [] : [{ kind: "gap", cameraMs: wholeMs, either: true }];
  return [{ kind: "start", cameraMs: first.startMs }, ...between, ...last];
}

/** The marks of a run that have an edge in the files. An end found off has none: it is an interval. */
export function markedEdges(fold: RunFold): MarkedEdge[] {
  const of = (kind: EdgeKind): MarkedEdge[] =>
    fold.effective.filter((m) => m.kind === kind && fold.usedIds.has(m.id)).map((m) => ({ kind, markId: m.id, atMs: m.atMs }));
  const unsure = fold.end !== null && fold.end.loMs < fold.end.hiMs;
  const ends = fold.end === null || unsure ? [] : [{ kind: "end" as const, markId: fold.end.markId, atMs: fold.end.hiMs }];
  return [...of("start").slice(0, 1), ...of("gap"), ...of("resume"), ...of("split"), ...ends].sort((a, b) => a.atMs - b.atMs);
}

/**
 * `priorMs`: the unit's offset by an earlier run, which settles between rivals. Null when no mark has an edge of its kind.
 * Ties: the smaller sum of residuals, then the earlier candidate.
 */
export function estimateCameraClock(
  marks: readonly MarkedEdge[],
  edges: readonly Edge[],
  priorMs: number | null = null,
): ClockEstimate | null {
  const tried = candidates(marks, edges).map((offsetMs) => ({ offsetMs, pairs: pairsAt(marks, edges, offsetMs) }));
  if (tried.length === 0) return null;
  const most = Math.max(...tried.map((t) => t.pairs.length));
  const best = tried.filter((t) => t.pairs.length === most).sort((a, b) => strayOf(a.pairs) - strayOf(b.pairs));
  const chosen = nearest(best, priorMs);
  const offsetMs = Math.round(chosen.offsetMs + median(chosen.pairs.map((p) => p.residualMs)));
  const rivals = priorMs === null ? best.map((b) => b.offsetMs).filter((o) => Math.abs(o - chosen.offsetMs) > 2 * PRESS_MS) : [];
  const agreeing = pairsAt(marks, edges, offsetMs);
  const spread = agreeing.map((p) => p.residualMs);
  return {
    offsetMs,
    errMs: Math.max(LEAST_ERR_MS, Math.ceil((Math.max(0, ...spread) - Math.min(0, ...spread)) / 2)),
    agreeing: agreeing.length,
    ...residualsAt(marks, edges, offsetMs),
    rivals: distinct(rivals),
  };
}

const fits = (edge: Edge, mark: MarkedEdge): boolean => edge.kind === mark.kind || (edge.either === true && mark.kind === "split");

const candidates = (marks: readonly MarkedEdge[], edges: readonly Edge[]): number[] =>
  marks.flatMap((m) => edges.filter((e) => fits(e, m)).map((e) => m.atMs - e.cameraMs));

/** Each mark with its own edge, nearest first, within a press; no edge twice. */
function pairsAt(
  marks: readonly MarkedEdge[],
  edges: readonly Edge[],
  offsetMs: number,
  within = (_kind: EdgeKind): number => PRESS_MS,
): Residual[] {
  const all = marks.flatMap((mark) =>
    edges.filter((e) => fits(e, mark)).map((edge): Residual => ({ mark, edge, residualMs: mark.atMs - edge.cameraMs - offsetMs })),
  );
  const near = all
    .filter((r) => Math.abs(r.residualMs) <= within(r.mark.kind))
    .sort((a, b) => Math.abs(a.residualMs) - Math.abs(b.residualMs));
  const taken = new Set<MarkedEdge | Edge>();
  return near.filter((r) => !taken.has(r.mark) && !taken.has(r.edge) && taken.add(r.mark).add(r.edge));
}

/** A gap marked further off is another gap; start and end are the run's only ones, however late they were pressed. */
const FARTHEST_MS = 120_000;
const reach = (kind: EdgeKind): number => (kind === "start" || kind === "end" ? Number.POSITIVE_INFINITY : FARTHEST_MS);

/** Every mark that has an edge of its kind left. */
function residualsAt(marks: readonly MarkedEdge[], edges: readonly Edge[], offsetMs: number) {
  const residuals = pairsAt(marks, edges, offsetMs, reach).sort((a, b) => a.mark.atMs - b.mark.atMs);
  const used = new Set<unknown>(residuals.flatMap((r) => [r.mark, r.edge]));
  const cutMs = edges.find((e) => e.either)?.cameraMs;
  const isHidden = (m: MarkedEdge): boolean => cutMs !== undefined && m.atMs > cutMs + offsetMs;
  const alone = marks.filter((m) => !used.has(m));
  return {
    residuals,
    unmarked: edges.filter((e) => !used.has(e)),
    unwitnessed: alone.filter((m) => !isHidden(m)),
    hidden: alone.filter(isHidden),
  };
}

const strayOf = (pairs: readonly Residual[]): number => pairs.reduce((sum, p) => sum + Math.abs(p.residualMs), 0);

function nearest<T extends { offsetMs: number }>(best: readonly T[], priorMs: number | null): T {
  const sorted = priorMs === null ? best : [...best].sort((a, b) => Math.abs(a.offsetMs - priorMs) - Math.abs(b.offsetMs - priorMs));
  return sorted[0] as T;
}

const distinct = (values: readonly number[]): number[] =>
  values.reduce<number[]>((kept, v) => (kept.some((k) => Math.abs(k - v) <= 2 * PRESS_MS) ? kept : [...kept, v]), []);
