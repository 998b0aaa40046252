// What a run of the notebook becomes: its marks in order of time, elapsed from the start.

import type { GapCause } from "../runs/index.ts";
import type { NotedRun } from "./readSheet.ts";

export type NotedFact =
  | { kind: "warning"; body: { phase: "shown" }; afterMs: number }
  | { kind: "gap"; body: { cause: GapCause; power: "on" | "off" }; afterMs: number }
  | { kind: "resume"; body: Record<string, never>; afterMs: number }
  | { kind: "note"; body: { text: string }; afterMs: number }
  | { kind: "end"; body: { cause: NotedRun["end"] }; afterMs: number };

/** Recorded time on the elapsed ruler: gaps before it push it on. */
const elapsedAt = (run: NotedRun, recordedMs: number): number =>
  recordedMs + run.gaps.filter((g) => g.afterMs < recordedMs).reduce((sum, g) => sum + g.longMs, 0);

export function factsOf(run: NotedRun): NotedFact[] {
  const gaps = run.gaps.flatMap((g): NotedFact[] => {
    const fromMs = elapsedAt(run, g.afterMs);
    return [
      { kind: "gap", body: { cause: "unknown", power: g.power }, afterMs: fromMs },
      { kind: "resume", body: {}, afterMs: fromMs + g.longMs },
    ];
  });
  const notes = [
    run.note,
    run.noWarning ? "By the notebook there was no warning." : "",
    run.timeSaid ? "" : "The time of day was not in the notebook.",
  ].filter((text) => text !== "");
  return [
    ...gaps,
    ...(run.warningMs === null ? [] : [{ kind: "warning", body: { phase: "shown" }, afterMs: elapsedAt(run, run.warningMs) } as const]),
    ...notes.map((text) => ({ kind: "note", body: { text }, afterMs: run.elapsedMs }) as const),
    { kind: "end", body: { cause: run.end }, afterMs: run.elapsedMs },
  ];
}
