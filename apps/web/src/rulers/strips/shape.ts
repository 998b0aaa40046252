// Where everything of a run lies on the minutes ruler, in elapsed milliseconds. Pure; the strip only turns it into shapes.

import type { Endpoint, ExpectedEnd, HeatTrace, RunFold, Warning } from "@keep-rolling/core/runs";
import { expectedEnds, observedFor } from "@keep-rolling/core/runs";

export interface ShadePiece {
  fromMs: number;
  toMs: number;
  /** Heat state 0..1. */
  level: number;
}
export interface GapPiece {
  fromMs: number;
  toMs: number;
  power: "on" | "off";
  open: boolean;
}
export interface StripShape {
  pieces: ShadePiece[];
  gaps: GapPiece[];
  splits: number[];
  flags: number[];
  /** Where a warning stood, and how strong. */
  warned: { fromMs: number; toMs: number; escalated: boolean }[];
  end: { atMs: number; loMs: number; kind: "event" | "at least" | "void" } | null;
  /** Where the strip stops: the end, or now. */
  untilMs: number;
  expected: ExpectedEnd[];
}

/**
 * `nowMs`: bench clock; used only while the run is under way. A void run reaches to the undo of its start. `asked`: the endpoint that is
 * asked about, so that an end is drawn as an end exactly where it is counted as one; null: the run as it went, whatever its protocol bridges.
 */
export function stripShape(fold: RunFold, trace: HeatTrace, nowMs: number, endpoint: Endpoint | null = null): StripShape | null {
  const { startMs } = fold;
  if (startMs === null) return null;
  const openUntil = fold.state === "void" ? (fold.voidedMs ?? nowMs) : nowMs;
  const close = (toMs: number | null, fromMs: number): number => Math.max(fromMs, toMs ?? openUntil) - startMs;
  const pieces = fold.segments.flatMap((s) => shade(s.fromMs - startMs, close(s.toMs, s.fromMs), trace));
  const gaps = fold.gaps.map((g) => ({ fromMs: g.fromMs - startMs, toMs: close(g.toMs, g.fromMs), power: g.power, open: g.toMs === null }));
  const untilMs = fold.end !== null ? fold.end.hiMs - startMs : Math.max(0, openUntil - startMs);
  return {
    pieces,
    gaps,
    untilMs,
    splits: fold.splits.map((ms) => ms - startMs),
    flags: fold.warnings.map((w) => w.shownMs - startMs),
    warned: fold.warnings.flatMap((w) => warnedSpans(w, startMs, startMs + untilMs)),
    end: endShape(fold, startMs, untilMs, endpoint),
    expected: expectedEnds(fold),
  };
}

/** A warning from shown to cleared, or to the end; stronger from its escalation on. */
function warnedSpans(w: Warning, startMs: number, untilMs: number): StripShape["warned"] {
  const toMs = Math.min(w.clearedMs ?? untilMs, untilMs);
  const cutMs = Math.min(w.escalatedMs[0] ?? toMs, toMs);
  return [
    { fromMs: w.shownMs - startMs, toMs: cutMs - startMs, escalated: false },
    { fromMs: cutMs - startMs, toMs: toMs - startMs, escalated: true },
  ].filter((s) => s.toMs > s.fromMs);
}

function endShape(fold: RunFold, startMs: number, untilMs: number, endpoint: Endpoint | null): StripShape["end"] {
  if (fold.state === "void") return { atMs: untilMs, loMs: untilMs, kind: "void" };
  if (fold.end === null) return null;
  return {
    atMs: fold.end.hiMs - startMs,
    loMs: fold.end.loMs - startMs,
    kind: isEvent(fold, endpoint) ? "event" : "at least",
  };
}

/** What the observation says, never the name of the cause. A refusal records nothing and is heat's doing all the same. */
export function isEvent(fold: RunFold, endpoint: Endpoint | null): boolean {
  const seen = observedFor(fold, endpoint);
  return seen.ok ? seen.event === 1 : seen.reason === "refused";
}

/** One segment cut at the steps of the heat trace; the level before the first step is 0. */
function shade(fromMs: number, toMs: number, trace: HeatTrace): ShadePiece[] {
  const cuts = [fromMs, ...trace.steps.map((s) => s.fromMs).filter((ms) => ms > fromMs && ms < toMs), toMs];
  return cuts.slice(1).flatMap((end, i) => {
    const start = cuts[i] ?? fromMs;
    const level = trace.steps.findLast((s) => s.fromMs <= start)?.level ?? 0;
    return end > start ? [{ fromMs: start, toMs: end, level }] : [];
  });
}
