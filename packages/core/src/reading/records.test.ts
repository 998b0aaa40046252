// What a unit's runs become: cells, records, the heat left at each start, and what was not recorded.

import { shutdownsOf } from "../cells/index.ts";
import { logsOf } from "../cells/index.ts";
import { lifetimesOf } from "../cells/index.ts";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { heatShare, intervalsOf, plateauOf, UNKNOWN_PLATEAU } from "../heat/index.ts";
import type { CandidateRun } from "../cells/index.ts";
import { cellKey } from "../kit/index.ts";
import { DEFAULT_LEVELS } from "../cells/index.ts";
import { mark, START } from "../runs/testing/marks.ts";
import { unitRecords, unsaidOf } from "./records.ts";
import { made, MODE_B } from "./testing/runs.ts";

const TAU_MIN = 30;
const read = (runs: CandidateRun[]) => unitRecords(runs, "shutdown", DEFAULT_LEVELS, TAU_MIN, "UTC");

describe("records of a unit", () => {
  it("are seconds by the early bound of the end, the reason kept, cells apart", () => {
    const runs = [made("a", { sec: 2000 }), made("b", { sec: 2600, cause: "card full" }), made("c", { sec: 900, setup: { mode: MODE_B } })];
    const { cells } = read(runs);
    expect(cells.map((c) => c.records.map((r) => [r.runId, r.timeSec, r.event, r.because]))).toEqual([
      [
        ["a", 2000, 1, "thermal shutdown"],
        ["b", 2600, 0, "ended otherwise"],
      ],
      [["c", 900, 1, "thermal shutdown"]],
    ]);
    const first = cells[0]?.records ?? [];
    expect(lifetimesOf(first)).toEqual({ time: [2000, 2600], event: [1, 0] });
    expect(shutdownsOf(first).map((r) => r.runId)).toEqual(["a"]);
    expect(logsOf(first)).toEqual([Math.log(2000)]);
  });
  it("leave a struck run out and name it, and count a fallback's mode as its own cell", () => {
    const { cells } = read([made("a", { sec: 2000 }), made("s", { sec: 100, struck: "door open" })]);
    expect(cells[0]?.records.map((r) => r.runId)).toEqual(["a"]);
    expect(cells[0]?.reading.runs.leftOut).toMatchObject([{ runId: "s", because: "struck out" }]);
  });
});

/** The ledger restated: all earlier intervals, whatever their age. */
function plainHeat(runs: readonly CandidateRun[], of: CandidateRun): number {
  const tauMs = TAU_MIN * 60_000;
  const plateau = (c: CandidateRun): number => {
    const same = (o: CandidateRun): boolean =>
      c.fold.setup !== null && o.fold.setup !== null && cellKey(o.fold.setup) === cellKey(c.fold.setup);
    const mode = (o: CandidateRun): boolean => o.fold.setup?.mode.id === c.fold.setup?.mode.id;
    const ended = runs.filter((o) => o.fold.end?.cause === "thermal shutdown" && o.fold.setup?.runKind === "endurance");
    const known = ended.some(same) ? ended.filter(same) : ended.filter(mode);
    const times = known.map((o) => (o.fold.end?.loMs ?? 0) - (o.fold.startMs ?? 0)).sort((a, b) => a - b);
    // The mean of the two middle ones when their number is even.
    const middle = ((times[(times.length - 1) >> 1] ?? 0) + (times[times.length >> 1] ?? 0)) / 2;
    return middle > 0 ? plateauOf(middle, tauMs) : UNKNOWN_PLATEAU;
  };
  const startMs = of.fold.startMs ?? 0;
  const earlier = runs.filter((c) => c !== of && (c.fold.startMs ?? 0) < startMs).flatMap((c) => intervalsOf(c.fold, plateau(c), startMs));
  return heatShare(earlier, tauMs, startMs);
}

describe("heat left at the start", () => {
  it("is the ledger's, restated plainly, to a quarter of a per cent", () => {
    const days = fc.array(
      fc.record({
        restSec: fc.integer({ min: 30, max: 12_000 }),
        sec: fc.integer({ min: 60, max: 4000 }),
        b: fc.boolean(),
        heat: fc.boolean(),
      }),
      { minLength: 2, maxLength: 9 },
    );
    fc.assert(
      fc.property(days, (list) => {
        let atSec = 1e6;
        const runs = list.map((r, i) => {
          atSec += r.restSec;
          const run = made(`h${i}`, {
            sec: r.sec,
            atSec,
            cause: r.heat ? "thermal shutdown" : "card full",
            setup: r.b ? { mode: MODE_B } : {},
          });
          atSec += r.sec;
          return run;
        });
        const { startHeat } = read(runs);
        // Six time constants back at most e^-6 is left.
        for (const run of runs) expect(Math.abs((startHeat.get(run.runId) ?? -1) - plainHeat(runs, run))).toBeLessThan(0.0026);
      }),
      { numRuns: 60 },
    );
  });
  it("is none for the first run, near one right after a shutdown, and void runs heat as others do", () => {
    const hot = made("hot", { sec: 1800, atSec: 1e6 });
    const next = made("next", { sec: 600, atSec: 1e6 + 1800 + 20 });
    const { startHeat } = read([hot, next]);
    expect(startHeat.get("hot")).toBe(0);
    expect(startHeat.get("next")).toBeGreaterThan(0.98);
  });
});

describe("what is not alike, or was not recorded", () => {
  const of = (runs: CandidateRun[]) => {
    const cell = read(runs).cells[0];
    return cell === undefined ? [] : unsaidOf(cell.records, cell.reading.runs.leftOut);
  };
  it("is nothing where all is said and alike", () => {
    expect(of([made("a", { sec: 2000 }), made("b", { sec: 2100 })])).toEqual([]);
  });
  it("names a guessed ambient, a pause, a room that moved, heat at the start, a start state nobody noted", () => {
    const guessed = { ambient: { ...START.ambient, basis: "guessed" as const } };
    expect(of([made("a", { sec: 2000, setup: guessed })])).toEqual(["ambient guessed"]);
    const paused = made("p", {
      sec: 2000,
      between: [(at) => mark("gap", at(300), { cause: "card swap", power: "on" }), (at) => mark("resume", at(310), {})],
    });
    expect(of([paused])).toEqual(["pauses"]);
    const room = (c: number, id: string) =>
      made(id, { sec: 2000, setup: { condition: { ...START.condition, toleranceC: 5 }, ambient: { ...START.ambient, valueC: c } } });
    expect(of([room(20, "x"), room(24, "y")])).toEqual(["ambient spread"]);
    const unknown = made("u", { sec: 1500, setup: { startState: { state: "unknown", by: "not known" } } });
    expect(of([made("k", { sec: 2000 }), unknown])).toEqual(["start state not known"]);
    expect(of([made("e", { sec: 1500, cause: "unknown" })])).toEqual(["end not said"]);
    const first = made("f", { sec: 1800, atSec: 5e6 });
    expect(of([first, made("g", { sec: 1000, atSec: 5e6 + 1800 + 900 })])).toEqual(["start heat"]);
  });
});
