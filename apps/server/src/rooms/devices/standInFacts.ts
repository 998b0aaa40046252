// What a stand-in says about one run up to a moment: a pure function of the run's marks, its seed and the bench clock. Asked
// again after a kill it says the same, with the same ids.

import type { IntakeLine } from "@keep-rolling/contract/devices";
import type { CameraEvent, CameraMoment, CameraRun, CameraSettings, StandInRun } from "@keep-rolling/core/stand-ins";
import { playStandIn, STAND_IN_MOST_MS } from "@keep-rolling/core/stand-ins";
import { foldRun } from "@keep-rolling/core/runs";
import { v5 as uuidv5 } from "uuid";

/** Readings lie on whole minutes from the start; the gauge is said when it changes. */
const READING_EVERY_MS = 60_000;
/** A body is watched this long after its end, then the stand-in rests. */
const AFTER_MS = 20 * 60_000;
/** A forgotten rehearsal must not be simulated for ever. */
const PLAYS_MS = STAND_IN_MOST_MS;

/** `ended`: the body stopped recording by itself although the tester has not said so yet. */
export function standInFacts(run: StandInRun, nowMs: number): { lines: IntakeLine[]; ended: boolean } {
  const fold = foldRun(run.marks);
  const untilMs = Math.min(nowMs, (fold.end?.hiMs ?? nowMs) + AFTER_MS, (fold.startMs ?? nowMs) + PLAYS_MS);
  const played = playStandIn(run, untilMs);
  if (played === null) return { lines: [], ended: false };
  const last = played.camera.moments.at(-1);
  return { lines: linesOf(run.runId, played.camera, played.settings), ended: last !== undefined && last.ended !== null };
}

function linesOf(runId: string, camera: CameraRun, settings: CameraSettings): IntakeLine[] {
  const first = camera.moments[0];
  if (first === undefined) return [];
  const minutes = camera.moments.filter((m) => (m.atMs - first.atMs) % READING_EVERY_MS === 0);
  const gauge: CameraEvent[] = [{ atMs: first.atMs, kind: "gauge", step: first.gauge }];
  return [
    ...minutes.flatMap((m) => minuteLines(m, settings)),
    ...[...gauge, ...camera.events].flatMap((e) =>
      e.kind === "gauge" ? [reading("gauge", "step", e.atMs, e.step)] : [eventLine(runId, e)],
    ),
  ].sort((a, b) => a.atMs - b.atMs);
}

function minuteLines(m: CameraMoment, settings: CameraSettings): IntakeLine[] {
  const lines = [reading("shell", "C", m.atMs, oneDecimal(m.shellC)), reading("ambient", "C", m.atMs, settings.ambientC)];
  if (!settings.externalPower) lines.push(reading("battery", "%", m.atMs, Math.floor(m.batteryPct)));
  lines.push(reading("freeSpace", "GB", m.atMs, oneDecimal(m.freeGb)));
  return lines;
}

const oneDecimal = (value: number): number => Math.round(value * 10) / 10;

type Quantity = Extract<IntakeLine, { type: "reading" }>["quantity"];
const reading = (quantity: Quantity, unit: string, atMs: number, value: number): IntakeLine => ({
  type: "reading",
  atMs,
  channel: quantity.toLowerCase(),
  quantity,
  unit,
  value,
});

function eventLine(runId: string, e: Exclude<CameraEvent, { kind: "gauge" }>): IntakeLine {
  const body = e.kind === "warning" ? { phase: e.phase, ...(e.minutesLeft === undefined ? {} : { minutesLeft: e.minutesLeft }) } : {};
  return { type: "event", id: uuidv5(`${e.kind} ${JSON.stringify(body)} ${e.atMs}`, runId), atMs: e.atMs, kind: e.kind, body };
}
