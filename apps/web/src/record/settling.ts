// What a run has to settle: the fold's findings and devices whose clock turned out to be off, each with the marks that settle it.

import type { DeviceEvent } from "@keep-rolling/contract/devices";
import type { Fix, MovedClock } from "@keep-rolling/core/runs";
import { describeMark, findingText, fixesFor, retimeMoved } from "@keep-rolling/core/runs";
import type { TemperatureUnit } from "@keep-rolling/core/format";
import { formatSpan } from "@keep-rolling/core/format";
import type { Press } from "./pressing.ts";
import type { SeenRun } from "./runs.ts";

export interface Settlement {
  key: string;
  sentence: string;
  /** The marks concerned, in words. */
  about: string;
  markIds: readonly string[];
  /** The first is what one key presses. */
  ways: { label: string; presses: readonly Fix[] }[];
}

export function toSettle(run: SeenRun & { events?: readonly DeviceEvent[] }, unit: TemperatureUnit): Settlement[] {
  const findings = run.fold.findings.map((f) => ({
    key: `${f.code} ${f.markIds.join()}`,
    sentence: findingText(f.code),
    about: f.markIds.map((id) => wordsFor(run, id, unit)).join("; "),
    markIds: f.markIds,
    ways: fixesFor(f, run.fold, run.marks, unit).map((fix) => ({ label: fix.label, presses: [fix] })),
  }));
  return [...movedClocks(run, unit), ...findings];
}

function movedClocks(run: SeenRun & { events?: readonly DeviceEvent[] }, unit: TemperatureUnit): Settlement[] {
  return (run.events ?? []).flatMap((event) => {
    const moved = movedOf(event);
    if (moved === null) return [];
    const marks = retimeMoved(run.marks, moved);
    if (marks.length === 0) return [];
    const moveMs = moved.offsetNowMs - moved.offsetThenMs;
    const way = `Move ${marks.length === 1 ? "it" : `all ${marks.length}`} by ${formatSpan(Math.abs(moveMs))} ${moveMs > 0 ? "later" : "earlier"}`;
    return {
      key: event.id,
      sentence: `A device's clock was off by ${formatSpan(Math.abs(moveMs))} when these were pressed; it had not been compared with the server's yet.`,
      about: marks.map((m) => wordsFor(run, m.target, unit)).join("; "),
      markIds: marks.map((m) => m.target),
      ways: [{ label: way, presses: marks.map(({ target, atMs }): Fix => ({ label: way, kind: "correction", target, body: { atMs } })) }],
    };
  });
}

function movedOf(event: DeviceEvent): MovedClock | null {
  const { offsetThenMs, offsetNowMs } = event.body;
  if (event.kind !== "clock moved" || typeof offsetThenMs !== "number" || typeof offsetNowMs !== "number") return null;
  return { deviceId: event.deviceId, offsetThenMs, offsetNowMs };
}

function wordsFor(run: SeenRun, id: string, unit: TemperatureUnit): string {
  const mark = run.fold.effective.find((m) => m.id === id) ?? run.marks.find((m) => m.id === id);
  return mark === undefined ? "a mark that is not here" : describeMark(mark, unit);
}

/** Presses what settles it: ordinary marks, which can be taken back. */
export async function settle(press: Press, presses: readonly Fix[]): Promise<void> {
  for (const fix of presses) {
    if (fix.kind === "undo") await press("undo", {}, { target: fix.target });
    else await press("correction", fix.body, { target: fix.target, ...(fix.replaces === undefined ? {} : { replaces: fix.replaces }) });
  }
}
