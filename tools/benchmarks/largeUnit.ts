// One unit with 12 modes, 6 conditions and 8 runs each, some cut, as the Heat room's worker is asked; and 1,000 Weibull fits of ten runs each,
// timed here for the ratio to the same loop in R. Prints JSON on its last line; sets in a fold travel as arrays.

import { performance } from "node:perf_hooks";
import { randomFrom } from "@keep-rolling/core/random";
import { estimateLife } from "@keep-rolling/core/reliability";
import type { Lifetimes } from "@keep-rolling/core/reliability";
import type { Mark, StartBody } from "@keep-rolling/core/runs";
import { foldRun } from "@keep-rolling/core/runs";
import { practiceStart } from "@keep-rolling/demo";

const [MODES, CONDITIONS, RUNS] = [12, 6, 8];
const DAY_MS = 86_400_000;

function largeUnit() {
  const random = randomFrom(2031);
  const like = practiceStart();
  let serial = 0;
  const out: { runId: string; struck: null; fold: unknown }[] = [];
  for (let m = 0; m < MODES; m++)
    for (let c = 0; c < CONDITIONS; c++)
      for (let r = 0; r < RUNS; r++) {
        const ambientC = 12 + 5 * c + random.normal() * 0.4;
        const setup: StartBody = {
          ...like,
          startState: { state: "cold", by: "hours since last powered", value: 4 },
          mode: { ...like.mode, id: `m${m}`, name: `Mode ${m}`, mbps: 50 + m },
          condition: {
            ...like.condition,
            id: `c${c}`,
            name: `Place ${c}`,
            ambientC: 12 + 5 * c,
            toleranceC: 2,
            sun: c % 2 === 1 ? "direct" : "none",
          },
          ambient: { ...like.ambient, valueC: ambientC },
        };
        const runId: string = `r${out.length}`;
        const fromMs = out.length * DAY_MS;
        const sec = (5400 - 280 * m) * 0.97 ** (ambientC - 22) * (c % 2 === 1 ? 0.8 : 1) * Math.exp(0.1 * random.normal());
        const mark = (kind: string, atSec: number, body: unknown): Mark =>
          ({
            id: `k${++serial}`,
            runId,
            deviceId: "d",
            deviceSeq: serial,
            v: 1,
            kind,
            atMs: fromMs + Math.round(atSec * 1000),
            madeAtMs: fromMs + Math.round(atSec * 1000),
            source: "pressed",
            deviceMs: 0,
            offsetMs: 0,
            offsetErrMs: 1,
            body,
          }) as Mark;
        const cut = random.next() < 0.12;
        const lasted = cut ? 0.85 * sec : sec;
        const readings = Array.from({ length: Math.floor(lasted / 300) }, (_, i) =>
          mark("reading", (i + 1) * 300, { gauge: Math.min(10, Math.floor((10.5 * -Math.expm1((-(i + 1) * 300) / (sec / 2))) / 0.9)) }),
        );
        const warning = mark("warning", 0.8 * lasted, { phase: "shown", minutesLeft: 5 });
        const fold = foldRun([
          mark("start", 0, setup),
          ...readings,
          warning,
          mark("end", lasted, { cause: cut ? "card full" : "thermal shutdown" }),
        ]);
        out.push({ runId, struck: null, fold: { ...fold, usedIds: [...fold.usedIds] } });
      }
  return { candidates: out, endpoint: "shutdown", asked: { share: 0.9, confidence: 0.9 }, tauMin: 30, figures: [], cardSec: {} };
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
  once();
  return Math.min(once(), once(), once());
}

console.log(JSON.stringify({ unit: largeUnit(), fitsMs: thousandFits() }));
