// Slow shutter or sharpening: told by the pattern of four, and by nothing less.

import { describe, expect, it } from "vitest";
import { additionsOf } from "./additions.ts";
import { crossingEffects, crossingsOf } from "./crossing.ts";
import type { Footfalls } from "./footfalls.ts";
import { softFootfalls } from "./footfalls.ts";
import { ALL_OFF } from "../usual.ts";

const takes = (soft: number): Footfalls[] =>
  Array.from({ length: 5 }, (_, i) => ({ soft: Math.min(12, Math.max(0, soft + (i % 2))), of: 12 }));
function effects(slowOff: number, slowOn: number, fastOff: number, fastOn: number) {
  const session = softFootfalls([slowOff, slowOn, fastOff, fastOn].map(takes));
  return crossingEffects(
    session.byRho.map(({ weight, shares: [a, b, c, d] }) => {
      if (a === undefined || b === undefined || c === undefined || d === undefined) throw new Error("four setups");
      return { weight, of: { slowOff: a, slowOn: b, fastOff: c, fastOn: d } };
    }),
  );
}

describe("shutter and sharpening crossed", () => {
  it("names the one that softens", () => {
    expect(effects(9, 9, 0, 0).says).toBe("slow shutter");
    expect(effects(0, 9, 0, 9).says).toBe("sharpening recovering");
    expect(effects(0, 11, 0, 0).says).toBe("both, only together");
  });
  it("separates nothing where nothing differs, or hardly", () => {
    expect(effects(3, 3, 3, 3).says).toBe("not separated");
    expect(effects(4, 3, 3, 3).says).toBe("not separated");
  });
  it("gives effects in shares, middles as counted", () => {
    const e = effects(9, 9, 0, 0);
    expect(e.shutter.middle).toBeGreaterThan(0.5);
    expect(e.shutter.middle).toBeLessThan(0.85);
    expect(Math.abs(e.sharpening.middle)).toBeLessThan(0.02);
    expect(Math.abs(e.interaction.middle)).toBeLessThan(0.02);
  });
});

describe("four setups that cross", () => {
  const four = (more: object = {}) =>
    [0.02, 0.005].flatMap((shutterSec) =>
      (["off", "on"] as const).map((sharpening) => ({
        ...ALL_OFF,
        lens: true,
        ...more,
        shutterSec,
        sharpening,
        id: `${shutterSec} ${sharpening}`,
        name: "",
      })),
    );
  it("are found whatever their order, the slower shutter first", () => {
    const told = { slowOff: "0.02 off", slowOn: "0.02 on", fastOff: "0.005 off", fastOn: "0.005 on", slowSec: 0.02, fastSec: 0.005 };
    expect(crossingsOf(four())).toEqual([told]);
    expect(crossingsOf(four().reverse())).toEqual([told]);
    expect(crossingsOf([...four(), { ...ALL_OFF, id: "bare", name: "" }])).toEqual([told]);
  });
  it("are none where one is missing or another help differs", () => {
    expect(crossingsOf(four().slice(1))).toEqual([]);
    expect(crossingsOf([...four().slice(1), ...four({ sensor: "on" }).slice(0, 1)])).toEqual([]);
  });
  it("are no additions of each other", () => {
    expect(additionsOf(four())).toEqual([]);
  });
});

describe("additions of a plan", () => {
  const setup = (id: string, parts: object) => ({ ...ALL_OFF, ...parts, id, name: id });
  const setups = [
    setup("control", {}),
    setup("lens", { lens: true }),
    setup("both", { lens: true, sensor: "on" }),
    setup("aid", { lens: true, sensor: "pan aid" }),
    setup("gimbal", { support: "gimbal, follow" }),
  ];
  it("are the steps of one help, in whatever order the setups allow", () => {
    expect(additionsOf(setups).map((a) => `${a.before}>${a.after} ${a.help}`)).toEqual([
      "control>lens lens",
      "control>gimbal support",
      "lens>both sensor",
      "lens>aid sensor",
    ]);
  });
  it("are none where one help is exchanged for another", () => {
    expect(additionsOf([setup("lens", { lens: true }), setup("sensor", { sensor: "on" })])).toEqual([]);
    expect(additionsOf([setup("on", { sensor: "on" }), setup("aid", { sensor: "pan aid" })])).toEqual([]);
  });
});
