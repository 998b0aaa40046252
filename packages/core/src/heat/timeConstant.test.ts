// The ledger's time constant from made recoveries that follow the ledger's own law, so that the truth is known.

import { readUnit } from "../reading/index.ts";
import { asked, made, MODE_B } from "../reading/testing/runs.ts";
import { shareAfterRest } from "./recoveries.ts";
import { describe, expect, it } from "vitest";
import { randomFrom } from "../statistics/index.ts";
import type { CandidateRun } from "../cells/index.ts";
import { RANGE_MOST, timeConstantOf, timeConstantWords } from "./timeConstant.ts";

const WARM = { startState: { state: "warm" as const, by: "gauge" as const, value: 5 } };
const COLD_SEC = 2400;

/** A cold run that shut down, the rest, and the run after it, `noise` the log deviation of both. */
function chain(
  id: string,
  restSec: number,
  tauSec: number,
  noise: () => number = () => 0,
  more: object = {},
  coldSec = COLD_SEC,
): CandidateRun[] {
  const parent = made(`${id}-cold`, { sec: coldSec * Math.exp(noise()), setup: more });
  const share = shareAfterRest(restSec, coldSec, tauSec, tauSec);
  const again = made(`${id}-again`, {
    sec: Math.round(coldSec * share * Math.exp(noise())),
    atSec: (parent.fold.end?.hiMs ?? 0) / 1000 + restSec,
    setup: { ...more, ...WARM, runKind: "recovery", parentRunId: `${id}-cold` },
  });
  return [parent, again];
}
const RESTS = [600, 1200, 2100, 3600];
const chains = (tauMin: number, noise?: () => number) => RESTS.flatMap((rest, i) => chain(`r${i}`, rest, tauMin * 60, noise));

describe("the ledger's time constant", () => {
  it.each([15, 30, 55])("of recoveries by a body of %i min lies in the range, and its slow end is taken", (tauMin) => {
    const t = timeConstantOf(chains(tauMin), 30);
    if (t.by !== "recoveries") throw new Error(t.because);
    expect(t.rangeMin.lo).toBeLessThanOrEqual(tauMin);
    expect(t.tauMin).toBeGreaterThanOrEqual(tauMin);
    expect(t.tauMin).toBe(t.rangeMin.hi);
    expect(t.tauMin).toBeLessThan(1.6 * tauMin);
    expect([...t.runIds].sort()).toEqual(RESTS.map((_, i) => `r${i}-again`));
  });
  it("is seldom too fast when runs scatter by a tenth: 200 seeded days", () => {
    const random = randomFrom(20_310_611);
    const taken = Array.from({ length: 200 }, () =>
      timeConstantOf(
        chains(40, () => 0.1 * random.normal()),
        30,
      ),
    );
    const fitted = taken.flatMap((t) => (t.by === "recoveries" ? [t.tauMin] : []));
    expect(fitted.length).toBeGreaterThan(150);
    expect(fitted.filter((min) => min >= 40).length / fitted.length).toBeGreaterThan(0.9);
  });
  it("takes recoveries of every mode together, each against its own cold time", () => {
    const other = { mode: MODE_B };
    const both = [
      ...chain("a", 900, 2400),
      ...chain("b", 2400, 2400),
      ...chain("c", 1500, 2400, undefined, other, 1100),
      ...chain("d", 3600, 2400, undefined, other, 1100),
    ];
    const t = timeConstantOf(both, 30);
    if (t.by !== "recoveries") throw new Error(t.because);
    expect(t.runIds).toHaveLength(4);
    expect(t.rangeMin.lo).toBeLessThanOrEqual(40);
    expect(t.tauMin).toBeGreaterThanOrEqual(40);
  });
  it("stays the protocol's with a reason while too little is known", () => {
    expect(timeConstantOf([], 45)).toEqual({ by: "protocol", tauMin: 45, because: "too-few-recoveries" });
    expect(timeConstantOf([...chain("a", 600, 1800), ...chain("b", 1800, 1800)], 30)).toMatchObject({ because: "too-few-recoveries" });
    const sameRest = [...chain("a", 1200, 1800), ...chain("b", 1205, 1800), ...chain("c", 1195, 1800)];
    expect(timeConstantOf(sameRest, 30)).toMatchObject({ by: "protocol", because: "one-rest" });
    // The longer the rest, the less came back: no constant does that.
    const odd = [...chain("a", 600, 400), ...chain("b", 1800, 1800), ...chain("c", 3600, 9000)];
    expect(timeConstantOf(odd, 30)).toMatchObject({ by: "protocol", because: "range-too-wide" });
    expect(RANGE_MOST).toBeGreaterThan(1);
    expect(() => timeConstantOf([], 0)).toThrow("protocolMin must be positive, got 0");
  });
  it("leaves struck recoveries and those that something else ended out", () => {
    const all = chains(30);
    const struck = all.map((c) => (c.runId === "r0-again" || c.runId === "r1-again" ? { ...c, struck: "door open" } : c));
    expect(timeConstantOf(struck, 30)).toMatchObject({ by: "protocol", because: "too-few-recoveries" });
  });
  it("is said with where it comes from", () => {
    const t = timeConstantOf(chains(30), 30);
    if (t.by !== "recoveries") throw new Error(t.because);
    expect(timeConstantWords(t)).toBe(`${t.tauMin} min, the slow end of ${t.rangeMin.lo} to ${t.tauMin} min fitted from 4 recoveries`);
    expect(timeConstantWords({ by: "protocol", tauMin: 30, because: "one-rest" })).toBe("30 min, a default");
  });
  it("makes the start heats of a reading: the same rest leaves more heat in a slower body", () => {
    const heatOf = (tauMin: number): number => {
      const report = readUnit(asked(chains(tauMin)));
      expect(report.ledger.by).toBe("recoveries");
      return report.startHeat["r1-again"] ?? -1;
    };
    const [fast, slow] = [heatOf(15), heatOf(55)];
    expect(slow).toBeGreaterThan(fast);
    // A shutdown is heat 1; what is left of it after the rest, by the constant taken.
    const taken = timeConstantOf(chains(55), 30).tauMin;
    expect(slow).toBeCloseTo(Math.exp(-1200 / (60 * taken)), 6);
  });
});
