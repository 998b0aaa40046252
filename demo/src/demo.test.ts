import { markSchema } from "@keep-rolling/contract/marks";
import { readUnit } from "@keep-rolling/core/reading";
import { DEFAULT_LEVELS, groupCells, stateCell } from "@keep-rolling/core/cells";
import { foldRun, isRefusal } from "@keep-rolling/core/runs";
import { describe, expect, it } from "vitest";
import { demoRuns } from "./runs.ts";
import { PLOVER, scenarioKit, TERN, WADER } from "./scenario.ts";

const runs = demoRuns();
const folds = runs.map((r) => ({ runId: r.runId, fold: foldRun(r.marks), struck: null }));

describe("the demo's runs", () => {
  it("are the same on every call", () => expect(demoRuns()).toEqual(runs));
  it("are marks the contract takes, without a finding", () => {
    for (const run of runs) for (const mark of run.marks) expect(markSchema.safeParse(mark).success, JSON.stringify(mark)).toBe(true);
    expect(folds.flatMap((f) => f.fold.findings)).toEqual([]);
  });
  it("show every kind of end, a void run, a refusal and one still rolling", () => {
    const causes = new Set(folds.map((f) => f.fold.end?.cause));
    for (const cause of ["thermal shutdown", "battery empty", "card full", "clip limit"]) expect(causes).toContain(cause);
    expect(folds.filter((f) => f.fold.state === "void")).toHaveLength(1);
    expect(folds.filter((f) => isRefusal(f.fold))).toHaveLength(2);
    expect(folds.filter((f) => f.fold.state === "rolling")).toHaveLength(1);
    expect(folds.filter((f) => f.fold.setup?.startState.state === "warm").length).toBeGreaterThanOrEqual(2);
  });
  it("show every case of the Heat room: limits with their days, cells without one, levelled off, ratings true and false, a firmware that helped, a start state that explains", () => {
    const mine = (unitId: string) => folds.filter((f) => f.fold.setup?.unit.id === unitId);
    const read = (unitId: string) =>
      readUnit({
        candidates: mine(unitId),
        endpoint: "shutdown",
        levels: DEFAULT_LEVELS,
        tauMin: 30,
        figures: scenarioKit.figures,
        cardSec: {},
        zone: "UTC",
      });
    const [plover, tern, wader] = [read(PLOVER), read(TERN), read(WADER)];
    const limits = [plover, tern, wader].flatMap((r) => r.cells.map((c) => (c.limit.ok ? c.limit.scope : c.limit.because)));
    for (const said of ["tested days", "no-shutdown"]) expect(limits).toContain(said);
    // Where the cells scatter differently each keeps its own: the widest is at least twice the narrowest.
    const scatters = [plover, tern, wader].flatMap((r) => r.cells.flatMap((c) => (c.limit.ok ? [c.limit.scatter] : [])));
    expect(Math.max(...scatters)).toBeGreaterThan(2 * Math.min(...scatters));
    expect(wader.cells.flatMap((c) => c.levelling.map((l) => l.reading.ok && l.reading.verdict))).toContain("levels off");
    const ratings = plover.cells.flatMap((c) => c.figures.map((f) => f.check?.verdict));
    expect(ratings).toContain("holds");
    expect(ratings).toContain("falls short");
    expect(plover.changes.find((c) => c.kind === "firmware")?.change).toMatchObject({ ok: true, verdict: "longer" });
    if (!plover.effects.ok) throw new Error(plover.effects.reason);
    expect(plover.effects.effects.find((e) => e.cause === "start heat")?.factor.hi).toBeLessThan(1);
    expect(plover.cells.some((c) => c.recovery.fit.ok && c.recovery.points.some((p) => p.timeSec === 0))).toBe(true);
    expect(plover.cells.some((c) => c.ambient.physics.ok)).toBe(true);
  });
  it("never overlap on one body", () => {
    for (const unitId of new Set(folds.map((f) => f.fold.setup?.unit.id))) {
      const spans = folds
        .filter((f) => f.fold.setup?.unit.id === unitId)
        .map((f) => [f.fold.startMs ?? 0, f.fold.end?.hiMs ?? f.fold.voidedMs ?? Number.MAX_SAFE_INTEGER] as const);
      spans.sort((a, b) => a[0] - b[0]);
      spans.forEach((s, i) => expect(s[0]).toBeGreaterThanOrEqual(spans[i - 1]?.[1] ?? 0));
    }
  });
  it("give one cell of at least five cold runs that ended by heat", () => {
    const statements = groupCells(folds).map((c) => stateCell(c.runs, "shutdown").statement);
    expect(Math.max(...statements.map((s) => (s.ok ? s.events : 0)))).toBeGreaterThanOrEqual(5);
    expect(statements.some((s) => s.ok && s.events === 0)).toBe(true);
  });
});
