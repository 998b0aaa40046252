// What a run has to settle: the fold's findings and devices whose clock turned out to be off, each with the marks that settle it.

import type { DeviceEvent } from "@keep-rolling/contract/devices";
import type { Fix, MovedClock, ToldWarning } from "@keep-rolling/core/runs";
import { describeMark, findingText, fixesFor, retimeMoved } from "@keep-rolling/core/runs";
import type { TemperatureUnit } from "@keep-rolling/core/format";
import { formatHms, formatSpan } from "@keep-rolling/core/format";
import type { Press } from "./pressing.ts";
import type { SeenRun } from "./runs.ts";

export interface Settlement {
  key: string;
  sentence: string;
  /** The marks concerned, in words. */
  about: string;
  markIds: readonly string[];
  /** The first is what one key presses. */
  ways: { label: string; presses: readonly Settling[] }[];
}
/** A fix of the record, or a device's word taken over with its own time. */
type Settling = Fix | { label: string; kind: "take over"; warning: ToldWarning };

export function toSettle(run: SeenRun & { events?: readonly DeviceEvent[] }, unit: TemperatureUnit): Settlement[] {
  const findings = run.fold.findings.map((f) => ({
    key: `${f.code} ${f.markIds.join()}`,
    sentence: findingText(f.code),
    about: f.markIds.map((id) => wordsFor(run, id, unit)).join("; "),
    markIds: f.markIds,
    ways: fixesFor(f, run.fold, run.marks, unit).map((fix) => ({ label: fix.label, presses: [fix] })),
  }));
  return [...movedClocks(run, unit), ...run.unmarked.map((w) => unmarkedWarning(run, w)), ...findings];
}

/** "The camera showed its warning at 0:40:10 and nobody marked it." */
export const unmarkedText = (run: SeenRun, { atMs, phase, minutesLeft }: ToldWarning): string =>
  `The camera ${phase === "shown" ? "showed its warning" : "warned again"} at ${formatHms(atMs - (run.fold.startMs ?? atMs))}${minutesLeft === null ? "" : `, ${minutesLeft} min left`}, and nobody marked it.`;

function unmarkedWarning(run: SeenRun, warning: ToldWarning): Settlement {
  const label = "Take it over";
  return {
    key: warning.eventId,
    sentence: unmarkedText(run, warning),
    about: "Without it the run would seem to have come with less warning than it had.",
    markIds: [],
    ways: [{ label, presses: [{ label, kind: "take over", warning }] }],
  };
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
export async function settle(press: Press, presses: readonly Settling[]): Promise<void> {
  for (const fix of presses) {
    if (fix.kind === "take over") await takeOver(press, fix.warning);
    else if (fix.kind === "undo") await press("undo", {}, { target: fix.target });
    else await press("correction", fix.body, { target: fix.target, ...(fix.replaces === undefined ? {} : { replaces: fix.replaces }) });
  }
}

async function takeOver(press: Press, { eventId, atMs, phase, minutesLeft }: ToldWarning): Promise<void> {
  await press("warning", { phase, ...(minutesLeft === null ? {} : { minutesLeft }) }, { atMs, source: "accepted", accepts: eventId });
}
