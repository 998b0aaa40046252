// What one answer of the rooms costs, on this thread: a move of six setups of five takes compared in one column, with the day; and a
// dependable shutter read from five shots at each of five times. JSON on its last line.

import { performance } from "node:perf_hooks";
import { randomFrom, sessionsClaim } from "@keep-rolling/core/statistics";
import { compareSetups } from "@keep-rolling/core/walks";

/** Median of 25 in milliseconds, after five to warm up. */
function medianMs(answer: (round: number) => unknown): number {
  const times = Array.from({ length: 30 }, (_, round) => {
    const from = performance.now();
    answer(round);
    return performance.now() - from;
  }).slice(5);
  return times.sort((a, b) => a - b)[12] ?? Number.NaN;
}

const random = randomFrom(2032);
const walks = Array.from({ length: 30 }, () =>
  [0, -0.1, -0.2, -0.4, -0.6, -0.9].map((level, s) => ({
    id: String(s),
    takes: Array.from({ length: 5 }, (_, i) => ({ order: (5 * i + s) / 29, value: Math.exp(level + 0.12 * random.normal()) })),
  })),
);
const walkMs = medianMs((round) => compareSetups(walks[round] ?? [], { control: "0", allowForDay: true }));
const ladders = Array.from({ length: 30 }, () =>
  [-8, -7, -6, -5, -4].map((x) => ({ x, shots: 5, kept: Math.round(5 / (1 + Math.exp(1.5 * (x + 5.5) + 0.5 * random.normal()))) })),
);
const holdMs = medianMs((round) => sessionsClaim([ladders[round] ?? []], { share: 0.8, confidence: 0.9, adaptive: false }));
console.log(JSON.stringify({ walkMs, holdMs }));
