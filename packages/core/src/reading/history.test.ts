// What was worked out for earlier questions must never show in an answer: the same reading, whatever was asked before.

import { expect, inject, it, vi } from "vitest";
import type { CandidateRun } from "../cells/index.ts";
import { randomFrom } from "../statistics/index.ts";
import type { UnitQuestion } from "./shared.ts";
import { asked, gaugeAt, made, MODE_B } from "./testing/runs.ts";
import { readUnit } from "./unitReport.ts";

const DAY_SEC = 86_400;
const GAUGED = Array.from({ length: 16 }, (_, i) => gaugeAt(300 * i, Math.floor(9 * -Math.expm1((-300 * i) / 1800))));

/** Two modes and three temperatures on up to five days: exact, by the minute, cut off, emptied, stopped unsaid. */
function runs(laterSec: number): CandidateRun[] {
  const times = [2901, 3010, 3122, 2870, 3240];
  return [
    ...times.map((sec, i) => made(`a${i}`, { sec: sec + laterSec, atSec: i * DAY_SEC, between: GAUGED.slice(0, 9) })),
    ...times.slice(0, 3).map((_, i) => made(`b${i}`, { sec: 1500 + 60 * i, atSec: (7 + i) * DAY_SEC, ambientC: 31 })),
    ...times.slice(1, 4).map((sec, i) => made(`c${i}`, { sec: 2 * sec, atSec: 12 * DAY_SEC + 30_000 * i, setup: { mode: MODE_B } })),
    made("d", { sec: 4800, atSec: 20 * DAY_SEC, cause: "tester stopped", between: GAUGED }),
    made("e", { sec: 3300, atSec: 21 * DAY_SEC, cause: "battery empty" }),
    made("f", { sec: 3400, atSec: 22 * DAY_SEC, cause: "unknown" }),
  ];
}

const BASE = asked(runs(0));
/** Each differs from the first in one thing. */
const QUESTIONS: UnitQuestion[] = [
  BASE,
  { ...BASE, levels: { share: 0.9, confidence: 0.95 } },
  { ...BASE, endpoint: "batteryEmpty" },
  { ...BASE, tauMin: 22 },
  { ...BASE, candidates: runs(1) },
];

/** Also in any order, asked again: more of it by `npm run proof`. */
const AGAIN = inject("proof") ? 10 : 2;

it("a question is answered as by a program that was asked nothing before", async () => {
  const alone = [];
  for (const q of QUESTIONS) {
    vi.resetModules();
    alone.push((await import("./unitReport.ts")).readUnit(q));
  }
  // Else nothing could be mixed up.
  expect(new Set(alone.map((r) => JSON.stringify(r))).size).toBe(QUESTIONS.length);
  const random = randomFrom(11);
  const order = [...QUESTIONS.keys(), ...Array.from({ length: AGAIN }, () => Math.floor(random.next() * QUESTIONS.length))];
  for (const i of order) expect(readUnit(QUESTIONS[i] as UnitQuestion), `question ${i} of the order ${order.join(", ")}`).toEqual(alone[i]);
});
