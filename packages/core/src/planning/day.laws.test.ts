// The planner's laws, by a checker that knows nothing of how it works: it looks at the finished plan minute by minute.

import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { HeatInterval } from "../heat/index.ts";
import { heatShare, WARM_SHARE } from "../heat/index.ts";
import { planDay } from "./dayPlanner.ts";
import type { Block, DayPlan, DayRequest } from "./dayTypes.ts";
import { fitsIn } from "../kit/index.ts";
import { schoolsOf } from "./schools.ts";
import { msToFull, placesOf } from "./storage.ts";
import { dayRequests, MIN } from "./testing/requests.ts";

const RUNS = { numRuns: 400 };
const meets = (a: { fromMs: number; toMs: number }, b: { fromMs: number; toMs: number }): boolean => a.fromMs < b.toMs && b.fromMs < a.toMs;

/** When the tester is wanted for a block, restated from the rules. */
function wanted(b: Block, r: DayRequest): { fromMs: number; toMs: number }[] {
  const { prepMs, guardMs } = r.rules;
  return [
    { fromMs: b.startMs - prepMs, toMs: b.startMs + MIN },
    ...b.swapsAtMs.map((ms) => ({ fromMs: ms - guardMs, toMs: ms + guardMs })),
    { fromMs: b.endMidMs - guardMs, toMs: b.endMidMs + guardMs },
  ];
}

function broken(r: DayRequest, p: DayPlan): string[] {
  const wrong: string[] = [];
  const say = (ok: boolean, what: string): void => void (ok ? 0 : wrong.push(what));
  const placed = p.blocks.map((b) => b.slot);
  say(new Set(placed).size === placed.length, "a slot twice");
  for (const w of r.wantedRuns) {
    const times = placed.filter((s) => s === w.slot).length + p.notPlaced.filter((n) => n.slot === w.slot).length;
    say(times === 1, `${w.slot} is ${times} times in the plan`);
  }
  p.blocks.forEach((b, i) => {
    say(b.startMs >= r.fromMs && b.endHiMs <= r.toMs, `${b.slot} outside the day`);
    say(r.nowMs === null || b.startMs >= r.nowMs, `${b.slot} starts in the past`);
    say(b.startMs <= b.endLoMs && b.endLoMs <= b.endMidMs && b.endMidMs <= b.endHiMs, `${b.slot}: ends out of order`);
    const run = { fromMs: b.startMs, toMs: b.endHiMs };
    if (b.setup.condition.sun === "direct")
      say(
        r.sun.some((s) => s.fromMs <= run.fromMs && run.toMs <= s.toMs),
        `${b.slot} outside the sun`,
      );
    const unit = r.units.find((u) => u.id === b.unitId);
    say(!(unit?.outs ?? []).some((o) => meets(o, run)), `${b.slot} while out of service`);
    for (const m of wanted(b, r)) say(!r.breaks.some((k) => meets(k, m)), `${b.slot} wants the tester in a break`);
    p.blocks.slice(i + 1).forEach((other) => {
      if (other.unitId === b.unitId)
        say(!meets(run, { fromMs: other.startMs, toMs: other.endHiMs }), `${b.slot} and ${other.slot} overlap`);
      const clash = wanted(b, r).some((m) => wanted(other, r).some((o) => meets(m, o)));
      say(!clash, `${b.slot} and ${other.slot} want the tester at once`);
    });
    kitOf(r, b).forEach((what) => wrong.push(what));
  });
  return [...wrong, ...overdrawn(r, p), ...heatOf(r, p)];
}

/** What a block is recorded on fits, is fast enough, and lasts as long as the block. */
function kitOf(r: DayRequest, b: Block): string[] {
  const { mode, condition } = b.setup;
  const unit = r.units.find((u) => u.id === b.unitId);
  const wrong: string[] = [];
  const places = placesOf(mode.target);
  const used = b.needs.map((n) => ({ n: n.n, item: r.stock.find((i) => i.id === n.itemId) }));
  for (const { item } of used) {
    if (item?.spec.kind !== "card" && item?.spec.kind !== "recorder") continue;
    if ((item.spec.writeMBps ?? 0) * 8 < mode.mbps) wrong.push(`${b.slot}: ${item.name} too slow`);
    if (item.spec.kind === "card" && !(unit?.traits.slots ?? []).some((s) => fitsIn(item.fits, s)))
      wrong.push(`${b.slot}: ${item.name} fits no slot`);
  }
  const cards = used.filter((u) => u.item?.spec.kind === "card");
  const cardsInKit = r.stock.some((i) => i.spec.kind === "card");
  if (cardsInKit && places.cards > 0) {
    const count = cards.reduce((sum, c) => sum + c.n, 0);
    if (count < places.cards) wrong.push(`${b.slot}: ${count} cards for ${places.cards} places`);
    if ((unit?.traits.slots.length ?? 0) < (mode.target === "slot 2" ? 2 : places.cards)) wrong.push(`${b.slot}: a slot the body has not`);
    const gb = cards.reduce((sum, c) => sum + c.n * (c.item?.spec.kind === "card" ? c.item.spec.capacityGb : 0), 0);
    const recordedMs = b.endHiMs - b.startMs - b.swapsAtMs.length * r.rules.swapMs;
    if (recordedMs > msToFull(gb, mode.mbps)) wrong.push(`${b.slot}: longer than all its cards together`);
  }
  const needsBattery = condition.power === "internal" || condition.power === "grip";
  const batteries = used.filter((u) => u.item?.spec.kind === "battery").reduce((sum, u) => sum + u.n, 0);
  if (needsBattery && r.stock.some((i) => i.spec.kind === "battery") && batteries !== (condition.power === "grip" ? 2 : 1))
    wrong.push(`${b.slot}: ${batteries} batteries`);
  return wrong;
}

/** At no minute are more things in hands, cameras, copying or on charge than there are. */
function overdrawn(r: DayRequest, p: DayPlan): string[] {
  const wrong = new Set<string>();
  for (const item of r.stock) {
    const uses = p.blocks.flatMap((b) =>
      b.needs
        .filter((n) => n.itemId === item.id)
        .map((n) => ({ n: n.n, fromMs: b.startMs - r.rules.prepMs, toMs: b.endHiMs + backMs(r, item) })),
    );
    for (const at of uses.map((u) => u.fromMs)) {
      const inUse = uses.filter((u) => u.fromMs <= at && at < u.toMs).reduce((sum, u) => sum + u.n, 0);
      if (inUse > item.count) wrong.add(`${inUse} of ${item.count} ${item.name} at once`);
    }
    const packed = p.packing.find((n) => n.itemId === item.id)?.n ?? 0;
    if (packed > item.count) wrong.add(`${packed} of ${item.count} ${item.name} to pack`);
    if (uses.length > 0 && packed === 0) wrong.add(`${item.name} used and not packed`);
  }
  return [...wrong];
}

/** The least time before a used thing can be used again. */
function backMs(r: DayRequest, item: DayRequest["stock"][number]): number {
  if (item.spec.kind === "card" || item.spec.kind === "recorder") return r.rules.turnoverMs;
  if (item.spec.kind !== "battery") return 0;
  return item.spec.chargeMin === null || r.rules.chargers === 0 ? Number.POSITIVE_INFINITY : item.spec.chargeMin * MIN;
}

/** Starts that are not dragged are cold, or rested as the protocol says; the heat shown agrees with the ledger of the placed blocks. */
function heatOf(r: DayRequest, p: DayPlan): string[] {
  const wrong: string[] = [];
  for (const unit of r.units) {
    const blocks = p.blocks.filter((b) => b.unitId === unit.id).sort((a, b) => a.startMs - b.startMs);
    const line: HeatInterval[] = [...unit.heat];
    blocks.forEach((b, i) => {
      const { coolDown } = schoolsOf(b.setup.protocol);
      const before = blocks[i - 1];
      if (coolDown.to === "ambient" && !b.pinned && b.heatAtStart >= WARM_SHARE) wrong.push(`${b.slot} starts warm`);
      if (coolDown.to === "rest" && !b.pinned && before !== undefined && b.startMs < before.endHiMs + coolDown.restMin * MIN)
        wrong.push(`${b.slot} rested too little`);
      if (b.endKind === "heat") {
        const left = heatShare([...line, { fromMs: b.startMs, toMs: b.endHiMs, plateau: 1, shutdown: true }], unit.tauMs, b.endHiMs);
        if (left !== 1) wrong.push(`${b.slot} ends by heat and is not hot`);
      }
      if (line.length === unit.heat.length && Math.abs(heatShare(line, unit.tauMs, b.startMs) - b.heatAtStart) > 1e-9)
        wrong.push(`${b.slot}: heat at start`);
      line.push({ fromMs: b.startMs, toMs: b.endHiMs, plateau: 1, shutdown: b.endKind === "heat" });
      if (heatShare(line, unit.tauMs, b.endHiMs) + 1e-9 < b.heatAtStart * Math.exp((b.startMs - b.endHiMs) / unit.tauMs))
        wrong.push(`${b.slot} cools while it runs`);
      if (b.warm !== b.heatAtStart >= WARM_SHARE || b.warm !== b.flags.some((f) => f.code === "warm start"))
        wrong.push(`${b.slot}: warm not said`);
    });
  }
  return wrong;
}

describe("a planned day", () => {
  it("breaks no rule: nothing overlaps, nothing is impossible, every wanted run is placed or named", () => {
    fc.assert(
      fc.property(dayRequests, (r) => {
        expect(broken(r, planDay(r))).toEqual([]);
      }),
      RUNS,
    );
  });

  it("is the same for the same request", () => {
    fc.assert(
      fc.property(dayRequests, (r) => {
        expect(planDay(r)).toEqual(planDay(JSON.parse(JSON.stringify(r)) as typeof r));
      }),
      { numRuns: 60 },
    );
  });

  it("leaves a block where it was dropped when nothing stands there, and never puts it earlier", () => {
    fc.assert(
      fc.property(dayRequests, fc.integer({ min: 0, max: 8 }), fc.integer({ min: 0, max: 100 }), (r, which, laterMin) => {
        const first = planDay(r);
        const block = first.blocks[which % Math.max(1, first.blocks.length)];
        if (block === undefined) return;
        const pinMs = block.startMs + laterMin * MIN;
        const again = planDay({ ...r, wantedRuns: r.wantedRuns.map((w) => ({ ...w, pinMs: w.slot === block.slot ? pinMs : null })) });
        expect(
          broken({ ...r, wantedRuns: r.wantedRuns.map((w) => ({ ...w, pinMs: w.slot === block.slot ? pinMs : null })) }, again),
        ).toEqual([]);
        const moved = again.blocks.find((b) => b.slot === block.slot);
        if (moved !== undefined) expect(moved.startMs).toBeGreaterThanOrEqual(pinMs);
        if (laterMin === 0 && r.wantedRuns.every((w) => w.pinMs === null)) expect(moved?.startMs).toBe(block.startMs);
      }),
      { numRuns: 150 },
    );
  });

  it("keeps the wanted order of a unit that has nothing in the sun", () => {
    fc.assert(
      fc.property(dayRequests, (r) => {
        const plain = {
          ...r,
          stock: [],
          breaks: [],
          units: r.units.map((u) => ({ ...u, outs: [] })),
          wantedRuns: r.wantedRuns.map((w) => ({
            ...w,
            pinMs: null,
            setup: {
              ...w.setup,
              mode: { ...w.setup.mode, target: "slot 1" as const },
              condition: { ...w.setup.condition, sun: "none" as const },
            },
          })),
        };
        const alone = { ...plain, units: plain.units.slice(0, 1), wantedRuns: plain.wantedRuns.filter((w) => w.unitId === "u0") };
        const plan = planDay(alone);
        const wantedOrder = alone.wantedRuns.map((w) => w.slot).filter((s) => plan.blocks.some((b) => b.slot === s));
        expect(plan.blocks.map((b) => b.slot)).toEqual(wantedOrder);
      }),
      { numRuns: 100 },
    );
  });
});
