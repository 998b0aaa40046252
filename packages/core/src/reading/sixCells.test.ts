// The job itself: four runs in each of six cells, made with a known truth. Limits, the price of sun, recovery and the next best run come out
// without a hand on the arithmetic; and however odd the runs, the reading is a reading.

import fc from "fast-check";
import { describe, expect, inject, it } from "vitest";
import { randomFrom } from "../statistics/index.ts";
import type { CandidateRun } from "../cells/index.ts";
import { normalQuantile } from "../statistics/index.ts";
import { END_CAUSES } from "../runs/index.ts";
import { START } from "../runs/testing/marks.ts";
import { limitSettings } from "./limit.ts";
import { nextRuns } from "./nextRun.ts";
import { chanceAt } from "../statistics/index.ts";
import { endsWords } from "./endsWords.ts";
import { mark } from "../runs/testing/marks.ts";
import { asked, gaugeAt, made, MODE_B } from "./testing/runs.ts";
import { costWords, leftWords, levellingWords, methodWords, missingWords } from "./words.ts";
import type { UnitReport } from "./unitReport.ts";
import { readUnit } from "./unitReport.ts";

const ASKED = { share: 0.9, confidence: 0.9 };
const SD = 0.09;
const SUN_COSTS = 0.75;
const PER_DEGREE = 0.97;
const typical = (modeB: boolean, sun: boolean, ambientC: number): number =>
  (modeB ? 1900 : 3000) * (sun ? SUN_COSTS : 1) * PER_DEGREE ** (ambientC - 22);

function sixCells(seed: number): CandidateRun[] {
  const random = randomFrom(seed);
  const cells = [false, true].flatMap((modeB) => [
    { modeB, sun: false, ambientC: 22 },
    { modeB, sun: false, ambientC: 29 },
    { modeB, sun: true, ambientC: 26 },
  ]);
  return cells.flatMap(({ modeB, sun, ambientC }, i) =>
    Array.from({ length: 4 }, (_, k) =>
      made(`${seed}.${i}.${k}`, {
        sec: Math.round(typical(modeB, sun, ambientC) * Math.exp(SD * random.normal())),
        ambientC,
        setup: {
          ...(modeB ? { mode: MODE_B } : {}),
          condition: { ...START.condition, id: `${i}`, name: `c${i}`, ambientC, toleranceC: 2, sun: sun ? "direct" : "none" },
        },
      }),
    ),
  );
}
const read = (candidates: CandidateRun[]): UnitReport => readUnit(asked(candidates, { levels: ASKED }));

/** Paths to whatever a message to a page could not carry. */
function functionsIn(value: unknown, path = "report"): string[] {
  if (typeof value === "function") return [path];
  if (typeof value !== "object" || value === null) return [];
  return Object.entries(value).flatMap(([key, v]) => functionsIn(v, `${path}.${key}`));
}

describe("four runs in each of six cells", () => {
  const report = read(sixCells(7));
  it("give every cell a limit that leans on the others, below its typical time and above half of it", () => {
    expect(report.cells).toHaveLength(6);
    for (const cell of report.cells) {
      // Each on four days of its own: it speaks for new days.
      expect(cell.limit).toMatchObject({ ok: true, scope: "new days", from: { runs: 24, shutdowns: 24, cells: 6 } });
      const lower = cell.limit.ok ? cell.limit.lowerMs / 1000 : 0;
      expect(lower).toBeLessThan(cell.typicalSec ?? 0);
      expect(lower).toBeGreaterThan(0.6 * (cell.typicalSec ?? 0));
    }
  });
  it("tell the price of sun and of a degree, with the truth in the interval", () => {
    if (!report.effects.ok) throw new Error(report.effects.reason);
    const [sun, ambient] = report.effects.effects;
    expect(sun).toMatchObject({ cause: "direct sun", yes: 8, no: 16 });
    expect(sun?.factor.lo).toBeLessThan(SUN_COSTS);
    expect(sun?.factor.hi).toBeGreaterThan(SUN_COSTS);
    expect(ambient?.factor.lo).toBeLessThan(PER_DEGREE);
    expect(ambient?.factor.hi).toBeGreaterThan(PER_DEGREE);
  });
  it("name a next run that raises a limit", () => {
    // Each candidate is simulated: of six some seconds, so two here and all in the proof.
    const cells = report.cells
      .slice(0, inject("proof") ? undefined : 2)
      .map((c) => ({ key: c.key, setup: c.setup, records: c.runs, coolSec: 4000 }));
    const next = nextRuns(cells, limitSettings(ASKED, report.ledger), 1, 5);
    expect(cells.map((c) => c.key)).toContain(next[0]?.key);
  });
  it("cross a worker: the reading holds no function", () => expect(functionsIn(report)).toEqual([]));
  it("cover the truth: in 25 made units the limits lie at or below the true tenth percentile about nine times in ten", () => {
    let [covered, all] = [0, 0];
    for (let seed = 100; seed < 125; seed++)
      for (const cell of read(sixCells(seed)).cells) {
        if (!cell.limit.ok) continue;
        const { condition, mode } = cell.setup;
        const truth = typical(mode.id === MODE_B.id, condition.sun === "direct", condition.ambientC) * Math.exp(normalQuantile(0.1) * SD);
        all++;
        if (cell.limit.lowerMs / 1000 <= truth) covered++;
      }
    expect(all).toBeGreaterThan(130);
    // Cells of one unit share their scatter, so they err together: the standard error is that of 25 units, not of 150 cells.
    expect(covered / all).toBeGreaterThan(0.9 - 2 * Math.sqrt((0.9 * 0.1) / 25));
  });
});

describe("any runs at all", () => {
  const run = fc.record({
    // Ties and whole minutes often.
    sec: fc.oneof(fc.integer({ min: 0, max: 12_000 }), fc.constantFrom(0, 1800, 2700, 2700.5)),
    ambientC: fc.integer({ min: -10, max: 45 }),
    cause: fc.constantFrom(...END_CAUSES),
    screen: fc.constantFrom("lit" as const, "dark" as const),
    firmware: fc.constantFrom("1.0", "1.1"),
    kind: fc.constantFrom("endurance" as const, "endurance" as const, "recovery" as const, "duty" as const, "idle" as const),
    warm: fc.boolean(),
    broken: fc.boolean(),
    sameDay: fc.boolean(),
  });
  type Drawn = typeof run extends fc.Arbitrary<infer T> ? T : never;
  const bench = (list: readonly Drawn[]): CandidateRun[] =>
    list.map((r, i) =>
      made(`any${i}`, {
        sec: r.sec,
        ambientC: r.ambientC,
        cause: r.cause,
        ...(r.sameDay ? { atSec: 9e7 + 13_000 * i } : {}),
        between:
          r.broken && r.sec > 100
            ? [(at) => mark("gap", at(40), { cause: "battery swap", power: "off" }), (at) => mark("resume", at(60), {})]
            : [gaugeAt(r.sec / 3, 2), gaugeAt(r.sec / 2, 4)],
        setup: {
          runKind: r.kind,
          ...(r.warm ? { startState: { state: "warm" as const, by: "gauge" as const, value: 3 } } : {}),
          unit: { ...START.unit, firmware: r.firmware },
          condition: { ...START.condition, screen: r.screen, ambientC: 22, toleranceC: 40 },
        },
      }),
    );
  it.each(["shutdown", "firstWarning", "batteryEmpty"] as const)(
    "are read without throwing until %s, and no sentence contradicts another",
    (endpoint) => {
      fc.assert(
        fc.property(fc.array(run, { minLength: 1, maxLength: 40 }), (list) => {
          const report = readUnit({ candidates: bench(list), endpoint, levels: ASKED, tauMin: 30, figures: [], cardSec: {}, zone: "UTC" });
          for (const cell of report.cells) {
            const { limit } = cell;
            if (limit.ok) {
              const sec = limit.lowerMs / 1000;
              expect(sec).toBeLessThanOrEqual(
                Math.max(...cell.runs.map((r) => (r.lasted.kind === "interval" ? r.lasted.hiSec : r.timeSec))),
              );
              // A whole second: what lies below the claim is the claim.
              expect(chanceAt(limit.curve, sec)).toBeGreaterThan(ASKED.share - 0.002);
              expect(limit.scatter).toBeGreaterThan(0);
            } else if (endpoint === "shutdown") {
              // Without a claim heat is unknown, few-event or only outlasted: never what cannot end it.
              expect(["presumed", "outlasted", "nothing"]).toContain(cell.ends.ends.heat.by);
            }
            const longest = Math.max(60, ...cell.runs.map((r) => r.timeSec));
            for (const at of [0.5 * longest, longest, 2 * longest]) {
              const words = JSON.stringify(endsWords(cell.ends.ends, at));
              expect(words).not.toMatch(/NaN|undefined|Infinity|\b(99|100) %/);
            }
            const said = [limit.ok ? methodWords(limit) : missingWords(limit), ...cell.levelling.map((l) => levellingWords(l.reading))];
            if (cell.differences.ok)
              said.push(...cell.differences.runs.flatMap((d) => [...d.costs.map((c) => costWords(c)), leftWords(d)]));
            for (const words of said) expect(words).not.toMatch(/NaN|undefined|Infinity/);
          }
        }),
        { numRuns: inject("proof") ? 100 : 10 },
      );
    },
  );
});
