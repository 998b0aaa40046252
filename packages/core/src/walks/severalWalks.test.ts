// Walks laid beside each other, and a setup before and after a change.

import { describe, expect, it } from "vitest";
import { randomFrom } from "../statistics/index.ts";
import { sets as setsOf } from "../statistics/testing/sets.ts";
import type { Comparison } from "./comparing/compareSetups.ts";
import { compareSetups } from "./comparing/compareSetups.ts";
import { changeOf } from "./comparing/change.ts";
import type { ReadWalk } from "./severalWalks.ts";
import { severalWalks } from "./severalWalks.ts";
import { PLAN, setup } from "./testing/takes.ts";

const random = randomFrom(5);
function walk(day: string, levels: Readonly<Record<string, number>>, sd = 0.05, walker = "AB", takes = 4): ReadWalk {
  const setups = Object.entries(levels).map(([id, level], s) => ({
    id,
    takes: Array.from({ length: takes }, (_, j) => ({ order: s * takes + j, value: 0.01 * Math.exp(level + sd * random.normal()) })),
  }));
  const shake = compareSetups(setups, { control: "off", allowForDay: false }) as Comparison;
  return { id: day, unitId: "tern", day, plan: { ...PLAN, walker }, shake };
}

describe("several walks", () => {
  it("claim nothing over walks below three, and from three on the mean and a next walk", () => {
    const three = [0, 0.3, -0.2].map((shift, i) => walk(`day ${i}`, { off: shift, sensor: shift - 0.7 }));
    expect(severalWalks(three.slice(0, 2)).setups[0]?.over).toBeNull();
    const told = severalWalks(three);
    expect([told.varied, told.unsaid]).toEqual([["days"], []]);
    const [sensor] = told.setups;
    expect(sensor?.key).toBe("sensor");
    expect(sensor?.over?.mean.high).toBeLessThan(0);
    expect((sensor?.over?.next.low ?? 0) < (sensor?.over?.mean.low ?? 0)).toBe(true);
    // Each is taken against its own control, so days that shook more do not count.
    for (const w of sensor?.walks ?? []) expect(Math.abs((w?.log ?? 0) + 0.7)).toBeLessThan(0.15);
  });
  it("name what varied, and leave a setup blank where it was not walked", () => {
    const a = walk("day 1", { off: 0, sensor: -0.7 }, 0.05, "AB");
    const b = walk("day 1", { off: 0, strong: -0.4 }, 0.05, "CD");
    const told = severalWalks([a, b]);
    expect(told.varied).toEqual(["walkers"]);
    expect(told.setups.map((s) => [s.key, s.walks.map((w) => w !== null)])).toEqual([
      ["sensor", [true, false]],
      ["electronic, strong", [false, true]],
    ]);
    expect(severalWalks([a, walk("day 2", { off: 0 }, 0.05, "CD")]).varied).toEqual(["days", "walkers"]);
    expect(severalWalks([a, { ...a, id: "again" }]).varied).toEqual([]);
    const other = { ...walk("day 2", { off: 0, sensor: -0.7 }), unitId: "plover" };
    const long = { ...other, plan: { ...other.plan, lensName: "Reed", focalMm: 50 } };
    const apart = severalWalks([a, long]);
    expect(apart.varied).toEqual(["days", "bodies", "lenses", "focal lengths"]);
    expect(apart.setups[0]?.changeBeside).toEqual(["bodies", "lenses", "focal lengths"]);
    // What nobody said is not known to be the same; one walk has nothing to differ from.
    const silent = { ...a, unitId: null, plan: { ...a.plan, walker: " ", lensName: "", focalMm: null } };
    const unsaid = ["walkers", "bodies", "lenses", "focal lengths"];
    expect(severalWalks([a, silent])).toMatchObject({ varied: [], unsaid });
    expect(severalWalks([silent, { ...silent, id: "again" }])).toMatchObject({ varied: [], unsaid });
    expect(severalWalks([silent])).toMatchObject({ varied: [], unsaid: [] });
  });
  it("know a setup by what is on, whatever it is called", () => {
    const a = walk("day 1", { off: 0, sensor: -0.7 });
    const renamed = walk("day 2", { off: 0, sensor: -0.7 });
    const plan = { ...PLAN, setups: [setup("off"), setup("sensor", { name: "steady one", sensor: "on" })] };
    expect(severalWalks([a, { ...renamed, plan }]).setups).toHaveLength(1);
  });
});

describe("before and after a change", () => {
  const level = (w: ReadWalk, id: string) => {
    const found = w.shake.setups.find((s) => s.id === id);
    if (found === undefined) throw new Error(id);
    return found.level;
  };
  const on = (w: ReadWalk, control = true) => ({ setup: level(w, "sensor"), control: control ? level(w, "off") : null });
  it("is told against each walk's own control, and says so where there is none", () => {
    const before = walk("1", { off: 0, sensor: -0.5 }, 0.03);
    const shaky = walk("2", { off: 0.4, sensor: -0.1 }, 0.03);
    expect(changeOf(on(before), on(shaky)).says).not.toBe("shakier");
    expect(changeOf(on(before, false), on(shaky)).says).toBe("shakier");
    expect(changeOf(on(before, false), on(shaky)).againstControls).toBe(false);
    expect(changeOf(on(before), on(walk("3", { off: 0, sensor: -1.2 }, 0.03))).says).toBe("steadier");
    expect(changeOf(on(before), on(walk("3", { off: 0, sensor: -1.2 }, 0.3, "AB", 2))).says).not.toBe("same within 10 %");
  });
  it("covers the truth in nine of ten, and calls the same what is not in at most one of ten", () => {
    let [covered, wrong] = [0, 0];
    const sets = setsOf(200);
    for (let i = 0; i < sets; i++) {
      const [a, b] = [walk("1", { off: 0, sensor: -0.5 }, 0.12), walk("2", { off: 0.2, sensor: -0.2 }, 0.12)];
      const c = changeOf(on(a), on(b));
      if (c.interval.low <= 0.1 && 0.1 <= c.interval.high) covered++;
      const ten = changeOf(
        on(walk("1", { off: 0, sensor: 0 }, 0.02, "AB", 5)),
        on(walk("2", { off: 0, sensor: Math.log(1.1) }, 0.02, "AB", 5)),
      );
      if (ten.says === "same within 10 %") wrong++;
    }
    expect(covered / sets).toBeGreaterThan(0.88);
    expect(wrong / sets).toBeLessThanOrEqual(0.1);
  });
});
