import { describe, expect, it } from "vitest";
import type { Measures } from "../motion/index.ts";
import { compareMove } from "./moveComparison.ts";
import type { MoveKind, WalkPlan } from "./plan.ts";
import { againstControl, checkControl, oddTakes, rowsOf } from "./summary.ts";
import { PLAN, takeOf } from "./testing/takes.ts";

describe("rows of a move", () => {
  const m = (jitterRmsFrac: number | null, more: Partial<Measures> = {}) =>
    ({
      jitterRmsFrac,
      stepHz: 2,
      frames: 250,
      fps: 25,
      dips: [],
      lightStops: -2,
      wobbleHomographyPx640: 0.2,
      rollRmsDeg: 0.1,
      driftRmsFrac: null,
      ...more,
    }) as unknown as Measures;
  const measured = (setupId: string, jitter: number | null, more: Partial<Measures> = {}, bad: string | null = null) => ({
    take: takeOf(`${setupId}${jitter}`, { setupId, bad }),
    measures: jitter === null ? null : m(jitter, more),
    cropFactor: null,
    sound: null,
  });
  it("sorts by the geometric mean, leaves bad takes out, and puts what has no number last", () => {
    const rows = rowsOf(PLAN, "m", [
      measured("off", 0.02),
      measured("off", 0.08),
      measured("sensor", 0.01),
      measured("sensor", 0.5, {}, "fell"),
      measured("strong", null),
    ]);
    expect(rows.map((r) => [r.setup.id, r.jitterFrac === null ? null : Number(r.jitterFrac.toFixed(6))])).toEqual([
      ["sensor", 0.01],
      ["off", 0.04],
      ["strong", null],
    ]);
    expect(rows[0]?.softSteps).toEqual({ soft: 0, steps: 20 });
    expect(rows[0]?.driftFrac).toBeNull();
  });
  it("checks that the control is the shakiest where one walks, and only there", () => {
    const check = (takes: readonly ReturnType<typeof measured>[], move: MoveKind = "walk", plan: WalkPlan = PLAN) => {
      const rows = rowsOf(plan, "m", takes);
      return checkControl(rows, move, compareMove(plan, rows).columns.shake);
    };
    const shakier = [measured("off", 0.02), measured("off", 0.021), measured("sensor", 0.05), measured("sensor", 0.052)];
    expect(check(shakier)).toEqual({ ok: false, reason: "not worst", worse: ["sensor"] });
    expect(check(shakier, "tripod pan")).toEqual({ ok: true, says: "not a walking move" });
    // One take, or takes that overlap: chance can do that, and nobody is accused.
    expect(check([measured("off", 0.02), measured("sensor", 0.03)])).toEqual({ ok: false, reason: "not clear", above: ["sensor"] });
    const overlap = [measured("off", 0.02), measured("off", 0.028), measured("sensor", 0.026), measured("sensor", 0.03)];
    expect(check(overlap)).toEqual({ ok: false, reason: "not clear", above: ["sensor"] });
    expect(check([measured("off", 0.02), measured("sensor", 0.02)])).toEqual({ ok: true, says: "worst" });
    expect(check([measured("off", 0.02), measured("sensor", 0.01)])).toEqual({ ok: true, says: "worst" });
    expect(check([measured("sensor", 0.01)])).toEqual({ ok: false, reason: "not measured" });
    expect(check([], "walk", { ...PLAN, controlId: null })).toEqual({ ok: false, reason: "no control" });
  });
  it("shows beside a take that stands apart what its setup would be without it, and leaves it counted", () => {
    const takes = [
      ...[0.05, 0.052, 0.049].map((j) => measured("off", j)),
      ...[0.02, 0.0205, 0.06, 0.0198].map((j) => measured("sensor", j)),
    ];
    const { columns, without } = compareMove(PLAN, rowsOf(PLAN, "m", takes));
    if (!columns.shake.ok) throw new Error(columns.shake.reason);
    expect(columns.shake.setups.find((s) => s.id === "sensor")?.takes).toBe(4);
    expect(without.map((w) => [w.id, w.takeIds])).toEqual([["sensor", ["sensor0.06"]]]);
    expect(without[0]?.point).toBeCloseTo(0.02, 3);
    expect(without[0]?.high90).toBeLessThan(columns.shake.setups.find((s) => s.id === "sensor")?.high90 ?? 0);
    expect(compareMove(PLAN, rowsOf(PLAN, "m", takes.slice(0, 5))).without).toEqual([]);
  });
  it("shows beside takes left out what their setups would be with them, also where nothing else of a setup is left", () => {
    const kept = [...[0.05, 0.052, 0.049].map((j) => measured("off", j)), ...[0.02, 0.0205].map((j) => measured("sensor", j))];
    expect(compareMove(PLAN, rowsOf(PLAN, "m", kept)).ifCounted).toBeNull();
    const takes = [
      ...kept,
      measured("sensor", 0.03, {}, "tripped"),
      measured("strong", 0.01, {}, ""),
      measured("off", null, {}, "no clip"),
    ];
    const rows = rowsOf(PLAN, "m", takes);
    expect(rows.map((r) => [r.setup.id, r.takes.length, r.leftOut.map((t) => t.take.id)])).toEqual([
      ["sensor", 2, ["sensor0.03"]],
      ["off", 3, ["offnull"]],
      ["strong", 0, ["strong0.01"]],
    ]);
    const { columns, ifCounted } = compareMove(PLAN, rows);
    if (!columns.shake.ok) throw new Error(columns.shake.reason);
    expect(columns.shake.setups.map((s) => s.id).sort()).toEqual(["off", "sensor"]);
    // As if nobody had said a word against them.
    const whole = takes.map((t) => ({ ...t, take: { ...t.take, bad: null } }));
    const counted = compareMove(PLAN, rowsOf(PLAN, "m", whole)).columns.shake;
    if (!counted.ok) throw new Error(counted.reason);
    if (ifCounted?.ok !== true) throw new Error("not compared");
    expect(ifCounted.setups.map((s) => s.id).sort()).toEqual(["off", "sensor", "strong"]);
    for (const { id, ...level } of ifCounted.setups) {
      const same = counted.setups.find((s) => s.id === id);
      for (const key of ["point", "low90", "high90"] as const) expect(level[key]).toBeCloseTo(same?.[key] ?? 0, 9);
    }
  });
  it("tells pace and light against the control", () => {
    const rows = rowsOf(PLAN, "m", [measured("off", 0.02, { stepHz: 1.8 })]);
    const against = againstControl(
      m(0.01, { stepHz: 2.1, lightStops: -2.5 }),
      rows.find((r) => r.isControl),
    );
    expect(against?.paceHz).toBeCloseTo(0.3, 9);
    expect(against?.lightStops).toBeCloseTo(-0.5, 9);
    expect(againstControl(m(0.01), undefined)).toBeNull();
    const others = [measured("sensor", 0.01, { stepHz: 2 }), measured("strong", 0.01, { lightStops: -2.8, stepHz: null })];
    const odd = oddTakes(rowsOf(PLAN, "m", [measured("off", 0.02, { stepHz: 1.8 }), measured("off", 0.03, { stepHz: 1.8 }), ...others]));
    expect(odd.map((o) => [o.setup.id, o.paceHz === null ? null : Number(o.paceHz.toFixed(2))])).toEqual([
      ["sensor", 0.2],
      ["strong", null],
    ]);
    expect(oddTakes(rowsOf(PLAN, "m", others))).toEqual([]);
  });
});
