// Which clip is which take: by time where the clip's clock is known, else by order. What does not fit is left, with its reason.

import type { WalkClip, WalkTake } from "./session.ts";

export const LEFT_BECAUSE = ["no-time", "no-take-then", "between-takes", "take-has-clip", "counts-differ", "lengths-differ"] as const;
export interface Proposal {
  sha256: string;
  takeId: string | null;
  by: "time" | "order";
  /** Why it was left; null when it was not. */
  because: (typeof LEFT_BECAUSE)[number] | null;
}

/** A recording is started a little before the key and stopped a little after: this much either way is no conflict. */
const SLACK_MS = 15_000;
const LENGTH_SHARE = 0.5;
const LENGTH_MS = 8000;

/** Proposals for clips of no take yet. Takes that have a clip, or were bad without one, keep out of the order. */
export function proposeTakes(clips: readonly WalkClip[], takes: readonly WalkTake[]): Proposal[] {
  const open = clips.filter((c) => c.by === null);
  const timed = open.filter((c) => c.startMs !== null);
  const taken = new Set(clips.flatMap((c) => (c.takeId === null ? [] : [c.takeId])));
  const byTime = proposeByTime(timed, takes, taken);
  const untimed = open.filter((c) => c.startMs === null);
  return [
    ...byTime,
    ...proposeByOrder(untimed, takes, new Set([...taken, ...byTime.flatMap((p) => (p.takeId === null ? [] : [p.takeId]))])),
  ];
}

function proposeByTime(clips: readonly WalkClip[], takes: readonly WalkTake[], taken: ReadonlySet<string>): Proposal[] {
  const used = new Set(taken);
  const order = [...clips].sort((a, b) => (a.startMs ?? 0) - (b.startMs ?? 0));
  return order.map(({ sha256, startMs, durationMs }) => {
    const left = (because: Proposal["because"]): Proposal => ({ sha256, takeId: null, by: "time", because });
    if (startMs === null) return left("no-time");
    const [from, to] = [startMs, startMs + durationMs];
    const shared = takes
      .filter((t) => t.timed)
      .map((t) => ({ t, ms: Math.min(to, t.endMs ?? to) - Math.max(from, t.startMs) }))
      .filter(({ t, ms }) => ms > 0 || (Math.abs(t.startMs - from) < SLACK_MS && t.endMs !== null))
      .sort((a, b) => b.ms - a.ms);
    const [best, second] = shared;
    if (best === undefined) return left("no-take-then");
    // As much of one take as of another: nobody can say which.
    if (second !== undefined && second.ms > 0.8 * best.ms && best.ms > 0) return left("between-takes");
    if (best.ms <= 0 && second !== undefined) return left("between-takes");
    if (used.has(best.t.id)) return left("take-has-clip");
    used.add(best.t.id);
    return { sha256, takeId: best.t.id, by: "time", because: null };
  });
}

/** File names in their natural order against takes in theirs, when there are as many and no length contradicts. */
function proposeByOrder(clips: readonly WalkClip[], takes: readonly WalkTake[], taken: ReadonlySet<string>): Proposal[] {
  const free = takes.filter((t) => !taken.has(t.id) && t.endMs !== null);
  const good = free.filter((t) => t.bad === null);
  const order = [...clips].sort((a, b) => a.name.localeCompare(b.name, "en", { numeric: true }));
  const match = [free, good].find((list) => list.length === order.length);
  const because: Proposal["because"] = match === undefined ? "counts-differ" : contradicts(order, match) ? "lengths-differ" : null;
  return order.map(({ sha256 }, i) => ({ sha256, takeId: because === null ? (match?.[i]?.id ?? null) : null, by: "order", because }));
}

const contradicts = (clips: readonly WalkClip[], takes: readonly WalkTake[]): boolean =>
  clips.some((c, i) => {
    const t = takes[i];
    if (t?.endMs == null) return false;
    if (!t.timed) return false;
    const apart = Math.abs(c.durationMs - (t.endMs - t.startMs));
    return apart > LENGTH_MS && apart > LENGTH_SHARE * c.durationMs;
  });
