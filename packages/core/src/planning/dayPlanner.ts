// The plan of a day. What really happened stands; dragged blocks are put where they were dropped, or as soon after as the kit and the
// tester allow; the rest is placed one by one, always the run that can start first, keeping each unit's order where sun and time allow.
// Runs that need the sun may be kept waiting a little for others: a few such patiences are tried, and the day that holds most is kept.
// Not an optimum: a schedule that breaks no rule, and says what did not fit and why. The same request gives the same plan.

import { restNeededMs, WARM_SHARE } from "../heat/index.ts";
import { blockOf } from "./block.ts";
import type { Start } from "./board.ts";
import { Board } from "./board.ts";
import type { Block, DayPlan, DayRequest, DayUnit, WantedRun, RunUnderway, NotPlaced } from "./dayTypes.ts";
import { coolDownMsOf } from "./schools.ts";
import type { Way, Ways } from "./ways.ts";
import { waysOf } from "./ways.ts";

/** How long a run that needs the sun may be kept waiting for one that does not, in ms. */
const PATIENCES = [0, 60, 24 * 60].map((min) => min * 60_000);

export function planDay(request: DayRequest): DayPlan {
  check(request);
  const sunny = request.wantedRuns.some((w) => w.setup.condition.sun === "direct");
  const ways = waysTable(request);
  const uniform = (patienceMs: number): Patience => new Map(request.units.map((u) => [u.id, patienceMs]));
  let patience = uniform(0);
  let best = attempt(request, ways, patience);
  const tryOut = (next: Patience): void => {
    if (best.notPlaced.length === 0) return;
    const plan = attempt(request, ways, next);
    if (better(plan, best)) [best, patience] = [plan, next];
  };
  if (!sunny) return best;
  for (const patienceMs of PATIENCES.slice(1)) tryOut(uniform(patienceMs));
  if (request.wantedRuns.length > REFINED_WISHES) return best;
  for (const { id } of request.units) for (const patienceMs of PATIENCES) tryOut(new Map(patience).set(id, patienceMs));
  return best;
}

/** Above this many wanted runs all units share one patience: the answer would take too long. */
const REFINED_WISHES = 80;
type Patience = ReadonlyMap<string, number>;
type WaysTable = (wanted: WantedRun) => Ways;

/** Ways do not depend on the schedule: worked out once for a wish, however often it is asked. */
function waysTable(request: DayRequest): WaysTable {
  const known = new Map<WantedRun, Ways>();
  return (wanted) => {
    const unit = request.units.find((u): u is DayUnit => u.id === wanted.unitId);
    if (unit === undefined) throw new RangeError(`wanted run ${wanted.slot} names a unit that is not of the day: ${wanted.unitId}`);
    const ways = known.get(wanted) ?? waysOf(wanted, unit, request.stock, request.rules);
    known.set(wanted, ways);
    return ways;
  };
}

/** More runs, then more of them in the sun, then an earlier end of the day. */
function better(a: DayPlan, b: DayPlan): boolean {
  const key = (p: DayPlan): number[] => [
    p.blocks.length,
    p.blocks.filter((k) => k.setup.condition.sun === "direct").length,
    -Math.max(0, ...p.blocks.map((k) => k.endHiMs)),
  ];
  const [x, y] = [key(a), key(b)];
  const i = x.findIndex((v, at) => v !== y[at]);
  return i >= 0 && (x[i] ?? 0) > (y[i] ?? 0);
}

function attempt(request: DayRequest, ways: WaysTable, patience: Patience): DayPlan {
  const board = new Board(request);
  const blocks: Block[] = [];
  const notPlaced: NotPlaced[] = [];
  const put = (block: Block, way: Way | null): void => {
    board.place(block, way);
    blocks.push(block);
  };
  for (const underway of [...request.underway].sort((a, b) => a.startMs - b.startMs)) placeUnderway(request, board, underway, put);
  const done = new Set(request.underway.map((d) => d.slot));
  const queue = new Queue(request, board, ways, patience, (wanted, because, detail) =>
    notPlaced.push(notPlacedOf(wanted, because, detail)),
  );
  const open = request.wantedRuns.filter((w) => !done.has(w.slot));
  for (const wanted of open.filter((w) => w.pinMs !== null).sort((a, b) => (a.pinMs ?? 0) - (b.pinMs ?? 0))) {
    const placed = queue.pinned(wanted);
    if (placed !== null) put(blockOf(request, board, wanted, placed.way, placed.startMs), placed.way);
  }
  queue.fill(open.filter((w) => w.pinMs === null));
  for (let next = queue.next(); next !== null; next = queue.next())
    put(blockOf(request, board, next.wanted, next.way, next.startMs), next.way);
  blocks.sort((a, b) => a.startMs - b.startMs || (a.unitId < b.unitId ? -1 : 1));
  return { blocks, notPlaced, packing: board.packing() };
}

function check(request: DayRequest): void {
  if (!(request.toMs > request.fromMs)) throw new RangeError(`toMs must lie after fromMs, got ${request.toMs}`);
  const slots = request.wantedRuns.map((w) => w.slot);
  if (new Set(slots).size !== slots.length) throw new RangeError("slot must be unique among the wanted runs, got a slot twice");
}

const notPlacedOf = (wanted: WantedRun, because: NotPlaced["because"], detail: string): NotPlaced => ({
  slot: wanted.slot,
  unitId: wanted.unitId,
  cellId: wanted.cellId,
  because,
  detail,
});

/** A run under way is planned to its expected end from now on; an ended one is a fact. */
function placeUnderway(request: DayRequest, board: Board, underway: RunUnderway, put: (block: Block, way: Way | null) => void): void {
  const unit = request.units.find((u) => u.id === underway.unitId);
  if (unit === undefined) return;
  const wanted: WantedRun = {
    ...(request.wantedRuns.find((w) => w.slot === underway.slot) ?? { watts: null, cardId: null, swaps: false }),
    slot: underway.slot ?? "",
    unitId: underway.unitId,
    cellId: underway.cellId,
    setup: underway.setup,
    heat: underway.heat,
    pinMs: null,
  };
  const ways = waysOf(wanted, unit, request.stock, request.rules);
  const [way = null] = ways.ok ? ways.ways : [];
  const block = blockOf(request, board, wanted, way, underway.startMs);
  const nowMs = request.nowMs ?? underway.startMs;
  const at = (ms: number): number => underway.endMs ?? Math.max(ms, nowMs);
  const ends = { endLoMs: at(block.endLoMs), endMidMs: at(block.endMidMs), endHiMs: at(block.endHiMs) };
  const state = underway.endMs === null ? "rolling" : "ended";
  put(
    {
      ...block,
      ...ends,
      slot: underway.slot,
      state,
      flags: [],
      swapsAtMs: [],
      restUntilMs: ends.endHiMs + block.restUntilMs - block.endHiMs,
    },
    way,
  );
}

interface Candidate {
  wanted: WantedRun;
  way: Way;
  startMs: number;
}
interface Waiting {
  wanted: WantedRun;
  ways: readonly Way[];
  /** The earliest start found so far of each way: what is on the board only grows, so it never comes earlier. */
  fromMs: number[];
  because: NotPlaced["because"][];
  /** The first way ever had to wait for things. */
  waited: boolean;
}

/** Trials of one cell are alike: the first stands for all. A cell whose trials the tester treats differently has more than one first. */
function firstOfCells(lane: readonly Waiting[]): Waiting[] {
  const seen = new Set<string>();
  return lane.filter((w) => {
    const key = `${w.wanted.cellId} ${w.wanted.cardId ?? ""} ${w.wanted.swaps}`;
    if (seen.has(key)) return false;
    seen.add(key);
    return true;
  });
}

class Queue {
  private lanes = new Map<string, Waiting[]>();
  private readonly earliestMs: number;

  constructor(
    private readonly request: DayRequest,
    private readonly board: Board,
    private readonly waysFor: WaysTable,
    private readonly patience: Patience,
    private readonly refuse: (wanted: WantedRun, because: NotPlaced["because"], detail: string) => void,
  ) {
    const { fromMs, nowMs, rules } = request;
    this.earliestMs = nowMs === null ? fromMs + rules.prepMs : Math.max(fromMs, nowMs) + rules.prepMs;
  }

  private waiting(wanted: WantedRun, fromMs: number): Waiting | null {
    const ways = this.waysFor(wanted);
    if (ways.ok) return { wanted: wanted, ways: ways.ways, fromMs: ways.ways.map(() => fromMs), because: [], waited: false };
    this.refuse(wanted, "the kit does not allow it", ways.text);
    return null;
  }

  pinned(wanted: WantedRun): Candidate | null {
    const waiting = this.waiting(wanted, Math.max(this.earliestMs, wanted.pinMs ?? 0));
    return waiting === null ? null : this.best(waiting, true, true);
  }

  fill(wantedRuns: readonly WantedRun[]): void {
    for (const wanted of wantedRuns) {
      const waiting = this.waiting(wanted, this.earliestMs);
      if (waiting === null) continue;
      const lane = this.lanes.get(wanted.unitId) ?? [];
      lane.push(waiting);
      this.lanes.set(wanted.unitId, lane);
    }
  }

  /** The run that can start first of all; ties by the order of the units. */
  next(): Candidate | null {
    let first: Candidate | null = null;
    for (const unit of this.request.units) {
      const candidate = this.ofLane(unit.id);
      if (candidate !== null && (first === null || candidate.startMs < first.startMs)) first = candidate;
    }
    if (first !== null) this.drop(first.wanted);
    return first;
  }

  /**
   * One unit's next run. Runs that need the sun lead, for only they can miss it; before the leader comes whatever ends, rest included,
   * before the leader would start anyway, or a little later.
   */
  private ofLane(unitId: string): Candidate | null {
    const inSun = this.alive(unitId).filter((w) => w.wanted.setup.condition.sun === "direct");
    const leader = this.firstPlaceable(inSun) ?? this.firstPlaceable(this.alive(unitId));
    if (leader === null) return null;
    const latestMs = leader.startMs + (this.patience.get(unitId) ?? 0);
    for (const w of firstOfCells(this.alive(unitId))) {
      // Nothing goes before the first of the order but what the sun lets wait.
      if (w.wanted === leader.wanted && w.wanted.setup.condition.sun !== "direct") return leader;
      if (w.wanted.setup.condition.sun === "direct") continue;
      if (Math.min(...w.fromMs) > latestMs) continue;
      const before = this.best(w, false, false);
      if (before !== null && this.freeAgainMs(before) <= latestMs) return before;
    }
    return leader;
  }

  private freeAgainMs(c: Candidate): number {
    const { unit, heat } = this.board.lane(c.wanted.unitId);
    const left = heat.after(c.startMs, c.way.lastsMs, c.way.plateau, c.way.end.kind === "heat");
    const restMs = Math.max(restNeededMs(left, unit.tauMs, WARM_SHARE), coolDownMsOf(c.wanted.setup.protocol));
    return c.startMs + c.way.lastsMs + restMs;
  }

  private alive = (unitId: string): readonly Waiting[] => this.lanes.get(unitId) ?? [];

  private firstPlaceable(lane: readonly Waiting[]): Candidate | null {
    for (const w of lane) {
      const candidate = this.best(w, false, true);
      if (candidate !== null) return candidate;
    }
    return null;
  }

  /**
   * The way that starts first; the better way on a tie. Media that end the run sooner are taken only when the lasting ones are not free
   * all day. `refuse`: a wish that fits nowhere is named and dropped.
   */
  private best(w: Waiting, pinned: boolean, refuse: boolean): Candidate | null {
    const [first] = w.ways;
    let best: Candidate | null = null;
    let because: NotPlaced["because"] = "the day is too short";
    for (const [i, way] of w.ways.entries()) {
      const fromMs = w.fromMs[i] ?? this.earliestMs;
      if (best !== null && fromMs >= best.startMs) continue;
      // Ways of one length differ in things only: where the first did not wait for things, no other starts earlier.
      if (i > 0 && !w.waited && way.lastsMs === first?.lastsMs) continue;
      const lasting = way.end.hiMs >= (first?.end.hiMs ?? 0);
      if (!lasting && (best !== null || because !== "cards, batteries or supplies are not free in time")) continue;
      const start = this.startOf(w, i, way, fromMs, pinned);
      if (start.ok && (best === null || start.startMs < best.startMs)) best = { wanted: w.wanted, way, startMs: start.startMs };
      if (!start.ok && i === 0) because = start.because;
    }
    if (best === null && refuse) {
      this.drop(w.wanted);
      this.refuse(w.wanted, because, "");
    }
    return best;
  }

  /** Asks the board, and keeps the answer: what fitted nowhere once will not fit later, for the board only fills. */
  private startOf(w: Waiting, i: number, way: Way, fromMs: number, pinned: boolean): Start {
    if (fromMs === Number.POSITIVE_INFINITY) return { ok: false, because: w.because[i] ?? "the day is too short", waited: w.waited };
    const start = this.board.earliest(w.wanted, way, fromMs, pinned);
    if (i === 0) w.waited ||= start.waited;
    w.fromMs[i] = start.ok ? start.startMs : Number.POSITIVE_INFINITY;
    if (!start.ok) w.because[i] = start.because;
    return start;
  }

  private drop(wanted: WantedRun): void {
    const lane = this.lanes.get(wanted.unitId);
    if (lane !== undefined)
      this.lanes.set(
        wanted.unitId,
        lane.filter((w) => w.wanted !== wanted),
      );
  }
}
