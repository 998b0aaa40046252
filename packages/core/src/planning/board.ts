// The board: what is placed so far, and the earliest moment a run can be put on it. Every hard rule of a day is one question with one
// answer: not now, try then. Asking in turn until nobody objects gives the earliest start; a start is never moved back.

import { restNeededMs, WARM_SHARE } from "../heat/index.ts";
import type { Block, DayRequest, DayUnit, WantedRun, NotPlaced } from "./dayTypes.ts";
import { HeatLine } from "./heatLine.ts";
import type { Need } from "./media.ts";
import { schoolsOf } from "./schools.ts";
import type { Span } from "./spans.ts";
import { Copies, shiftPast, SpanSet } from "./spans.ts";
import type { Way } from "./ways.ts";

type Why = NotPlaced["because"];
/** `waited`: it would have started earlier with other cards, batteries or supplies. */
export type Start = { ok: true; startMs: number; waited: boolean } | { ok: false; because: Why; waited: boolean };

interface Lane {
  unit: DayUnit;
  heat: HeatLine;
  blocks: Block[];
}
/** Somebody objects: not before `toMs`, for this reason. */
interface Objection {
  toMs: number;
  because: Why;
}

export class Board {
  private readonly lanes: Map<string, Lane>;
  /** When the tester cannot: hands wanted elsewhere, or a break. */
  private readonly busy: SpanSet;
  private readonly copies: Map<string, Copies>;
  private readonly chargers: Copies;

  constructor(private readonly request: DayRequest) {
    this.lanes = new Map(request.units.map((unit) => [unit.id, { unit, heat: new HeatLine(unit.heat, unit.tauMs), blocks: [] }]));
    this.copies = new Map(request.stock.map((i) => [i.id, new Copies(i.count)]));
    this.chargers = new Copies(request.rules.chargers);
    this.busy = new SpanSet(request.breaks);
  }

  lane(unitId: string): Lane {
    const lane = this.lanes.get(unitId);
    if (lane === undefined) throw new RangeError(`unitId must be a unit of the day, got ${unitId}`);
    return lane;
  }

  /** Earliest start not before `fromMs`. A pinned one waits for nothing but what is impossible: it may start warm. */
  earliest(wanted: WantedRun, way: Way, fromMs: number, pinned: boolean): Start {
    const gridMs = pinned ? 60_000 : this.request.rules.gridMs;
    let startMs = aligned(fromMs, gridMs);
    let because: Why = "the day is too short";
    let waited = false;
    for (;;) {
      if (startMs + way.lastsMs > this.request.toMs) return { ok: false, because, waited };
      const objection = this.objection(wanted, way, startMs, pinned);
      if (objection === null) return { ok: true, startMs, waited };
      because = objection.because;
      waited ||= because === "cards, batteries or supplies are not free in time";
      if (objection.toMs === Number.POSITIVE_INFINITY) return { ok: false, because, waited };
      startMs = aligned(Math.max(objection.toMs, startMs + 1), gridMs);
    }
  }

  private objection(wanted: WantedRun, way: Way, startMs: number, pinned: boolean): Objection | null {
    const run: Span = { fromMs: startMs, toMs: startMs + way.lastsMs };
    return (
      this.inUse(wanted, run) ??
      (pinned ? null : this.tooWarm(wanted, way, run)) ??
      this.notInSun(wanted, run) ??
      this.outOfService(wanted, run) ??
      this.testerBusy(way, run) ??
      this.nothingFree(way, run)
    );
  }

  private inUse(wanted: WantedRun, run: Span): Objection | null {
    let shiftMs = 0;
    for (const b of this.lane(wanted.unitId).blocks)
      if (b.startMs < run.toMs && run.fromMs < b.endHiMs) shiftMs = Math.max(shiftMs, b.endHiMs - run.fromMs);
    return moved(run, shiftMs, "the unit is not cold and free in time");
  }

  /** Cold enough now, and leaving whatever stands later on this unit as cold as its school wants it. */
  private tooWarm(wanted: WantedRun, way: Way, run: Span): Objection | null {
    const lane = this.lane(wanted.unitId);
    const because: Why = "the unit is not cold and free in time";
    const restMs = this.restBefore(wanted.setup.protocol, lane, run.fromMs);
    if (restMs > 0) return { toMs: run.fromMs + restMs, because };
    const next = nextBlock(lane.blocks, run.toMs);
    if (next === null) return null;
    const heat = lane.heat.after(run.fromMs, way.lastsMs, way.plateau, way.end.kind === "heat");
    const { coolDown } = schoolsOf(next.setup.protocol);
    const needMs = coolDown.to === "rest" ? coolDown.restMin * 60_000 : restNeededMs(heat, lane.unit.tauMs, WARM_SHARE);
    return run.toMs + needMs > next.startMs ? { toMs: next.endHiMs, because } : null;
  }

  private restBefore(protocol: WantedRun["setup"]["protocol"], lane: Lane, startMs: number): number {
    const { coolDown } = schoolsOf(protocol);
    if (coolDown.to === "ambient") return restNeededMs(lane.heat.at(startMs), lane.unit.tauMs, WARM_SHARE);
    const lastEndMs = Math.max(
      Number.NEGATIVE_INFINITY,
      ...lane.blocks.filter((b) => b.endHiMs <= startMs).map((b) => b.endHiMs),
      ...lane.unit.heat.filter((h) => h.toMs <= startMs).map((h) => h.toMs),
    );
    return Math.max(0, lastEndMs + coolDown.restMin * 60_000 - startMs);
  }

  private notInSun(wanted: WantedRun, run: Span): Objection | null {
    if (wanted.setup.condition.sun !== "direct") return null;
    const lengthMs = run.toMs - run.fromMs;
    const windows = this.request.sun.filter((w) => w.toMs - lengthMs >= run.fromMs).sort((a, b) => a.fromMs - b.fromMs);
    const fitting = windows.find((w) => w.toMs - w.fromMs >= lengthMs);
    if (fitting === undefined)
      return {
        toMs: Number.POSITIVE_INFINITY,
        because: this.request.sun.length === 0 ? "no time of sun is said for this day" : "the times of sun are full or too short",
      };
    return fitting.fromMs > run.fromMs ? { toMs: fitting.fromMs, because: "the times of sun are full or too short" } : null;
  }

  private outOfService(wanted: WantedRun, run: Span): Objection | null {
    return moved(run, shiftPast(run, this.lane(wanted.unitId).unit.outs), "the unit is out of service");
  }

  private testerBusy(way: Way, run: Span): Objection | null {
    const shiftMs = this.moments(way, run.fromMs).reduce((most, m) => Math.max(most, this.busy.shift(m)), 0);
    return moved(run, shiftMs, "the tester is not free in time");
  }

  private nothingFree(way: Way, run: Span): Objection | null {
    for (const need of [...way.media, ...way.power]) {
      const copies = this.copies.get(need.itemId);
      if (copies === undefined || copies.free(this.useOf(way, need, run), need.n) !== null) continue;
      const backMs = copies.nextReturn(run.fromMs - this.request.rules.prepMs) ?? Number.POSITIVE_INFINITY;
      return { toMs: backMs + this.request.rules.prepMs, because: "cards, batteries or supplies are not free in time" };
    }
    return null;
  }

  /** When the tester's hands or eyes are wanted: the start, each swap, the expected end. */
  moments(way: Way, startMs: number): Span[] {
    const { prepMs, guardMs, swapMs } = this.request.rules;
    const endMs = startMs + way.end.midMs + way.swaps.filter((ms) => ms < way.end.midMs).length * swapMs;
    return [
      { fromMs: startMs - prepMs, toMs: startMs + 60_000 },
      ...swapTimes(way, startMs, swapMs).map((ms) => ({ fromMs: ms - guardMs, toMs: ms + guardMs })),
      { fromMs: endMs - guardMs, toMs: endMs + guardMs },
    ];
  }

  /** A card is gone until it is copied, a battery until it is charged (or for the rest of the day), a supply until the end. */
  private useOf(way: Way, need: Need, run: Span): Span {
    const { prepMs, turnoverMs } = this.request.rules;
    const isMedium = way.media.includes(need);
    const back = isMedium ? run.toMs + turnoverMs : this.chargedAt(way, need, run.toMs).backMs;
    return { fromMs: run.fromMs - prepMs, toMs: back };
  }

  private chargedAt(way: Way, need: Need, endMs: number): { backMs: number; charging: Span[] } {
    const isBattery = this.request.stock.find((i) => i.id === need.itemId)?.spec.kind === "battery";
    if (!isBattery) return { backMs: endMs, charging: [] };
    if (way.chargeMin === null || this.chargers.count === 0) return { backMs: Number.POSITIVE_INFINITY, charging: [] };
    const lengthMs = way.chargeMin * 60_000;
    const charging: Span[] = [];
    let atMs = endMs;
    for (let i = 0; i < need.n; i++) {
      // A charger free for the whole charge, the earliest there is; one after another when there is only one.
      atMs = this.freeCharger(atMs, lengthMs, charging);
      charging.push({ fromMs: atMs, toMs: atMs + lengthMs });
    }
    return { backMs: Math.max(endMs, ...charging.map((c) => c.toMs)), charging };
  }

  private freeCharger(fromMs: number, lengthMs: number, own: readonly Span[]): number {
    let atMs = fromMs;
    for (;;) {
      const span = { fromMs: atMs, toMs: atMs + lengthMs };
      const busy = own.filter((c) => c.fromMs < span.toMs && span.fromMs < c.toMs);
      if (this.chargers.free(span, busy.length + 1) !== null) return atMs;
      const returns = [this.chargers.nextReturn(atMs), ...busy.map((c) => c.toMs)].filter((ms): ms is number => ms !== null);
      atMs = Math.min(...returns);
    }
  }

  place(block: Block, way: Way | null): void {
    const lane = this.lane(block.unitId);
    lane.blocks.push(block);
    // An ended run is in the ledger already; of a rolling one only what is still to come is not.
    const addedFromMs = block.state === "rolling" ? Math.max(block.startMs, this.request.nowMs ?? block.startMs) : block.startMs;
    if (block.state !== "ended" && way !== null && block.endHiMs > addedFromMs)
      lane.heat.add({ fromMs: addedFromMs, toMs: block.endHiMs, plateau: way.plateau, shutdown: block.endKind === "heat" });
    if (way === null || block.state === "ended") return;
    if (block.state === "planned") for (const m of this.moments(way, block.startMs)) this.busy.add(m);
    else this.busy.add({ fromMs: block.endMidMs - this.request.rules.guardMs, toMs: block.endMidMs + this.request.rules.guardMs });
    this.takeThings(way, { fromMs: block.startMs, toMs: block.endHiMs });
  }

  private takeThings(way: Way, run: Span): void {
    for (const need of [...way.media, ...way.power]) {
      const copies = this.copies.get(need.itemId);
      const use = this.useOf(way, need, run);
      const free = copies?.free(use, need.n);
      if (copies === undefined || free == null) continue;
      copies.take(free, use);
      if (way.media.includes(need)) continue;
      for (const span of this.chargedAt(way, need, run.toMs).charging) {
        const charger = this.chargers.free(span, 1);
        if (charger !== null) this.chargers.take(charger, span);
      }
    }
  }

  packing(): Need[] {
    return this.request.stock.flatMap((i) => {
      const n = this.copies.get(i.id)?.used() ?? 0;
      return n === 0 ? [] : [{ itemId: i.id, name: i.name, n }];
    });
  }
}

function nextBlock(blocks: readonly Block[], fromMs: number): Block | null {
  let next: Block | null = null;
  for (const b of blocks) if (b.startMs >= fromMs && (next === null || b.startMs < next.startMs)) next = b;
  return next;
}

const aligned = (ms: number, gridMs: number): number => Math.ceil(ms / gridMs) * gridMs;

export const swapTimes = (way: Pick<Way, "swaps">, startMs: number, swapMs: number): number[] =>
  way.swaps.map((recordedMs, i) => startMs + recordedMs + i * swapMs);

const moved = (run: Span, shiftMs: number, because: Why): Objection | null =>
  shiftMs > 0 ? { toMs: run.fromMs + shiftMs, because } : null;
