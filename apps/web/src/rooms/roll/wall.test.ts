import { foldRun } from "@keep-rolling/core/runs";
import { describe, expect, it } from "vitest";
import type { SeenRun } from "../../record/runs.ts";
import { mark } from "../../testing/marks.ts";
import { voiceOf, wallOf } from "./wall.ts";

function run(id: string, unit: string, startSec: number, endSec: number | null, clockId = "rehearsal"): SeenRun {
  const start = mark("start", startSec, {
    unit: { id: unit, name: unit },
    clockId,
    startState: { state: "cold", by: "gauge" },
    protocol: {},
  });
  const marks = [start, ...(endSec === null ? [] : [mark("end", endSec, { cause: "battery empty" })])];
  return { id, row: null, marks, fold: foldRun(marks), trace: { witness: "none", steps: [] }, unmarked: [] };
}
const ids = (runs: readonly SeenRun[]): string[] => runs.map((r) => r.id);

describe("the wall", () => {
  const alder = run("a2", "Alder", 5000, null);
  it("has one place a unit, by name, whichever is in focus", () => {
    const others = [run("c", "Cedar", 4000, null), run("a1", "Alder", 100, 3000), run("b", "Birch", 100, 4900), alder];
    expect(ids(wallOf(others, alder, 6_000_000))).toEqual(["a2", "b", "c"]);
    expect(ids(wallOf(others, others[2] as SeenRun, 6_000_000))).toEqual(["a2", "b", "c"]);
  });
  it("keeps the run in focus in its unit's place, even an old one", () => {
    const old = run("a0", "Alder", 10, 20);
    expect(ids(wallOf([alder], old, 6_000_000))).toEqual(["a0"]);
  });
  it("lets a body go two hours after its end, and never mixes clocks or runs of later", () => {
    const others = [run("b", "Birch", 100, 200), run("d", "Demo", 5000, null, "demo"), run("e", "Elm", 6500, 6900)];
    expect(ids(wallOf(others, alder, 6_000_000))).toEqual(["a2", "b"]);
    expect(ids(wallOf(others, alder, 9_000_000))).toEqual(["a2", "e"]);
  });
  it("gives each place another voice", () => {
    const voices = Array.from({ length: 8 }, (_, i) => JSON.stringify(voiceOf(i)));
    expect(new Set(voices).size).toBe(8);
  });
});
