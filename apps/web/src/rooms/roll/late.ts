// A run that is over already, as typed: when it started, how long it recorded, what ended it, or between when and when it went off.

import type { EndCause } from "@keep-rolling/core/runs";
import type { DurationReading } from "@keep-rolling/core/format";
import { parseDuration } from "@keep-rolling/core/format";

export interface LateText {
  started: string;
  lasted: string;
  cause: EndCause;
  foundOff: boolean;
  lastSeen: string;
}
export interface LateTimes {
  startMs: number;
  endMs: number;
  lastSeenMs: number | null;
}
export type LateReading = { ok: true; times: LateTimes } | { ok: false; errors: { field: keyof LateText; message: string }[] };

/** How a typed time was read, for its echo; undefined while nothing is typed. */
export function echoOfLate(text: string): string | undefined {
  if (text.trim() === "") return undefined;
  const reading = parseDuration(text);
  return reading.ok ? `reads as ${reading.echo}` : WRITE;
}
const WRITE = "Write it as 67 min, 1h07m or 1:07 (hours and minutes).";

/** `simulated`: the demo's clock reads UTC. A run may not end in the future, nor be seen rolling after it was found off. */
export function readLate(text: LateText, nowMs: number, utc: boolean): LateReading {
  const errors: { field: keyof LateText; message: string }[] = [];
  const startMs = Date.parse(utc ? `${text.started}Z` : text.started);
  if (!Number.isFinite(startMs)) errors.push({ field: "started", message: "Say when it started." });
  const lasted = durationOf("lasted", text.lasted, errors);
  const seen = text.foundOff ? durationOf("lastSeen", text.lastSeen, errors) : null;
  if (lasted !== null && lasted <= 0)
    errors.push({ field: "lasted", message: "Longer than nothing; a refusal is recorded from the run before it." });
  if (lasted !== null && seen !== null && seen > lasted)
    errors.push({ field: "lastSeen", message: "It was seen rolling after it was found off." });
  if (errors.length > 0 || lasted === null) return { ok: false, errors };
  const endMs = startMs + lasted;
  if (endMs > nowMs) return { ok: false, errors: [{ field: "lasted", message: "It would end in the future." }] };
  return { ok: true, times: { startMs, endMs, lastSeenMs: seen === null ? null : startMs + seen } };
}

function durationOf(field: "lasted" | "lastSeen", text: string, errors: { field: keyof LateText; message: string }[]): number | null {
  const reading: DurationReading = parseDuration(text);
  if (reading.ok) return reading.ms;
  errors.push({ field, message: reading.reason === "empty" ? "Say how long." : WRITE });
  return null;
}
