import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { orderOfTakes } from "./order.ts";
import { setup } from "./testing/takes.ts";

describe("the order of takes", () => {
  it("begins with the control, ends with it once more, and gives every setup its takes", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 1e6 }),
        fc.integer({ min: 1, max: 5 }),
        fc.integer({ min: 0, max: 6 }),
        (seed, takes, others) => {
          const setups = [setup("off"), ...Array.from({ length: others }, (_, i) => setup(`s${i}`))];
          const order = orderOfTakes({
            setups,
            moves: [
              { id: "a", kind: "walk" },
              { id: "b", kind: "run" },
            ],
            controlId: "off",
            takesWanted: takes,
            seed,
          });
          expect(order[0]).toEqual({ setupId: "off", moveId: "a", n: 1 });
          expect(order.at(-1)).toEqual({ setupId: "off", moveId: "b", n: takes + 1 });
          for (const s of setups)
            expect(order.filter((o) => o.setupId === s.id && o.moveId === "a")).toHaveLength(s.id === "off" ? takes + 1 : takes);
          expect(order).toEqual(
            orderOfTakes({
              setups,
              moves: [
                { id: "a", kind: "walk" },
                { id: "b", kind: "run" },
              ],
              controlId: "off",
              takesWanted: takes,
              seed,
            }),
          );
        },
      ),
    );
  });
  it("moves setups through the places of a round, so that a day that gets darker favours none", () => {
    const setups = [setup("off"), ...Array.from({ length: 6 }, (_, i) => setup(`s${i}`))];
    const order = orderOfTakes({ setups, moves: [{ id: "a", kind: "walk" }], controlId: "off", takesWanted: 3, seed: 3 });
    const mean = (id: string): number => {
      const places = order.flatMap((o, i) => (o.setupId === id ? [i] : []));
      return places.reduce((a, b) => a + b, 0) / places.length;
    };
    const means = setups.slice(1).map((s) => mean(s.id));
    // In one fixed order the means would lie 5 places apart.
    expect(Math.max(...means) - Math.min(...means)).toBeLessThan(4);
  });
});
