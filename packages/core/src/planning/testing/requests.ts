// Test support: small kits and random days for the planner's laws.

import fc from "fast-check";
import type { CandidateRun } from "../../cells/index.ts";
import type { StartBody } from "../../runs/index.ts";
import { foldRun } from "../../runs/index.ts";
import { mark, START } from "../../runs/testing/marks.ts";
import type { DayRequest, DayUnit, WantedRun } from "../dayTypes.ts";
import { DEFAULT_RULES } from "../dayTypes.ts";
import type { CellSetup } from "../../kit/cellKeys.ts";
import type { Expected } from "../earlier.ts";
import type { KitItem } from "../../kit/index.ts";
import { NO_TRAITS } from "../../kit/index.ts";
import { DEFAULT_SCHOOLS } from "../schools.ts";

export const MIN = 60_000;
export const HOUR = 60 * MIN;

export const item = (id: string, count: number, spec: KitItem["spec"], fits = ""): KitItem => ({ id, name: id, count, fits, spec });
export const card = (id: string, capacityGb: number, count: number, fits = "", writeMBps = 200): KitItem =>
  item(id, count, { kind: "card", capacityGb, writeMBps }, fits);
export const battery = (id: string, wh: number, count: number, chargeMin: number | null = 90): KitItem =>
  item(id, count, { kind: "battery", wh, chargeMin });

interface More {
  unit?: Partial<StartBody["unit"]>;
  mode?: Partial<StartBody["mode"]>;
  condition?: Partial<StartBody["condition"]>;
  protocol?: Partial<StartBody["protocol"]>;
}
export const setup = (more: More = {}): StartBody => ({
  ...START,
  unit: { ...START.unit, ...more.unit },
  mode: { ...START.mode, ...more.mode },
  condition: { ...START.condition, ...more.condition },
  protocol: { ...START.protocol, ...more.protocol },
});

/** A finished cold run of a cell. */
export function finished(start: StartBody, recordedMin: number, heat = true, runId = `r${recordedMin}`): CandidateRun {
  const measured = { ...start, ambient: { ...start.ambient, valueC: start.condition.ambientC } };
  const marks = [mark("start", 0, measured), mark("end", recordedMin * 60, { cause: heat ? "thermal shutdown" : "tester stopped" })];
  return { runId, fold: foldRun(marks), struck: null };
}

export const range = (loMin: number, hiMin: number | null): Expected => ({
  ok: true,
  range: {
    basis: "this cell",
    by: "seen",
    basisWords: "this cell",
    loMs: loMin * MIN,
    hiMs: hiMin === null ? null : hiMin * MIN,
    midMs: ((loMin + (hiMin ?? loMin)) / 2) * MIN,
    n: 3,
    events: hiMin === null ? 0 : 3,
    runIds: [],
  },
});

export const unit = (id: string, more: Partial<DayUnit> = {}): DayUnit => ({
  id,
  name: id,
  traits: NO_TRAITS,
  outs: [],
  heat: [],
  tauMs: 30 * MIN,
  ...more,
});
export const wanted = (slot: string, unitId: string, more: Partial<WantedRun> = {}): WantedRun => ({
  slot,
  unitId,
  cellId: slot.split("#")[0] ?? slot,
  setup: setup({ unit: { id: unitId } }),
  heat: range(30, 40),
  watts: 6,
  pinMs: null,
  cardId: null,
  swaps: false,
  ...more,
});
/** From 8:00 to 20:00 of the first day of the epoch, unless said. */
export const request = (more: Partial<DayRequest>): DayRequest => ({
  fromMs: 8 * HOUR,
  toMs: 20 * HOUR,
  nowMs: null,
  units: [unit("u1")],
  wantedRuns: [],
  stock: [],
  sun: [],
  breaks: [],
  underway: [],
  rules: DEFAULT_RULES,
  ...more,
});

const heatRanges = fc.oneof(
  fc.tuple(fc.integer({ min: 10, max: 90 }), fc.integer({ min: 0, max: 40 })).map(([lo, more]): Expected => range(lo, lo + more)),
  fc.integer({ min: 30, max: 150 }).map((lo): Expected => range(lo, null)),
  fc.constant<Expected>({ ok: false, reason: "no-earlier-run" }),
);
const cells = fc.record({
  heat: heatRanges,
  mbps: fc.constantFrom(50, 100, 200, 400, 1200),
  target: fc.constantFrom<CellSetup["mode"]["target"]>("slot 1", "slot 2", "both slots", "relay", "external recorder"),
  sun: fc.constantFrom<CellSetup["condition"]["sun"]>("none", "none", "direct"),
  power: fc.constantFrom<CellSetup["condition"]["power"]>("internal", "internal", "grip", "dummy or mains", "USB"),
  watts: fc.option(fc.double({ min: 3, max: 12, noNaN: true }), { nil: null }),
  clipLimitSec: fc.option(fc.integer({ min: 600, max: 7200 }), { nil: null }),
  restMin: fc.option(fc.integer({ min: 5, max: 60 }), { nil: null }),
  stopAfterMin: fc.option(fc.integer({ min: 20, max: 120 }), { nil: null }),
  swaps: fc.boolean(),
  trials: fc.integer({ min: 1, max: 3 }),
  pinMin: fc.option(fc.integer({ min: 400, max: 1300 }), { nil: null, freq: 4 }),
});
const spans = (max: number) =>
  fc
    .array(fc.tuple(fc.integer({ min: 420, max: 1200 }), fc.integer({ min: 10, max: 240 })), { maxLength: max })
    .map((list) => list.map(([from, length]) => ({ fromMs: from * MIN, toMs: (from + length) * MIN })));
const stocks = fc.record({
  small: fc.integer({ min: 0, max: 3 }),
  large: fc.integer({ min: 0, max: 2 }),
  batteries: fc.integer({ min: 0, max: 4 }),
  chargeMin: fc.option(fc.integer({ min: 30, max: 150 }), { nil: null }),
  supplies: fc.integer({ min: 0, max: 2 }),
});

/** Days with one to three units and a handful of cells each, scarce kit, sun windows, breaks, pins, faults, warm bodies. */
export const dayRequests: fc.Arbitrary<DayRequest> = fc
  .record({
    perUnit: fc.array(
      fc.record({
        cells: fc.array(cells, { minLength: 1, maxLength: 3 }),
        slots: fc.integer({ min: 1, max: 2 }),
        outs: spans(1),
        warmMin: fc.option(fc.integer({ min: 5, max: 60 })),
      }),
      {
        minLength: 1,
        maxLength: 3,
      },
    ),
    stock: stocks,
    sun: spans(2),
    breaks: spans(3),
    nowMin: fc.option(fc.integer({ min: 500, max: 900 }), { nil: null }),
    chargers: fc.integer({ min: 0, max: 2 }),
  })
  .map((d) => {
    const units = d.perUnit.map((u, i) =>
      unit(`u${i}`, {
        outs: u.outs,
        traits: { ...NO_TRAITS, slots: Array.from({ length: u.slots }, () => "") },
        heat: u.warmMin === null ? [] : [{ fromMs: (480 - u.warmMin) * MIN, toMs: 480 * MIN, plateau: 1.1, shutdown: false }],
      }),
    );
    const wantedRuns = d.perUnit.flatMap((u, i) =>
      u.cells.flatMap((c, k) =>
        Array.from({ length: c.trials }, (_, n) =>
          wanted(`u${i}c${k}#${n}`, `u${i}`, {
            setup: setup({
              unit: { id: `u${i}` },
              mode: { mbps: c.mbps, target: c.target, clipLimitSec: c.clipLimitSec },
              condition: { sun: c.sun, power: c.power },
              protocol: {
                schools: {
                  ...DEFAULT_SCHOOLS,
                  coolDown: c.restMin === null ? { to: "ambient" } : { to: "rest", restMin: c.restMin },
                  stopAfterMin: c.stopAfterMin,
                },
              },
            }),
            heat: c.heat,
            watts: c.watts,
            swaps: c.swaps,
            pinMs: n === 0 && c.pinMin !== null ? c.pinMin * MIN : null,
          }),
        ),
      ),
    );
    const stock = [
      card("small", 128, d.stock.small, "", 60),
      card("large", 512, d.stock.large, "", 160),
      battery("battery", 16, d.stock.batteries, d.stock.chargeMin),
      item("supply", d.stock.supplies, { kind: "power supply", watts: 30 }),
      item("recorder", 1, { kind: "recorder", capacityGb: 1000, writeMBps: 200 }),
    ].filter((i) => i.count > 0);
    return request({
      units,
      wantedRuns,
      stock,
      sun: d.sun,
      breaks: d.breaks,
      nowMs: d.nowMin === null ? null : d.nowMin * MIN,
      rules: { ...DEFAULT_RULES, chargers: d.chargers },
    });
  });
