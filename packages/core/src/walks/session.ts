// A walking test as it stands: the pure function from a folded session to its plan, its takes and their clips.

import type { Fact } from "../facts/index.ts";
import type { AssignBody, ClipBody, ConclusionBody, JudgementBody, PriceBody, SegmentBody, TakeBody, TrimBody } from "./bodies.ts";
import type { OrderedTake } from "./order.ts";
import { orderOfTakes } from "./order.ts";
import type { WalkMove, WalkPlan, WalkSetup } from "./plan.ts";

export interface WalkClip {
  sha256: string;
  name: string;
  bytes: number;
  startMs: number | null;
  durationMs: number;
  /** Whose card it came from; null: not said. */
  unitId: string | null;
  takeId: string | null;
  by: "time" | "order" | "picture" | "hand" | null;
  inFrame: number;
  outFrame: number | null;
  /** Names what was measured: the clip itself, or its part that is one take's. */
  key: string;
  /** Facts that speak of the clip: undone together, it leaves the test. */
  factIds: readonly string[];
  /** The part of the clip, from its first frame; null: all of it. */
  part: { fromMs: number; toMs: number | null } | null;
  /** Of a whole clip: its parts that are takes of their own, and so not of this one. */
  without: readonly { fromMs: number; toMs: number | null }[];
}

export interface WalkTake {
  /** The fact that began it. */
  id: string;
  setupId: string;
  moveId: string;
  unitId: string | null;
  /** False: walked without the card; its times are those of the telling, and say nothing. */
  timed: boolean;
  /** The take of which it is a corrected copy; null: it was walked. */
  of: string | null;
  startMs: number;
  /** Null: it goes on. */
  endMs: number | null;
  bad: string | null;
  /** The fact that says so: undone, it counts again. Null also where only the take it is a copy of is bad. */
  badFactId: string | null;
  /** When that was said; null: it counts. */
  badAtMs: number | null;
  /** Left out once a clip of it was on record: it may have been chosen by what was measured. */
  badLate: boolean;
  /** 1 for the setup's first good take of the move; bad ones carry the number they would have had, copies that of their take. */
  n: number;
  clips: readonly WalkClip[];
}

export const WALK_FINDINGS = ["take-not-ended", "setup-gone", "end-of-no-take", "two-clips", "take-without-clip"] as const;
export interface WalkFinding {
  code: (typeof WALK_FINDINGS)[number];
  factIds: readonly string[];
}

export interface WalkJudgement extends JudgementBody {
  id: string;
  atMs: number;
}
export interface WalkConclusion extends ConclusionBody {
  id: string;
  atMs: number;
}

export interface Walk {
  plan: WalkPlan | null;
  takes: readonly WalkTake[];
  clips: readonly WalkClip[];
  /** Parts of clips that are takes of their own. */
  parts: readonly WalkClip[];
  /** The take that goes on now; the latest when there are several. */
  open: WalkTake | null;
  /** All that go on: two bodies carried together have a take each. */
  opens: readonly WalkTake[];
  next: OrderedTake | null;
  /** Good takes wanted and not walked yet. */
  left: number;
  /** The last press of the card that stands: what undo takes back. */
  lastPress: { ids: readonly string[]; kind: "take" | "takeEnded" | "takeBad" } | null;
  findings: readonly WalkFinding[];
  /** In the order they were given. */
  judgements: readonly WalkJudgement[];
  /** Typed prices that stand. */
  prices: readonly PriceBody[];
  /** The last of each move and use that stands, in the order recorded. */
  conclusions: readonly WalkConclusion[];
}

type Bodied = Fact & { body: Record<string, unknown> };

/** Total: whatever the facts say, an answer comes. Ties of time keep the fold's order. */
export function walkOf(fold: { effective: readonly Fact[] }): Walk {
  const of = (kind: string): Bodied[] => fold.effective.filter((f) => f.kind === kind && !("foreign" in f)) as Bodied[];
  const plan = (of("plan").at(-1)?.body.walk as WalkPlan | undefined) ?? null;
  const findings: WalkFinding[] = [];
  const whole = clipsOf(of);
  const parts = partsOf(of, whole);
  const clips = whole.map((c) => ({ ...c, without: parts.flatMap((p) => (p.sha256 === c.sha256 && p.part !== null ? [p.part] : [])) }));
  const takes = takesOf(of, [...clips, ...parts], findings);
  const known = new Set([...(plan?.setups ?? []), ...(plan?.moves ?? [])].map((x: WalkSetup | WalkMove) => x.id));
  for (const t of takes)
    if (plan !== null && !(known.has(t.setupId) && known.has(t.moveId))) findings.push({ code: "setup-gone", factIds: [t.id] });
  for (const t of takes) if (t.clips.length > 1) findings.push({ code: "two-clips", factIds: [t.id] });
  if (clips.length > 0)
    for (const t of takes)
      if (t.clips.length === 0 && t.bad === null && t.endMs !== null) findings.push({ code: "take-without-clip", factIds: [t.id] });
  const opens = takes.filter((t) => t.endMs === null && t.bad === null);
  const open = opens.at(-1) ?? null;
  const missing = plan === null ? [] : missingTakes(plan, takes);
  const lastPress = lastPressOf(fold.effective);
  const next = missing[0] ?? null;
  return { plan, takes, clips, parts, open, opens, next, left: missing.length, lastPress, findings, ...judgedOf(of) };
}

function judgedOf(of: (kind: string) => Bodied[]): Pick<Walk, "judgements" | "prices" | "conclusions"> {
  const judgements = of("judgement").map((f) => ({ ...(f.body as unknown as JudgementBody), id: f.id, atMs: f.atMs }));
  const prices = new Map<string, PriceBody>();
  for (const { body } of of("price")) {
    const price = body as unknown as PriceBody;
    prices.set(`${price.setupId}\n${price.price}`, price);
  }
  const conclusions = new Map<string, WalkConclusion>();
  for (const f of of("conclusion")) {
    const said = { ...(f.body as unknown as ConclusionBody), id: f.id, atMs: f.atMs };
    const key = `${said.moveId}\n${said.use}`;
    conclusions.delete(key);
    conclusions.set(key, said);
  }
  return { judgements, prices: [...prices.values()].filter((p) => p.value !== null), conclusions: [...conclusions.values()] };
}

const PRESSES = ["take", "takeEnded", "takeBad"] as const;
/** Facts of one key for two bodies are written this close together. */
const ONE_PRESS_MS = 50;
/** Said of a clip, not pressed on the walk: a corrected copy, or a take told afterwards. The card's undo key must not reach it. */
const toldOfClip = ({ body }: Fact): boolean => ("untimed" in body && body.untimed === true) || ("of" in body && body.of !== undefined);
/** By when they were pressed: a late correction of a time does not change what was pressed last. */
function lastPressOf(effective: readonly Fact[]): Walk["lastPress"] {
  const presses = effective.filter((f) => (PRESSES as readonly string[]).includes(f.kind) && !("foreign" in f) && !toldOfClip(f));
  let last: Fact | null = null;
  for (const f of presses)
    if (last === null || f.madeAtMs > last.madeAtMs || (f.madeAtMs === last.madeAtMs && f.deviceSeq >= last.deviceSeq)) last = f;
  if (last === null) return null;
  const { kind, madeAtMs, deviceId } = last;
  const same = presses.filter((f) => f.kind === kind && f.deviceId === deviceId && madeAtMs - f.madeAtMs < ONE_PRESS_MS);
  return { ids: same.map((f) => f.id), kind: kind as (typeof PRESSES)[number] };
}

function clipsOf(of: (kind: string) => Bodied[]): WalkClip[] {
  const clips = new Map<string, WalkClip>();
  const about = ["clip", "assign", "trim", "segment"].flatMap(of);
  const idsOf = (sha256: string): string[] => about.filter((f) => f.body.sha256 === sha256).map((f) => f.id);
  for (const { body } of of("clip")) {
    const { sha256, name, bytes, startMs, durationMs, unitId } = body as unknown as ClipBody;
    const given = {
      sha256,
      name,
      bytes,
      startMs,
      durationMs,
      unitId: unitId ?? null,
      key: sha256,
      part: null,
      without: [],
      factIds: idsOf(sha256),
    };
    if (!clips.has(sha256)) clips.set(sha256, { ...given, takeId: null, by: null, inFrame: 0, outFrame: null });
  }
  for (const { body } of of("assign")) {
    const { sha256, takeId, by } = body as unknown as AssignBody;
    const known = clips.get(sha256);
    if (known !== undefined) clips.set(sha256, { ...known, takeId, by });
  }
  for (const { body } of of("trim")) {
    const { sha256, inFrame, outFrame } = body as unknown as TrimBody;
    const known = clips.get(sha256);
    if (known !== undefined) clips.set(sha256, { ...known, inFrame, outFrame });
  }
  return [...clips.values()];
}

/** In the order they lie in their clips. */
function partsOf(of: (kind: string) => Bodied[], clips: readonly WalkClip[]): WalkClip[] {
  const parts = new Map<string, WalkClip>();
  for (const { body } of of("segment")) {
    const { sha256, takeId, fromMs, toMs } = body as unknown as SegmentBody;
    const whole = clips.find((c) => c.sha256 === sha256);
    const key = `${sha256} ${takeId}`;
    if (whole === undefined) continue;
    if (fromMs === null) parts.delete(key);
    else parts.set(key, { ...whole, takeId, by: "hand", inFrame: 0, outFrame: null, key, part: { fromMs, toMs } });
  }
  return [...parts.values()].sort((a, b) => (a.part?.fromMs ?? 0) - (b.part?.fromMs ?? 0));
}

function takesOf(of: (kind: string) => Bodied[], clips: readonly WalkClip[], findings: WalkFinding[]): WalkTake[] {
  // A copy whose clip was given to another take is none: nobody walked it.
  const begun = of("take").filter((f) => f.body.of === undefined || clips.some((c) => c.takeId === f.id));
  const ends = of("takeEnded");
  const bad = new Map(
    of("takeBad").map((f) => [f.target ?? "", { id: f.id, atMs: f.atMs, reason: (f.body as { reason: string }).reason }]),
  );
  const broughtIn = new Map([...of("clip")].reverse().map((f) => [f.body.sha256, f.atMs]));
  const counted = new Map<string, number>();
  for (const e of ends) if (!begun.some((t) => t.id === e.target)) findings.push({ code: "end-of-no-take", factIds: [e.id] });
  const takes = begun.map((f, i): WalkTake => {
    const { setupId, moveId, unitId, untimed, of: parent } = f.body as unknown as TakeBody;
    const timed = untimed !== true && parent === undefined;
    // Ended at the earliest of its ends, never before it began; one that nobody ended, when the next of the same body began.
    const told = timed ? null : f.atMs;
    const own = ends.filter((e) => e.target === f.id).map((e) => Math.max(f.atMs, e.atMs));
    const after = begun.slice(i + 1).find(({ body }) => body.unitId === unitId && body.untimed !== true && body.of === undefined);
    const reason = bad.get(f.id)?.reason ?? null;
    if (timed && own.length === 0 && after !== undefined && reason === null) findings.push({ code: "take-not-ended", factIds: [f.id] });
    const endMs = told ?? (own.length > 0 ? Math.min(...own) : (after?.atMs ?? null));
    const key = `${setupId}\n${moveId}\n${unitId ?? ""}`;
    const n = (counted.get(key) ?? 0) + 1;
    if (reason === null) counted.set(key, n);
    const mine = clips.filter((c) => c.takeId === f.id);
    const badAtMs = bad.get(f.id)?.atMs ?? null;
    return {
      id: f.id,
      setupId,
      moveId,
      unitId,
      timed,
      of: parent ?? null,
      startMs: f.atMs,
      endMs,
      bad: reason,
      badFactId: bad.get(f.id)?.id ?? null,
      badAtMs,
      badLate: badAtMs !== null && mine.some((c) => (broughtIn.get(c.sha256) ?? Number.POSITIVE_INFINITY) <= badAtMs),
      n,
      clips: mine,
    };
  });
  // A copy bears the number of the take it was made of, and is as good as that take was.
  return takes.map((t) => {
    const parent = t.of === t.id ? undefined : takes.find((p) => p.id === t.of);
    if (parent === undefined) return t;
    const { bad, badAtMs, badLate } = t.bad === null ? parent : t;
    return { ...t, n: parent.n, bad, badAtMs, badLate };
  });
}

/** What of the order is not walked well yet, in its order; a take that goes on counts as walked, and bodies carried together count once. */
function missingTakes(plan: WalkPlan, takes: readonly WalkTake[]): OrderedTake[] {
  const done = (o: OrderedTake): number => {
    const walked = takes.filter((t) => t.bad === null && t.setupId === o.setupId && t.moveId === o.moveId);
    return Math.max(0, ...[...new Set(walked.map((t) => t.unitId))].map((u) => walked.filter((t) => t.unitId === u).length));
  };
  return orderOfTakes(plan).filter((o) => o.n > done(o));
}

/** Pressed by one key: another body's take of the same setup and move that began at the same moment. */
export const togetherWith = (takes: readonly WalkTake[], take: WalkTake): WalkTake[] =>
  takes.filter(
    (t) =>
      t.id !== take.id &&
      t.unitId !== take.unitId &&
      t.timed &&
      take.timed &&
      t.setupId === take.setupId &&
      t.moveId === take.moveId &&
      Math.abs(t.startMs - take.startMs) < TOGETHER_MS,
  );
const TOGETHER_MS = 1000;
