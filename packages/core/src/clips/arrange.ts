// Clips of one run put on one line of camera time: where each begins and ends, and whether the camera went on between two (a split) or stopped
// (a gap). By time code where it runs free, else by creation times, which are whole seconds.

import { isReadable } from "./clip.ts";
import type { Clip, ClipConvention, ReadableClip } from "./clip.ts";
import { framesInDay, timeCodeMs } from "./timeCode.ts";

export interface Placed {
  clip: Clip;
  /** Camera time, ms. */
  startMs: number;
  /** Null: cut off, its end is not in the file. */
  endMs: number | null;
}
export interface Join {
  /** Between this clip and the next. */
  after: number;
  kind: "split" | "gap";
  /** 0 for a split. */
  gapMs: number;
}
export interface Arranged {
  placed: Placed[];
  joins: Join[];
  /** How well two clips are placed against each other, plus or minus, ms. */
  errMs: number;
  by: "free-running time code" | "creation times";
  /** What the time code does: recorded clips only may hide gaps. */
  timeCode: "runs free" | "runs while recording" | "none" | "unclear";
}
export type Arrangement = ({ ok: true } & Arranged) | { ok: false; reason: "nothing-readable" | "no-creation-times" | "overlap" };

/** Creation times are cut to the second. */
export const STAMP_MS = 1000;
/** Two whole-second stamps apart by no more than this are one recording. */
const SPLIT_MS = 1500;

/** Clips in any order. A cut-off clip is taken to follow the others by its name. */
export function arrange(clips: readonly Clip[], stamp: ClipConvention["stamp"]): Arrangement {
  const readable = clips.filter(isReadable);
  if (readable.length === 0) return { ok: false, reason: "nothing-readable" };
  if (readable.some((c) => c.read.createdMs === null)) return { ok: false, reason: "no-creation-times" };
  const placed = readable.map((clip) => place(clip, stamp)).sort((a, b) => a.startMs - b.startMs || (a.clip.name < b.clip.name ? -1 : 1));
  const timeCode = runOf(placed);
  const free = timeCode === "runs free";
  const exact = free ? byTimeCode(placed) : placed;
  const errMs = free ? frameMs(placed) : STAMP_MS;
  const joins = joinsOf(exact, free ? 2 * errMs + 1 : SPLIT_MS);
  if (joins === null) return { ok: false, reason: "overlap" };
  const cut = clips.filter((c) => !isReadable(c)).sort((a, b) => (a.name < b.name ? -1 : 1));
  const last = exact.at(-1);
  const lost = cut.map((clip): Placed => ({ clip, startMs: last?.endMs ?? 0, endMs: null }));
  return { ok: true, placed: [...exact, ...lost], joins, errMs, by: free ? "free-running time code" : "creation times", timeCode };
}

interface Whole {
  clip: ReadableClip;
  startMs: number;
  endMs: number;
}

function place(clip: ReadableClip, stamp: ClipConvention["stamp"]): Whole {
  const { createdMs, durationMs } = clip.read;
  const startMs = (createdMs ?? 0) - (stamp === "close" ? durationMs : 0);
  return { clip, startMs, endMs: startMs + durationMs };
}

const frameMs = (placed: readonly Whole[]): number =>
  Math.max(...placed.map(({ clip }) => (1000 * clip.read.fpsDen) / Math.max(1, clip.read.fpsNum)));

/** Compares the steps of the time code with those of the creation times, clip by clip. */
function runOf(placed: readonly Whole[]): Arranged["timeCode"] {
  if (placed.some((p) => p.clip.read.timeCode === null)) return "none";
  if (placed.length < 2) return "unclear";
  const steps = placed.slice(1).map((p, i) => ({ code: codeStepMs(placed[i] as Whole, p), stamp: stampStepMs(placed[i] as Whole, p) }));
  if (steps.every((s) => Math.abs(s.code - s.stamp) <= SPLIT_MS)) return "runs free";
  const joined = placed
    .slice(1)
    .every((p, i) => Math.abs(codeStepMs(placed[i] as Whole, p) - (placed[i] as Whole).clip.read.durationMs) <= SPLIT_MS);
  return joined ? "runs while recording" : "unclear";
}

const stampStepMs = (a: Whole, b: Whole): number => b.startMs - a.startMs;

/** From one clip's first frame to the next's; across midnight it goes on. */
function codeStepMs(a: Whole, b: Whole): number {
  const [from, to] = [a.clip.read.timeCode, b.clip.read.timeCode];
  if (from === null || to === null) return Number.NaN;
  const day = framesInDay(from);
  const frames = (((to.frame - from.frame) % day) + day) % day;
  return timeCodeMs({ ...from, frame: frames });
}

/**
 * Steps by the time code; the whole by where every creation time can hold: each was cut to the second, so the true start lies up to
 * a second later. The middle of what all allow.
 */
function byTimeCode(placed: readonly Whole[]): Whole[] {
  let at = 0;
  const codeAt = placed.map((p, i) => (at += i === 0 ? 0 : codeStepMs(placed[i - 1] as Whole, p)));
  const bases = placed.map((p, i) => p.startMs - (codeAt[i] ?? 0));
  const [lo, hi] = [Math.max(...bases), Math.min(...bases) + STAMP_MS];
  const base = lo <= hi ? Math.round((lo + hi) / 2) : Math.round((Math.min(...bases) + Math.max(...bases)) / 2);
  return placed.map((p, i) => {
    const startMs = Math.round(base + (codeAt[i] ?? 0));
    return { ...p, startMs, endMs: startMs + p.clip.read.durationMs };
  });
}

/** Null when two clips lie over each other: they are not of one run, or stamped the other way. */
function joinsOf(placed: readonly Whole[], splitMs: number): Join[] | null {
  const joins = placed.slice(1).map((p, i): Join => {
    const gapMs = p.startMs - (placed[i] as Whole).endMs;
    return Math.abs(gapMs) <= splitMs ? { after: i, kind: "split", gapMs: 0 } : { after: i, kind: "gap", gapMs };
  });
  return joins.some((j) => j.gapMs < 0) ? null : joins;
}

/** How many joins of these clips hold under each way of stamping; only clips of different length can tell. */
export function stampEvidence(clips: readonly Clip[]): { start: number; close: number } {
  const whole = clips.filter(isReadable).filter((c) => c.read.createdMs !== null);
  const holds = (stamp: ClipConvention["stamp"]): number => {
    const placed = whole.map((c) => place(c, stamp)).sort((a, b) => a.startMs - b.startMs);
    return placed.slice(1).filter((p, i) => Math.abs(p.startMs - (placed[i] as Whole).endMs) <= SPLIT_MS).length;
  };
  return { start: holds("start"), close: holds("close") };
}
