// What the player of takes does, as a pure function of keys: run, step, loop, slow, wipe. Time is counted from the moment the takes are laid on
// each other; every take is shown at that moment of its own, to the frame.

export const SPEEDS = [0.125, 0.25, 0.5, 1] as const;
const WIPE_STEP = 0.05;

export interface Player {
  running: boolean;
  /** Position in `SPEEDS`. */
  speed: number;
  /** s from the moment the takes are laid on each other. */
  atSec: number;
  /** Both ends, once set; run comes back to the first. */
  loop: { fromSec: number; toSec: number | null } | null;
  wipe: boolean;
  /** Share of the width left of which the first take is seen. */
  wipeAt: number;
  path: boolean;
}
export const STOPPED: Player = { running: false, speed: 3, atSec: 0, loop: null, wipe: false, wipeAt: 0.5, path: true };

/** The shared time: `timesSec` are the frames of the first take in it, rising. */
export interface Span {
  fromSec: number;
  toSec: number;
  timesSec: readonly number[];
}
export type PlayerKey =
  | "run"
  | "back"
  | "forward"
  | "slower"
  | "faster"
  | "loop"
  | "wipe"
  | "wipe left"
  | "wipe right"
  | "path"
  | "start"
  | "end";

const KEYS: Readonly<Record<string, PlayerKey>> = {
  " ": "run",
  ArrowLeft: "back",
  ArrowRight: "forward",
  "[": "slower",
  "]": "faster",
  l: "loop",
  w: "wipe",
  ",": "wipe left",
  ".": "wipe right",
  p: "path",
  Home: "start",
  End: "end",
};
/** Null: no key of the player. */
export const playerKey = (key: string): PlayerKey | null => KEYS[key.length === 1 ? key.toLowerCase() : key] ?? null;

const clamped = (v: number, lo: number, hi: number): number => Math.min(hi, Math.max(lo, v));

export function pressed(p: Player, key: PlayerKey, span: Span): Player {
  switch (key) {
    case "run":
      // At the end there is nothing to run but from the start again.
      return { ...p, running: !p.running, atSec: !p.running && p.atSec >= lastOf(span) ? (p.loop?.fromSec ?? span.fromSec) : p.atSec };
    case "back":
      return stepped(p, span, -1);
    case "forward":
      return stepped(p, span, 1);
    case "slower":
      return { ...p, speed: Math.max(0, p.speed - 1) };
    case "faster":
      return { ...p, speed: Math.min(SPEEDS.length - 1, p.speed + 1) };
    case "loop":
      return { ...p, loop: nextLoop(p) };
    case "wipe":
      return { ...p, wipe: !p.wipe };
    case "wipe left":
      return { ...p, wipeAt: clamped(p.wipeAt - WIPE_STEP, 0, 1) };
    case "wipe right":
      return { ...p, wipeAt: clamped(p.wipeAt + WIPE_STEP, 0, 1) };
    case "path":
      return { ...p, path: !p.path };
    case "start":
      return { ...p, running: false, atSec: span.fromSec };
    case "end":
      return { ...p, running: false, atSec: lastOf(span) };
  }
}

const lastOf = (span: Span): number => span.timesSec.findLast((t) => t <= span.toSec + 1e-6) ?? span.toSec;

/** First press: from here. Second: to here. Third: no loop. A second press before the first turns them round; at the same place it is none. */
function nextLoop({ loop, atSec }: Player): Player["loop"] {
  if (loop === null) return { fromSec: atSec, toSec: null };
  if (loop.toSec !== null || loop.fromSec === atSec) return null;
  return { fromSec: Math.min(loop.fromSec, atSec), toSec: Math.max(loop.fromSec, atSec) };
}

/** A frame of the first take on or back; stops. */
function stepped(p: Player, span: Span, by: 1 | -1): Player {
  const inside = span.timesSec.filter((t) => t >= span.fromSec - 1e-6 && t <= span.toSec + 1e-6);
  const next = by === 1 ? inside.find((t) => t > p.atSec + 1e-6) : inside.findLast((t) => t < p.atSec - 1e-6);
  return { ...p, running: false, atSec: next ?? p.atSec };
}

/** So many seconds of the wall clock later. Beyond a loop's end it begins again; at the end of the span it stops. */
export function later(p: Player, span: Span, wallSec: number): Player {
  if (!p.running) return p;
  const atSec = p.atSec + wallSec * (SPEEDS[p.speed] ?? 1);
  if (p.loop?.toSec != null && atSec > p.loop.toSec) return { ...p, atSec: p.loop.fromSec };
  const end = lastOf(span);
  return atSec >= end ? { ...p, running: false, atSec: end } : { ...p, atSec };
}

/** The frame shown at a moment: the last that has begun. */
export function frameAt(timesSec: readonly number[], sec: number): number {
  return Math.max(
    0,
    timesSec.findLastIndex((t) => t <= sec + 1e-6),
  );
}
