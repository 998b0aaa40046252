// What is expected to end a run that is under way, updated by its marks and readings: battery and card from the last reading, from the
// last swap, or from the start; clip limit and the tester's own stop as they stand; heat by the range of earlier runs. Positions are
// elapsed milliseconds, as on the strip, taking it to roll on from now.

import type { ChannelReading, RunFold } from "../runs/index.ts";
import { elapsedWhenRecorded, recordedAt, summarise } from "../runs/index.ts";
import type { HeatRange } from "./earlier.ts";
import type { FixedEnd } from "./ends.ts";
import { msToFull } from "./storage.ts";

export interface LiveEndsInput {
  /** Battery per cent and free GB, by marks and channels, any order. */
  batteryPct: readonly ChannelReading[];
  freeGb: readonly ChannelReading[];
  /** Energy of one load and watts by earlier runs; null: not known. */
  wh: number | null;
  watts: number | null;
  /** An empty card's recorded ms; null: not known. */
  cardMs: number | null;
  stopAfterMs: number | null;
}
export interface LiveEnd {
  kind: FixedEnd["kind"];
  atElapsedMs: number;
  by: "reading" | "swap" | "start" | "limit";
}

/** Earliest first; empty unless the run is under way. */
export function liveEnds(fold: RunFold, input: LiveEndsInput, nowMs: number): LiveEnd[] {
  if (fold.startMs === null || fold.setup === null || (fold.state !== "rolling" && fold.state !== "gap")) return [];
  const ends = [battery(fold, input, nowMs), card(fold, input, nowMs), clip(fold), tester(fold, input.stopAfterMs)];
  return ends.filter((e): e is LiveEnd => e !== null).sort((a, b) => a.atElapsedMs - b.atElapsedMs);
}

/** Elapsed position at which the recorded time reaches `recordedMs`, rolling on from now. */
export function elapsedAhead(fold: RunFold, recordedMs: number, nowMs: number): number {
  const times = summarise(fold, nowMs);
  const left = recordedMs - times.recordedMs.hi;
  return left > 0 ? times.elapsedMs + left : (elapsedWhenRecorded(fold, recordedMs) ?? recordedMs);
}

interface Source {
  atMs: number;
  by: LiveEnd["by"];
}

/** The moment from which a full load counts: the end of the last swap of that kind, else the start. */
function fullSince(fold: RunFold, cause: "battery swap" | "card swap"): Source {
  const swap = fold.gaps.findLast((g) => g.cause === cause && g.toMs !== null);
  return swap?.toMs == null ? { atMs: fold.startMs ?? 0, by: "start" } : { atMs: swap.toMs, by: "swap" };
}

const latest = (readings: readonly ChannelReading[], sinceMs: number, nowMs: number): ChannelReading | null =>
  readings
    .filter((r) => r.atMs >= sinceMs && r.atMs <= nowMs)
    .reduce<ChannelReading | null>((best, r) => (best === null || r.atMs >= best.atMs ? r : best), null);

const LEAST_DROP_PCT = 15;

function battery(fold: RunFold, m: LiveEndsInput, nowMs: number): LiveEnd | null {
  const { power } = fold.setup?.condition ?? {};
  if (power !== "internal" && power !== "grip") return null;
  const full = fullSince(fold, "battery swap");
  const last = latest(m.batteryPct, full.atMs, nowMs);
  const perMs = drainOf(fold, m, full.atMs, nowMs);
  if (perMs === null || perMs <= 0) return null;
  const from = last ?? { atMs: full.atMs, value: 100 };
  const recordedMs = recordedAt(fold, from.atMs) + Math.floor(from.value / perMs);
  return { kind: "battery", atElapsedMs: elapsedAhead(fold, recordedMs, nowMs), by: last === null ? full.by : "reading" };
}

/** Per cent a recorded ms: this run's own drop once it is large enough, else by earlier runs' watts. */
function drainOf(fold: RunFold, m: LiveEndsInput, sinceMs: number, nowMs: number): number | null {
  const mine = m.batteryPct.filter((r) => r.atMs >= sinceMs && r.atMs <= nowMs);
  const first = mine.reduce<ChannelReading | null>((best, r) => (best === null || r.atMs < best.atMs ? r : best), null);
  const last = latest(mine, sinceMs, nowMs);
  if (first !== null && last !== null && first.value - last.value >= LEAST_DROP_PCT) {
    const recordedMs = recordedAt(fold, last.atMs) - recordedAt(fold, first.atMs);
    if (recordedMs > 0) return (first.value - last.value) / recordedMs;
  }
  return m.wh === null || m.watts === null ? null : (100 * m.watts) / (m.wh * 3_600_000);
}

function card(fold: RunFold, m: LiveEndsInput, nowMs: number): LiveEnd | null {
  const mbps = fold.setup?.mode.mbps ?? 0;
  const full = fullSince(fold, "card swap");
  const last = latest(m.freeGb, full.atMs, nowMs);
  if (last === null && m.cardMs === null) return null;
  const from = last ?? full;
  const leftMs = last === null ? (m.cardMs ?? 0) : last.value <= 0 ? 0 : msToFull(last.value, mbps);
  return {
    kind: "card",
    atElapsedMs: elapsedAhead(fold, recordedAt(fold, from.atMs) + leftMs, nowMs),
    by: last === null ? full.by : "reading",
  };
}

/** A clip counts from the last start, resume or new file. */
function clip(fold: RunFold): LiveEnd | null {
  const limitSec = fold.setup?.mode.clipLimitSec ?? null;
  const segment = fold.segments.at(-1);
  if (limitSec === null || fold.startMs === null || fold.state !== "rolling" || segment === undefined) return null;
  return { kind: "clip limit", atElapsedMs: Math.max(segment.fromMs, ...fold.splits) + limitSec * 1000 - fold.startMs, by: "limit" };
}

const tester = (fold: RunFold, stopAfterMs: number | null): LiveEnd | null =>
  stopAfterMs === null || fold.startMs === null ? null : { kind: "tester", atElapsedMs: stopAfterMs, by: "limit" };

export interface LiveBand {
  loElapsedMs: number;
  midElapsedMs: number;
  /** Null: no upper end is known. */
  hiElapsedMs: number | null;
}

/** Where earlier runs ended by heat, on this run's strip; null when it is not under way. */
export function liveBand(fold: RunFold, range: Pick<HeatRange, "loMs" | "midMs" | "hiMs">, nowMs: number): LiveBand | null {
  if (fold.state !== "rolling" && fold.state !== "gap") return null;
  const at = (recordedMs: number): number => elapsedAhead(fold, recordedMs, nowMs);
  return { loElapsedMs: at(range.loMs), midElapsedMs: at(range.midMs), hiElapsedMs: range.hiMs === null ? null : at(range.hiMs) };
}
