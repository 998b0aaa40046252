// The planner on a large day: five units, forty runs each, scarce cards and batteries, sun and breaks. Prints JSON on its last line.

import { performance } from "node:perf_hooks";
import type { CellSetup, DayRequest, DayWish } from "@keep-rolling/core/planning";
import { DEFAULT_RULES, NO_TRAITS, planDay } from "@keep-rolling/core/planning";
import { practiceStart } from "@keep-rolling/demo";

const MIN = 60_000;
const HOUR = 60 * MIN;
const UNITS = 5;
const RUNS = 40;
const CELLS = 8;
const ROUNDS = 9;

/** Runs of ten minutes or so, so that very many fit: the planner's hard case. */
export function largeDay(hours: number): DayRequest {
  const base: CellSetup = practiceStart();
  const wishes = Array.from({ length: UNITS }, (_, u) =>
    Array.from({ length: RUNS }, (_, i): DayWish => {
      const cell = i % CELLS;
      const loMs = (8 + 2 * cell) * MIN;
      return {
        slot: `u${u}c${cell}#${i}`,
        unitId: `u${u}`,
        cellId: `u${u}c${cell}`,
        setup: {
          ...base,
          unit: { ...base.unit, id: `u${u}` },
          condition: { ...base.condition, sun: cell === 0 ? "direct" : "none", power: cell % 2 === 0 ? "internal" : "dummy or mains" },
        },
        heat: {
          ok: true,
          range: { basis: "this cell", basisWords: "this cell", loMs, midMs: loMs + MIN, hiMs: loMs + 3 * MIN, n: 3, events: 3, runIds: [] },
        },
        watts: 7,
        pinMs: null,
        cardId: null,
        swaps: false,
      };
    }),
  ).flat();
  return {
    fromMs: 0,
    toMs: hours * HOUR,
    nowMs: null,
    units: Array.from({ length: UNITS }, (_, u) => ({ id: `u${u}`, name: `Unit ${u}`, traits: NO_TRAITS, outs: [], heat: [], tauMs: 8 * MIN })),
    wishes,
    stock: [
      { id: "small", name: "small", count: 3, fits: "", spec: { kind: "card", capacityGb: 64, writeMBps: 120 } },
      { id: "large", name: "large", count: 3, fits: "", spec: { kind: "card", capacityGb: 512, writeMBps: 300 } },
      { id: "battery", name: "battery", count: 6, fits: "", spec: { kind: "battery", wh: 16, chargeMin: 60 } },
      { id: "supply", name: "supply", count: 4, fits: "", spec: { kind: "power supply", watts: 30 } },
    ],
    sun: [{ fromMs: (hours / 4) * HOUR, toMs: (hours / 2) * HOUR }],
    breaks: Array.from({ length: hours }, (_, h) => ({ fromMs: h * HOUR + 50 * MIN, toMs: (h + 1) * HOUR })),
    doing: [],
    rules: DEFAULT_RULES,
  };
}

const request = largeDay(48);
const times: number[] = [];
let placed = 0;
for (let i = 0; i < ROUNDS; i++) {
  const from = performance.now();
  placed = planDay(request).blocks.length;
  times.push(performance.now() - from);
}
times.sort((a, b) => a - b);
console.log(JSON.stringify({ runs: UNITS * RUNS, placed, medianMs: times[ROUNDS >> 1], worstMs: times.at(-1) }));
