// Which clip is which take: by time where the clip's clock is known, else by order. What does not fit is left, with its reason.

import type { WalkClip, WalkTake } from "./session.ts";

export const LEFT_BECAUSE = [
  "no-time",
  "no-take-then",
  "between-takes",
  "several-takes",
  "take-has-clip",
  "card-not-said",
  "no-take-free",
  "counts-differ",
  "lengths-differ",
] as const;
export interface Proposal {
  sha256: string;
  takeId: string | null;
  by: "time" | "order";
  /** Why it was left; null when it was not. */
  because: (typeof LEFT_BECAUSE)[number] | null;
  /** Of a clip that ran through several takes: where each lies in it. */
  cuts: readonly Cut[];
}
export interface Cut {
  takeId: string;
  fromMs: number;
  toMs: number;
}

/** A recording is started a little before the key and stopped a little after: this much either way is no conflict. */
const SLACK_MS = 15_000;
const LENGTH_SHARE = 0.5;
const LENGTH_MS = 8000;
/** A clip holds a take when it covers this much of it. */
const HELD_SHARE = 0.6;
const HELD_MS = 1500;

/** Proposals for clips of no take yet. Takes that have a clip, or were bad without one, and corrected copies keep out. */
export function proposeTakes(clips: readonly WalkClip[], takes: readonly WalkTake[], parts: readonly WalkClip[] = []): Proposal[] {
  const open = clips.filter((c) => c.by === null && !parts.some((p) => p.sha256 === c.sha256));
  const walked = takes.filter((t) => t.of === null);
  const taken = new Set([...clips, ...parts].flatMap((c) => (c.takeId === null ? [] : [c.takeId])));
  const byTime = proposeByTime(
    open.filter((c) => c.startMs !== null),
    walked,
    taken,
  );
  for (const p of byTime) for (const id of [p.takeId, ...p.cuts.map((c) => c.takeId)]) if (id !== null) taken.add(id);
  const untimed = open.filter((c) => c.startMs === null);
  const cards = [...new Set(untimed.map((c) => c.unitId))];
  return [
    ...byTime,
    ...cards.flatMap((card) =>
      proposeByOrder(
        untimed.filter((c) => c.unitId === card),
        walked,
        taken,
        card,
      ),
    ),
  ];
}

const ofCard = (takes: readonly WalkTake[], unitId: string | null): WalkTake[] =>
  unitId === null ? [...takes] : takes.filter((t) => t.unitId === unitId || t.unitId === null);

function proposeByTime(clips: readonly WalkClip[], takes: readonly WalkTake[], taken: ReadonlySet<string>): Proposal[] {
  const used = new Set(taken);
  const order = [...clips].sort((a, b) => (a.startMs ?? 0) - (b.startMs ?? 0));
  return order.map((clip) => {
    const { sha256, startMs, durationMs } = clip;
    const left = (because: Proposal["because"], cuts: readonly Cut[] = []): Proposal => ({
      sha256,
      takeId: null,
      by: "time",
      because,
      cuts,
    });
    if (startMs === null) return left("no-time");
    const [from, to] = [startMs, startMs + durationMs];
    const shared = ofCard(takes, clip.unitId)
      .filter((t) => t.timed)
      .map((t) => ({ t, ms: Math.min(to, t.endMs ?? to) - Math.max(from, t.startMs) }))
      .filter(({ t, ms }) => ms > 0 || (Math.abs(t.startMs - from) < SLACK_MS && t.endMs !== null))
      .sort((a, b) => b.ms - a.ms);
    const cuts = cutsOf(
      clip,
      startMs,
      shared.filter(({ t }) => !used.has(t.id)).map(({ t }) => t),
    );
    if (cuts.length > 1) {
      for (const { takeId } of cuts) used.add(takeId);
      return left("several-takes", cuts);
    }
    const free = cuts.length === 1 ? shared.filter(({ t }) => t.id === cuts[0]?.takeId) : shared;
    const [best, second] = free;
    if (best === undefined) return left("no-take-then");
    // As much of one take as of another: nobody can say which.
    if (second !== undefined && second.ms > 0.8 * best.ms && best.ms > 0) return left("between-takes");
    if (best.ms <= 0 && second !== undefined) return left("between-takes");
    if (used.has(best.t.id)) return left("take-has-clip");
    used.add(best.t.id);
    return { sha256, takeId: best.t.id, by: "time", because: null, cuts: [] };
  });
}

/** The takes a clip holds most of, as they lie in it; none when two of them overlap: then they are two bodies' and the card is not said. */
function cutsOf(clip: WalkClip, startMs: number, takes: readonly WalkTake[]): Cut[] {
  const cuts = takes.flatMap((t): Cut[] => {
    if (t.endMs === null) return [];
    const [fromMs, toMs] = [Math.max(0, t.startMs - startMs), Math.min(clip.durationMs, t.endMs - startMs)];
    const held = toMs - fromMs;
    return held >= HELD_MS && held >= HELD_SHARE * (t.endMs - t.startMs)
      ? [{ takeId: t.id, fromMs: Math.round(fromMs), toMs: Math.round(toMs) }]
      : [];
  });
  cuts.sort((a, b) => a.fromMs - b.fromMs);
  return cuts.some((c, i) => i > 0 && c.fromMs < (cuts[i - 1]?.toMs ?? 0)) ? [] : cuts;
}

/** File names in their natural order against takes in theirs, when there are as many and no length contradicts. */
function proposeByOrder(
  clips: readonly WalkClip[],
  takes: readonly WalkTake[],
  taken: ReadonlySet<string>,
  card: string | null,
): Proposal[] {
  const free = ofCard(takes, card).filter((t) => !taken.has(t.id) && t.endMs !== null);
  const good = free.filter((t) => t.bad === null);
  const order = [...clips].sort((a, b) => a.name.localeCompare(b.name, "en", { numeric: true }));
  const match = [free, good].find((list) => list.length === order.length);
  // Of two bodies' takes in turns, names of unknown cards say nothing.
  const mixed = card === null && new Set(free.map((t) => t.unitId)).size > 1;
  const because: Proposal["because"] = mixed
    ? "card-not-said"
    : free.length === 0
      ? "no-take-free"
      : match === undefined
        ? "counts-differ"
        : contradicts(order, match)
          ? "lengths-differ"
          : null;
  return order.map(({ sha256 }, i) => ({
    sha256,
    takeId: because === null ? (match?.[i]?.id ?? null) : null,
    by: "order",
    because,
    cuts: [],
  }));
}

const contradicts = (clips: readonly WalkClip[], takes: readonly WalkTake[]): boolean =>
  clips.some((c, i) => {
    const t = takes[i];
    if (t?.endMs == null) return false;
    if (!t.timed) return false;
    const apart = Math.abs(c.durationMs - (t.endMs - t.startMs));
    return apart > LENGTH_MS && apart > LENGTH_SHARE * c.durationMs;
  });
