// One unit with 12 modes, 6 conditions and 8 runs each, some cut, as marks for the intake of a bench; and 1,000 Weibull fits of ten runs each,
// timed here for the ratio to the same loop in R. Prints JSON on its last line.

import { performance } from "node:perf_hooks";
import { randomFrom } from "@keep-rolling/core/statistics";
import { estimateLife } from "@keep-rolling/core/statistics";
import type { Lifetimes } from "@keep-rolling/core/statistics";
import type { Mark, StartBody } from "@keep-rolling/core/runs";
import { practiceStart } from "@keep-rolling/demo";
import { v5 as uuidv5, v7 as uuidv7 } from "uuid";

const [MODES, CONDITIONS, RUNS] = [12, 6, 8];
const DAY_MS = 86_400_000;
/** The intake takes this many at a time. */
const BATCH_MOST = 500;
const SPACE = "0190de30-0000-7000-8000-00000000beef";
const idOf = (name: string): string => uuidv5(name, SPACE);

function largeUnit() {
  const random = randomFrom(2031);
  const like = practiceStart();
  const deviceId = uuidv7();
  let deviceSeq = 0;
  let runs = 0;
  const marks: Mark[] = [];
  const unit = { ...like.unit, id: idOf("unit"), name: "Large", simulated: false };
  for (let m = 0; m < MODES; m++)
    for (let c = 0; c < CONDITIONS; c++)
      for (let r = 0; r < RUNS; r++) {
        const ambientC = Math.round(10 * (12 + 5 * c + random.normal() * 0.4)) / 10;
        const setup: StartBody = {
          ...like,
          clockId: "real",
          unit,
          startState: { state: "cold", by: "hours since last powered", value: 4 },
          mode: { ...like.mode, id: idOf(`mode ${m}`), name: `Mode ${m}`, mbps: 50 + m },
          condition: {
            ...like.condition,
            id: idOf(`place ${c}`),
            name: `Place ${c}`,
            ambientC: 12 + 5 * c,
            toleranceC: 2,
            sun: c % 2 === 1 ? "direct" : "none",
          },
          ambient: { ...like.ambient, valueC: ambientC },
        };
        const runId = uuidv7();
        const fromMs = runs++ * DAY_MS;
        const sec = (5400 - 280 * m) * 0.97 ** (ambientC - 22) * (c % 2 === 1 ? 0.8 : 1) * Math.exp(0.1 * random.normal());
        const press = (kind: string, atSec: number, body: unknown): void => {
          const atMs = fromMs + Math.round(atSec * 1000);
          const mark = { id: uuidv7(), runId, deviceId, deviceSeq: ++deviceSeq, v: 1, kind, atMs, madeAtMs: atMs, source: "pressed" };
          marks.push({ ...mark, deviceMs: atMs, offsetMs: 0, offsetErrMs: 1, body } as Mark);
        };
        const cut = random.next() < 0.12;
        const lasted = cut ? 0.85 * sec : sec;
        press("start", 0, setup);
        for (let t = 300; t < lasted; t += 300)
          press("reading", t, { gauge: Math.min(10, Math.floor((10.5 * -Math.expm1(-t / (sec / 2))) / 0.9)) });
        press("warning", 0.8 * lasted, { phase: "shown", minutesLeft: 5 });
        press("end", lasted, { cause: cut ? "card full" : "thermal shutdown" });
      }
  const { name, serialLabel, firmware, modelId, id } = unit;
  const batches = Array.from({ length: Math.ceil(marks.length / BATCH_MOST) }, (_, i) => ({
    deviceId,
    sentDeviceMs: 0,
    offsetMs: 0,
    marks: marks.slice(i * BATCH_MOST, (i + 1) * BATCH_MOST),
  }));
  return { kit: { id, name, serialLabel, firmware, modelId, archived: false, notes: "", bench: "real" }, batches, runs };
}

function thousandFits(): number {
  const random = randomFrom(7);
  const sets = Array.from({ length: 1000 }, (): Lifetimes => {
    const drawn = Array.from({ length: 10 }, () => 3000 * (-Math.log(1 - random.next())) ** 0.2);
    return { time: drawn.map((t) => Math.min(t, 3300)), event: drawn.map((t) => (t < 3300 ? 1 : 0)) };
  });
  const once = (): number => {
    const from = performance.now();
    for (const s of sets) estimateLife(s, "weibull");
    return performance.now() - from;
  };
  // As long as the loop in R takes: the best of many short rounds beside the best of three long ones.
  const untilMs = performance.now() + 4000;
  let best = Number.POSITIVE_INFINITY;
  while (performance.now() < untilMs) best = Math.min(best, once());
  return best;
}

console.log(JSON.stringify({ unit: largeUnit(), fitsMs: thousandFits() }));
