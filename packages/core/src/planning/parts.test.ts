// The planner's parts against plain restatements of what they are: spans one by one, the ledger's general form, ways worked by hand.

import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { heatShare } from "../heat/index.ts";
import { breaksOf, heatOfDay } from "./breaks.ts";
import { DEFAULT_RULES } from "./dayTypes.ts";
import { HeatLine } from "./heatLine.ts";
import { NO_TRAITS } from "../kit/index.ts";
import { coolDownMsOf, coolDownOf, DEFAULT_SCHOOLS, schoolsOf, tauMsOf } from "./schools.ts";
import { Copies, meet, shiftPast, SpanSet } from "./spans.ts";
import { battery, card, HOUR, item, MIN, range, setup, unit, wanted } from "./testing/requests.ts";
import type { Way } from "./ways.ts";
import { waysOf } from "./ways.ts";

const spans = fc.array(
  fc
    .tuple(fc.integer({ min: 0, max: 500 }), fc.integer({ min: 1, max: 60 }))
    .map(([fromMs, length]) => ({ fromMs, toMs: fromMs + length })),
  { maxLength: 30 },
);
const span = fc
  .tuple(fc.integer({ min: -50, max: 550 }), fc.integer({ min: 1, max: 80 }))
  .map(([fromMs, length]) => ({ fromMs, toMs: fromMs + length }));

describe("spans", () => {
  it("a set answers as a plain list does, whatever the order of adding", () => {
    fc.assert(
      fc.property(spans, span, (list, asked) => {
        expect(new SpanSet(list).shift(asked)).toBe(shiftPast(asked, list));
        expect(new SpanSet([...list].reverse()).shift(asked)).toBe(shiftPast(asked, list));
      }),
    );
  });
  it("half-open: one that ends when the other begins does not meet it; moved by the shift it is clear of what it met", () => {
    expect(meet({ fromMs: 0, toMs: 5 }, { fromMs: 5, toMs: 9 })).toBe(false);
    fc.assert(
      fc.property(spans, span, (list, asked) => {
        const shiftMs = shiftPast(asked, list);
        const moved = { fromMs: asked.fromMs + shiftMs, toMs: asked.toMs + shiftMs };
        for (const s of list) if (meet(s, asked)) expect(meet(s, moved)).toBe(false);
        if (shiftMs === 0) expect(list.some((s) => meet(s, asked))).toBe(false);
      }),
    );
  });
  it("copies are never given twice for one moment, and what is free is the lowest", () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 4 }), spans, (count, wanted) => {
        const copies = new Copies(count);
        const given: { i: number; s: { fromMs: number; toMs: number } }[] = [];
        for (const s of wanted) {
          const free = copies.free(s, 1);
          if (free === null) {
            expect(Array.from({ length: count }, (_, i) => given.some((g) => g.i === i && meet(g.s, s))).every(Boolean)).toBe(true);
            continue;
          }
          const [i = -1] = free;
          expect(given.some((g) => g.i === i && meet(g.s, s))).toBe(false);
          copies.take(free, s);
          given.push({ i, s });
        }
        expect(copies.used()).toBe(new Set(given.map((g) => g.i)).size);
        const ends = given.map((g) => g.s.toMs).filter((ms) => ms > 100);
        expect(copies.nextReturn(100)).toBe(ends.length === 0 ? null : Math.min(...ends));
      }),
    );
    expect(() => new Copies(-1)).toThrow(/count must be a whole number, got -1/);
  });
});

describe("a unit's heat along the day", () => {
  it("is the ledger's, at any moment when nothing runs, in whatever order blocks are added", () => {
    const blocks = fc.array(
      fc.record({
        rest: fc.integer({ min: 1, max: 200 }),
        on: fc.integer({ min: 1, max: 90 }),
        plateau: fc.double({ min: 0, max: 2, noNaN: true }),
        shutdown: fc.boolean(),
      }),
      { maxLength: 8 },
    );
    fc.assert(
      fc.property(blocks, fc.integer({ min: 0, max: 400 }), fc.integer({ min: 5, max: 120 }), (list, laterMin, tauMin) => {
        let atMin = 0;
        const intervals = list.map(({ rest, on, plateau, shutdown }) => {
          const fromMs = (atMin + rest) * MIN;
          atMin += rest + on;
          return { fromMs, toMs: atMin * MIN, plateau, shutdown };
        });
        const line = new HeatLine([], tauMin * MIN);
        for (const i of [...intervals].reverse()) line.add(i);
        const atMs = (atMin + laterMin) * MIN;
        expect(line.at(atMs)).toBeCloseTo(heatShare(intervals, tauMin * MIN, atMs), 9);
      }),
    );
  });
  it("after a run it is where the ledger would be, one after a shutdown", () => {
    const line = new HeatLine([], 30 * MIN);
    expect(line.at(0)).toBe(0);
    expect(line.after(0, 30 * MIN, 1, false)).toBeCloseTo(1 - Math.exp(-1), 12);
    expect(line.after(0, MIN, 0.1, true)).toBe(1);
  });
});

describe("the ways a run can be done", () => {
  const hot = setup({ mode: { mbps: 400 } });
  const ways = (more: Parameters<typeof wanted>[2], stock: Parameters<typeof waysOf>[2], traits = NO_TRAITS): Way[] | string => {
    const made = waysOf(wanted("a#1", "u1", { setup: hot, ...more }), unit("u1", { traits }), stock, DEFAULT_RULES);
    return made.ok ? made.ways : made.text;
  };
  const words = (list: Way[] | string) =>
    typeof list === "string" ? list : list.map((w) => `${w.media.map((n) => `${n.n} ${n.name}`).join()} ${w.end.kind} ${w.end.hiMs / MIN}`);
  // 60 GB at 400 Mbit/s: 20 min; 300 GB: 100 min.
  const cards = [card("c60", 60, 3), card("c300", 300, 1)];

  it("the smallest card that lasts comes first; a chosen one before all", () => {
    expect(words(ways({}, cards))).toEqual(["1 c300 heat 40", "1 c60 card 20"]);
    expect(words(ways({ cardId: "c60" }, cards))).toEqual(["1 c60 card 20"]);
    expect(words(ways({ heat: range(10, 15) }, cards))).toEqual(["1 c60 heat 15", "1 c300 heat 15"]);
  });
  it("swaps go on until the cards are used up, each a minute before the card is full", () => {
    const [long] = ways({ heat: range(50, 70), swaps: true }, [card("c60", 60, 3)]) as Way[];
    // 19 + 19 + 20 min are all that three cards hold: the third ends it.
    expect(long?.swaps.map((ms) => ms / MIN)).toEqual([19, 38]);
    expect(long?.ahead.cardMs).toBe(58 * MIN);
    expect(long?.lastsMs).toBe(58 * MIN + 30_000);
    const [alone] = ways({ heat: range(50, 70), swaps: true }, [card("c60", 60, 1)]) as Way[];
    expect(alone?.swaps).toEqual([]);
  });
  it("the tester's own stop, the clip limit and the battery end it where they stand", () => {
    const stop = setup({ protocol: { schools: { ...DEFAULT_SCHOOLS, stopAfterMin: 25 } } });
    expect(words(ways({ setup: stop }, []))).toEqual([" tester 25"]);
    expect(words(ways({ setup: setup({ mode: { clipLimitSec: 600 } }) }, []))).toEqual([" clip limit 10"]);
    // 2 Wh at 6 W: 20 min.
    const [powered] = ways({ setup: setup() }, [battery("b2", 2, 1, 45)]) as Way[];
    expect([powered?.end.kind, powered?.end.hiMs, powered?.chargeMin]).toEqual(["battery", 20 * MIN, 45]);
  });
  it("what the kit cannot do is said", () => {
    expect(ways({ setup: setup({ condition: { power: "grip" } }) }, [battery("b", 16, 1)])).toBe("a grip needs two batteries of one kind");
    expect(ways({}, [card("slow", 60, 1, "", 40)])).toBe("400 Mbit/s needs 50 MB/s; the fastest fitting card writes 40 MB/s");
    const outside = setup({ mode: { mbps: 4000, target: "external recorder" } });
    expect(ways({ setup: outside }, [item("r", 1, { kind: "recorder", capacityGb: 900, writeMBps: 300 })])).toBe(
      "no recorder writes 4000 Mbit/s",
    );
  });
  it("a recorder alone and a recorder beside a card each have their own end", () => {
    const recorder = item("r", 1, { kind: "recorder", capacityGb: 150, writeMBps: 300 });
    const outside = setup({ mode: { mbps: 400, target: "external recorder" } });
    const both = setup({ mode: { mbps: 400, target: "slot and recorder" } });
    // 150 GB: 50 min.
    expect((ways({ setup: outside, heat: range(60, 80) }, [recorder]) as Way[])[0]).toMatchObject({
      end: { kind: "recorder", hiMs: 50 * MIN },
    });
    expect((ways({ setup: both, heat: range(60, 80) }, [recorder, card("c60", 60, 1)]) as Way[])[0]).toMatchObject({
      end: { kind: "card" },
      ahead: { recorderMs: 50 * MIN },
    });
  });
});

describe("schools", () => {
  it("an older protocol has the planner's defaults", () => {
    const { protocol } = setup();
    expect(schoolsOf(protocol)).toBe(DEFAULT_SCHOOLS);
    expect([tauMsOf(protocol), coolDownMsOf(protocol)]).toEqual([30 * MIN, 0]);
    expect(coolDownMsOf({ schools: { ...DEFAULT_SCHOOLS, coolDown: { to: "rest", restMin: 45 } } })).toBe(45 * MIN);
    expect(coolDownOf(DEFAULT_SCHOOLS)).toBe("back to ambient (below 10 % of the shutdown rise)");
  });
});

describe("breaks", () => {
  it("lie inside their weather, apart from each other, and more heat never means less shade", () => {
    const hours = fc.record({
      from: fc.integer({ min: 0, max: 10 }),
      length: fc.integer({ min: 1, max: 8 }),
      humidity: fc.integer({ min: 0, max: 100 }),
      sun: fc.boolean(),
    });
    fc.assert(
      fc.property(hours, fc.integer({ min: 10, max: 45 }), fc.integer({ min: 0, max: 10 }), (h, tempC, hotter) => {
        const weather = (t: number) => [
          { fromMs: h.from * HOUR, toMs: (h.from + h.length) * HOUR, tempC: t, humidityPct: h.humidity, sun: h.sun },
        ];
        const breaks = breaksOf(weather(tempC));
        breaks.forEach((b, i) => {
          expect(b.fromMs).toBeGreaterThanOrEqual(i === 0 ? h.from * HOUR : (breaks[i - 1]?.toMs ?? 0));
          expect(b.toMs).toBeGreaterThan(b.fromMs);
          expect(b.toMs).toBeLessThanOrEqual((h.from + h.length) * HOUR);
        });
        const shade = (list: typeof breaks): number => list.reduce((sum, b) => sum + b.toMs - b.fromMs, 0);
        const [now] = heatOfDay(weather(tempC));
        const [then] = heatOfDay(weather(tempC + hotter));
        // Whole hours: a partial turn of work and shade may end just before its shade.
        if (now !== undefined && then !== undefined && now.level === then.level)
          expect(shade(breaksOf(weather(tempC + hotter)))).toBe(shade(breaks));
        if (then?.level === "extreme danger") expect(shade(breaksOf(weather(tempC + hotter)))).toBe(h.length * HOUR);
        if (now?.level === "none") expect(breaks).toEqual([]);
      }),
    );
  });
});
