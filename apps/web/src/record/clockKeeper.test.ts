import { describe, expect, it } from "vitest";
import { clockKeeper } from "./clockKeeper.ts";

/** A device five minutes behind, on a way of 10 ms each direction; `stall` happens between its two clocks being read. */
function device() {
  const state = { trueMs: 1_000_000, setBackMs: 300_000, sleptMs: 0, stallMs: 0, sleepOnTheWayMs: 0, reachable: true };
  const keeper = clockKeeper({
    wallMs: () => {
      const wall = state.trueMs - state.setBackMs;
      state.trueMs += state.stallMs;
      return wall;
    },
    steadyMs: () => state.trueMs - state.sleptMs,
    askServerMs: async () => {
      if (!state.reachable) throw new TypeError("out of reach");
      state.trueMs += 10;
      const serverMs = state.trueMs;
      state.trueMs += 10 + state.sleepOnTheWayMs;
      state.sleptMs += state.sleepOnTheWayMs;
      return serverMs;
    },
  });
  const offBy = (): number => Math.abs(keeper.offset().offsetMs - state.setBackMs);
  return { state, keeper, offBy };
}

describe("this device's clock", () => {
  it("is unknown until compared, then sure to half a trip", async () => {
    const { state, keeper, offBy } = device();
    expect(keeper.offset()).toMatchObject({ offsetMs: 0, errMs: 86_400_000_000 });
    state.reachable = false;
    expect(await keeper.compare()).toBe(false);
    expect(keeper.offset().errMs).toBe(86_400_000_000);
    state.reachable = true;
    expect(await keeper.compare()).toBe(true);
    expect(offBy()).toBeLessThanOrEqual(keeper.offset().errMs);
    expect(keeper.offset().errMs).toBeLessThan(20);
  });
  it("covers a stall while it reads its clocks", async () => {
    const { state, keeper, offBy } = device();
    state.stallMs = 95;
    await keeper.compare();
    state.stallMs = 0;
    expect(offBy()).toBeLessThanOrEqual(keeper.offset().errMs);
  });
  it("covers a sleep on the way, which the monotonic clock does not show", async () => {
    const { state, keeper, offBy } = device();
    state.sleepOnTheWayMs = 45;
    await keeper.compare();
    expect(offBy()).toBeLessThanOrEqual(keeper.offset().errMs);
    expect(keeper.offset().errMs).toBeGreaterThanOrEqual(32);
  });
  it("says how unsure it is from the moment it was set or slept, until compared again", async () => {
    const { state, keeper, offBy } = device();
    await keeper.compare();
    expect(keeper.parted()).toBe(false);
    state.setBackMs += 120_000;
    expect(keeper.parted()).toBe(true);
    expect(keeper.offset().errMs).toBeGreaterThanOrEqual(120_000);
    expect(offBy()).toBeLessThanOrEqual(keeper.offset().errMs);
    state.trueMs += 60_000;
    state.sleptMs += 60_000;
    expect(offBy()).toBeLessThanOrEqual(keeper.offset().errMs);
    await keeper.compare();
    expect(keeper.parted()).toBe(false);
    expect(offBy()).toBeLessThanOrEqual(keeper.offset().errMs);
    expect(keeper.offset().errMs).toBeLessThan(30);
  });
  it("throws away looks from before it was set", async () => {
    const { state, keeper, offBy } = device();
    let asked = 0;
    const original = state.setBackMs;
    const comparing = keeper.compare();
    // Set in the middle of the five looks.
    for (; asked < 3; asked++) await Promise.resolve();
    state.setBackMs = original + 500_000;
    await comparing;
    expect(offBy()).toBeLessThanOrEqual(keeper.offset().errMs);
  });
});
