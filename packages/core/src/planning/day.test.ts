// Single days worked by hand: what a tester would expect to see.

import { describe, expect, it } from "vitest";
import { breaksOf, heatOfDay } from "./breaks.ts";
import { planDay } from "./dayPlanner.ts";
import { DEFAULT_RULES } from "./dayTypes.ts";
import { card, HOUR, MIN, range, request, setup, unit, wanted } from "./testing/requests.ts";
import { dayTotals } from "./totals.ts";

const at = (ms: number): string => `${Math.floor(ms / HOUR)}:${String(Math.floor((ms % HOUR) / MIN)).padStart(2, "0")}`;
const TAU_REST_MIN = 30 * Math.log(10);

describe("a day", () => {
  it("rests a body from shutdown to below a tenth before the next start", () => {
    const plan = planDay(request({ wantedRuns: [wanted("a#1", "u1"), wanted("a#2", "u1")] }));
    const [first, second] = plan.blocks;
    // Prepared from 8:00, so 8:05; up to 40 min; 2.303 time constants of rest; then the next five minutes.
    expect(at(first?.startMs ?? 0)).toBe("8:05");
    const earliest = 8 * HOUR + 45 * MIN + TAU_REST_MIN * MIN;
    expect(second?.startMs).toBe(Math.ceil(earliest / (5 * MIN)) * 5 * MIN);
    expect(second?.heatAtStart).toBeLessThan(0.1);
    expect(second?.flags).toEqual([]);
  });
  it("a body heated by a void run this morning waits", () => {
    const heat = [{ fromMs: 7 * HOUR, toMs: 7.75 * HOUR, plateau: 1.2, shutdown: false }];
    const [block] = planDay(request({ units: [unit("u1", { heat })], wantedRuns: [wanted("a#1", "u1")] })).blocks;
    expect(block?.startMs).toBeGreaterThan(8.5 * HOUR);
    expect(block?.heatAtStart).toBeLessThan(0.1);
  });
  it("a dragged block starts warm where it was dropped, and says what rest would have done", () => {
    const pinMs = 9 * HOUR;
    const plan = planDay(request({ wantedRuns: [wanted("a#1", "u1", { pinMs: 8 * HOUR + 5 * MIN }), wanted("a#2", "u1", { pinMs })] }));
    const second = plan.blocks[1];
    expect(second?.startMs).toBe(pinMs);
    // Hot at 8:45; 15 min of rest leave e^-0.5 = 61 %, and 30 ln 6.065 = 54.1 min more are needed.
    expect(second?.flags.map((f) => f.text)).toEqual(["Starts 61 % warm and counts as a warm start; 55 min more rest would make it cold."]);
  });
  it("two units side by side never want the tester at once", () => {
    const plan = planDay(request({ units: [unit("u1"), unit("u2")], wantedRuns: [wanted("a#1", "u1"), wanted("b#1", "u2")] }));
    // Expected ends at 8:40 and, started ten minutes later, 8:50: ten minutes apart.
    expect(plan.blocks.map((b) => at(b.startMs))).toEqual(["8:05", "8:15"]);
  });
  it("waits for the sun, fills the morning, and names what the sun has no room for", () => {
    const sunny = setup({ condition: { sun: "direct" } });
    const plan = planDay(
      request({
        sun: [{ fromMs: 12 * HOUR, toMs: 13 * HOUR }],
        wantedRuns: [wanted("s#1", "u1", { setup: sunny }), wanted("r#1", "u1"), wanted("s#2", "u1", { setup: sunny })],
      }),
    );
    expect(plan.blocks.map((b) => [b.slot, at(b.startMs)])).toEqual([
      ["r#1", "8:05"],
      ["s#1", "12:00"],
    ]);
    expect(plan.notPlaced).toEqual([
      { slot: "s#2", unitId: "u1", cellId: "s", because: "the times of sun are full or too short", detail: "" },
    ]);
  });
  it("says when no time of sun is said at all", () => {
    const plan = planDay(request({ sun: [], wantedRuns: [wanted("s#1", "u1", { setup: setup({ condition: { sun: "direct" } }) })] }));
    expect(plan.notPlaced).toMatchObject([{ slot: "s#1", because: "no time of sun is said for this day" }]);
  });
  it("shares one card among two bodies, copying time included", () => {
    const stock = [card("only", 512, 1)];
    const plan = planDay(request({ units: [unit("u1"), unit("u2")], stock, wantedRuns: [wanted("a#1", "u1"), wanted("b#1", "u2")] }));
    // The card is back 15 min after 8:45; five minutes of preparation.
    expect(plan.blocks.map((b) => at(b.startMs))).toEqual(["8:05", "9:05"]);
    expect(plan.packing).toEqual([{ itemId: "only", name: "only", n: 1 }]);
  });
  it("plans swaps when the protocol wants them, with the cards for it", () => {
    const hot = setup({ mode: { mbps: 400 }, protocol: { continuity: { poweredOff: "strict", bridgeBodyOnMs: 20_000 } } });
    const [block] = planDay(request({ stock: [card("c", 60, 2)], wantedRuns: [wanted("a#1", "u1", { setup: hot, swaps: true })] })).blocks;
    // 60 GB at 400 Mbit/s last 20 min; swapped a minute before, the second lasts to 39 min of the 40.
    expect(block?.swapsAtMs.map((ms) => ms - (block.startMs ?? 0))).toEqual([19 * MIN]);
    expect(block?.needs).toEqual([{ itemId: "c", name: "c", n: 2 }]);
    expect(block?.endKind).toBe("heat");
  });
  it("starts nothing in a break, and a body out of service waits", () => {
    const plan = planDay(
      request({
        units: [unit("u1"), unit("u2", { outs: [{ fromMs: 0, toMs: 10 * HOUR }] })],
        breaks: [{ fromMs: 8 * HOUR, toMs: 8.5 * HOUR }],
        wantedRuns: [wanted("a#1", "u1"), wanted("b#1", "u2")],
      }),
    );
    expect(plan.blocks.map((b) => at(b.startMs))).toEqual(["8:35", "10:00"]);
  });
});

describe("during the day", () => {
  it("follows what really happened: a late start moves the rest, an early end frees the tester", () => {
    const wantedRuns = [wanted("a#1", "u1"), wanted("a#2", "u1"), wanted("b#1", "u2")];
    const units = [unit("u1"), unit("u2")];
    const underway = [{ slot: "a#1", unitId: "u1", cellId: "a", setup: setup(), heat: range(30, 40), startMs: 9 * HOUR, endMs: null }];
    const plan = planDay(request({ units, wantedRuns, underway, nowMs: 9 * HOUR + 10 * MIN }));
    const rolling = plan.blocks.find((b) => b.slot === "a#1");
    expect(rolling).toMatchObject({ state: "rolling", startMs: 9 * HOUR, endHiMs: 9 * HOUR + 40 * MIN });
    expect(plan.blocks.find((b) => b.slot === "a#2")?.startMs).toBeGreaterThanOrEqual(9 * HOUR + 40 * MIN + TAU_REST_MIN * MIN);
    expect(plan.blocks.find((b) => b.slot === "b#1")?.startMs).toBe(9 * HOUR + 15 * MIN);
  });
  it("a run that outlasts every earlier one is expected to end from now on", () => {
    const underway = [{ slot: "a#1", unitId: "u1", cellId: "a", setup: setup(), heat: range(30, 40), startMs: 9 * HOUR, endMs: null }];
    const plan = planDay(request({ wantedRuns: [wanted("a#1", "u1")], underway, nowMs: 10 * HOUR }));
    expect(plan.blocks[0]).toMatchObject({ endLoMs: 10 * HOUR, endHiMs: 10 * HOUR });
  });
  it("an ended run is a fact beside the plan, also one nobody planned", () => {
    const underway = [{ slot: null, unitId: "u1", cellId: "x", setup: setup(), heat: range(30, 40), startMs: 9 * HOUR, endMs: 9.5 * HOUR }];
    const heat = [{ fromMs: 9 * HOUR, toMs: 9.5 * HOUR, plateau: 1.3, shutdown: true }];
    const plan = planDay(request({ units: [unit("u1", { heat })], wantedRuns: [wanted("a#1", "u1")], underway, nowMs: 9.5 * HOUR }));
    expect(plan.blocks.map((b) => b.state)).toEqual(["ended", "planned"]);
    expect(plan.blocks[1]?.startMs).toBeGreaterThanOrEqual(9.5 * HOUR + TAU_REST_MIN * MIN);
  });
});

describe("sums and breaks", () => {
  it("adds up storage and energy to the latest ends, rounded up", () => {
    const plan = planDay(request({ wantedRuns: [wanted("a#1", "u1"), wanted("a#2", "u1", { watts: null })] }));
    // 100 Mbit/s are 45 GB/h; 40 min are 30 GB, twice. 6 W for 40 min are 4 Wh, once.
    expect(dayTotals(plan)).toMatchObject({ runs: 2, gb: 60, wh: 4, whUnknown: 1, recordedMs: 80 * MIN });
  });
  it("breaks follow the heat index, hour by hour", () => {
    // 35 °C and 50 %: 105 °F, danger: 30 min of work, 15 of shade. 20 °C: none.
    const weather = [
      { fromMs: 10 * HOUR, toMs: 11 * HOUR, tempC: 20, humidityPct: 50, sun: false },
      { fromMs: 11 * HOUR, toMs: 12 * HOUR, tempC: 35, humidityPct: 50, sun: false },
    ];
    expect(heatOfDay(weather).map((h) => h.level)).toEqual(["none", "danger"]);
    expect(breaksOf(weather)).toEqual([{ fromMs: 11.5 * HOUR, toMs: 11.75 * HOUR }]);
    expect(breaksOf([{ fromMs: 0, toMs: HOUR, tempC: 42, humidityPct: 60, sun: true }])).toEqual([{ fromMs: 0, toMs: HOUR }]);
  });
  it("names a broken parameter", () => {
    expect(() => planDay(request({ toMs: 0 }))).toThrow(/toMs must lie after fromMs, got 0/);
    expect(() => planDay(request({ wantedRuns: [wanted("a", "u1"), wanted("a", "u1")] }))).toThrow(/slot must be unique/);
    expect(() => planDay(request({ wantedRuns: [wanted("a", "u9")], rules: DEFAULT_RULES }))).toThrow(/u9/);
  });
});
