// A large day for the planner: five units, forty runs each, scarce cards and batteries, sun and breaks. Prints it as JSON on its last line.

import type { CellSetup } from "@keep-rolling/core/kit";
import type { DayRequest, WantedRun } from "@keep-rolling/core/planning";
import { DEFAULT_RULES } from "@keep-rolling/core/planning";
import { NO_TRAITS } from "@keep-rolling/core/kit";
import { practiceStart } from "@keep-rolling/demo";

const MIN = 60_000;
const HOUR = 60 * MIN;
const UNITS = 5;
const RUNS = 40;
const CELLS = 8;

/** Runs of ten minutes or so, so that very many fit: the planner's hard case. */
function largeDay(hours: number): DayRequest {
  const base: CellSetup = practiceStart();
  const wanted = Array.from({ length: UNITS }, (_, u) =>
    Array.from({ length: RUNS }, (_, i): WantedRun => {
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
          range: {
            basis: "this cell",
            by: "seen",
            basisWords: "this cell",
            loMs,
            midMs: loMs + MIN,
            hiMs: loMs + 3 * MIN,
            n: 3,
            events: 3,
            runIds: [],
          },
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
    units: Array.from({ length: UNITS }, (_, u) => ({
      id: `u${u}`,
      name: `Unit ${u}`,
      traits: NO_TRAITS,
      outs: [],
      heat: [],
      tauMs: 8 * MIN,
    })),
    wantedRuns: wanted,
    stock: [
      { id: "small", name: "small", count: 3, fits: "", spec: { kind: "card", capacityGb: 64, writeMBps: 120 } },
      { id: "large", name: "large", count: 3, fits: "", spec: { kind: "card", capacityGb: 512, writeMBps: 300 } },
      { id: "battery", name: "battery", count: 6, fits: "", spec: { kind: "battery", wh: 16, chargeMin: 60 } },
      { id: "supply", name: "supply", count: 4, fits: "", spec: { kind: "power supply", watts: 30 } },
    ],
    sun: [{ fromMs: (hours / 4) * HOUR, toMs: (hours / 2) * HOUR }],
    breaks: Array.from({ length: hours }, (_, h) => ({ fromMs: h * HOUR + 50 * MIN, toMs: (h + 1) * HOUR })),
    underway: [],
    rules: DEFAULT_RULES,
  };
}

console.log(JSON.stringify(largeDay(48)));
