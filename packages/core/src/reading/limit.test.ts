// What the rooms may say of a cell's limit. The numbers themselves are checked in statistics/limit against cases computed elsewhere.

import { describe, expect, it } from "vitest";
import type { Lasting } from "../cells/index.ts";
import { START } from "../runs/testing/marks.ts";
import type { LimitRun } from "../statistics/index.ts";
import { chanceAt, timeOfChance } from "../statistics/index.ts";
import type { CellLimit, LimitedCell } from "./limit.ts";
import { cellLimits, tauOf } from "./limit.ts";
import { cautionWords, daysWords, likeOthersWords, methodWords, missingWords } from "./words.ts";

const SETTINGS = { share: 0.9, confidence: 0.9, tauSec: 1800, tauFactor: 2 };
type Of = number | { cut: number; unsaid?: true } | { lo: number; hi: number };
const lasting = (of: Of, day: string, i: number): Lasting => {
  const lasted: LimitRun =
    typeof of === "number"
      ? { kind: "exact", sec: of, day }
      : "cut" in of
        ? { kind: "censored", sec: of.cut, day, ...(of.unsaid === true ? { maybeBySec: of.cut } : {}) }
        : { kind: "interval", loSec: of.lo, hiSec: of.hi, day };
  const timeSec = typeof of === "number" ? of : "cut" in of ? of.cut : of.lo;
  return { runId: `${day} ${i} ${timeSec}`, timeSec, event: lasted.kind === "censored" ? 0 : 1, lasted };
};
const cell = (times: readonly Of[], days: readonly string[] = ["2026-06-11"]): LimitedCell => ({
  setup: { protocol: START.protocol },
  records: times.map((t, i) => lasting(t, days[i % days.length] as string, i)),
});
const limitOf = (...cells: LimitedCell[]): CellLimit => cellLimits(cells, SETTINGS).of(0);
function claimed(limit: CellLimit): CellLimit & { ok: true } {
  if (!limit.ok) throw new Error(limit.because);
  return limit;
}
const refused = (limit: CellLimit): CellLimit & { ok: false } => {
  if (limit.ok) throw new Error("nothing should be claimed");
  return limit;
};

describe("a claim", () => {
  it("names its days until there are three", () => {
    const one = claimed(limitOf(cell([2900, 3010, 3122, 3250])));
    expect([one.scope, daysWords(one)]).toEqual(["tested days", "on days like 11 June 2026"]);
    const two = claimed(limitOf(cell([2900, 3010, 3122, 3250], ["2026-06-12", "2026-06-11"])));
    expect(daysWords(two)).toBe("on days like 11 June 2026 and 12 June 2026");
    const three = claimed(limitOf(cell([2900, 3010, 3122], ["2026-06-11", "2026-06-12", "2026-06-13"])));
    expect([three.scope, daysWords(three)]).toEqual(["new days", "on new days too, from 3 days"]);
    expect(cautionWords(one, 4).join()).toContain("runs on 2 more days");
    expect(cautionWords(two, 4).join()).toContain("runs on 1 more day and");
    expect(cautionWords(three, 3)).toEqual([]);
  });
  it("never lies above the longest record, and the chance at it is at least the share", () => {
    const limit = claimed(limitOf(cell([2900, { cut: 3110 }, { cut: 3100 }, { cut: 3200 }, 3011])));
    expect(limit.lowerMs / 1000).toBeLessThanOrEqual(3200);
    expect(chanceAt(limit.curve, limit.lowerMs / 1000)).toBeGreaterThan(0.9);
    expect(timeOfChance(limit.curve, 0.9)).toBeGreaterThan(limit.lowerMs / 1000);
  });
  it("opens to every run of the pool, and names the runs that lean", () => {
    const limit = claimed(limitOf(cell([2900, 3010]), cell([1500, 1610, 1400, 1530]), cell([{ cut: 9000 }])));
    expect(limit.from).toMatchObject({ runs: 6, shutdowns: 6, cells: 2 });
    expect(methodWords(limit)).toContain("6 ends in 6 runs of 2 modes and conditions");
    expect(cautionWords(limit, 2)[0]).toContain("a third is the next");
  });
  it("does not lean on cells of another protocol", () => {
    const other = { ...cell([1500, 1610, 1400, 1530]), setup: { protocol: { ...START.protocol, onWarning: "stop" as const } } };
    expect(claimed(limitOf(cell([2900, 3010]), other)).from.cells).toBe(1);
  });
});

describe("an end nobody explained", () => {
  const unsaid = (sec: number): Of => ({ cut: sec, unsaid: true });
  it("is read as heat where that claims less, and the ends counted stay the ones somebody saw", () => {
    const cut = claimed(limitOf(cell([2900, 3010, 3122, { cut: 1200 }, { cut: 1300 }])));
    const open = claimed(limitOf(cell([2900, 3010, 3122, unsaid(1200), unsaid(1300)])));
    const heat = claimed(limitOf(cell([2900, 3010, 3122, 1200, 1300])));
    expect(open.lowerMs).toBe(heat.lowerMs);
    expect(open.lowerMs).toBeLessThan(cut.lowerMs / 1.5);
    expect(open.from).toMatchObject({ runs: 5, shutdowns: 3 });
  });
  it("is read as something else where that claims less: the longest run of all makes no limit longer", () => {
    const times = [2900, 3010, 3122, 2800];
    const cut = claimed(limitOf(cell([...times, { cut: 3500 }])));
    const heat = claimed(limitOf(cell([...times, 3500])));
    expect(claimed(limitOf(cell([...times, unsaid(3500)]))).lowerMs).toBe(Math.min(cut.lowerMs, heat.lowerMs));
  });
  it("alone claims nothing: nobody saw heat end anything", () => {
    expect(refused(limitOf(cell([unsaid(1200), unsaid(1300), unsaid(1100)]))).because).toBe("no-shutdown");
  });
  it("speaks in the cells that lend their scatter too", () => {
    const lent = [1500, 1610, 1400, 1530];
    const with2 = (more: Of[]) => claimed(limitOf(cell([2900, 3010]), cell([...lent, ...more])));
    expect(with2([unsaid(400)]).lowerMs).toBeLessThanOrEqual(with2([{ cut: 400 }]).lowerMs);
  });
});

describe("times read by the minute", () => {
  it("are half a minute either way, so ties never mean that nothing scatters", () => {
    const typed = claimed(limitOf(cell([2700, 2700, 2700])));
    expect(Number.isNaN(typed.scatter)).toBe(false);
    expect(typed.scatter).toBeGreaterThan(0.003);
    // A whole minute, rounded down.
    expect(typed.lowerMs % 60_000).toBe(0);
    expect(typed.lowerMs).toBeLessThan(2_670_000);
  });
  it("are known by every shutdown falling on one: a single second apart and they are exact", () => {
    expect(claimed(limitOf(cell([2700, 2760, 2821]))).lowerMs % 60_000).not.toBe(0);
  });
});

describe("a shutdown after a gap", () => {
  it("is an interval: it lowers a limit that lies above it", () => {
    const bare = claimed(limitOf(cell([2900, 3010, 3122])));
    const early = claimed(limitOf(cell([2900, 3010, 3122, { lo: 600, hi: 2000 }])));
    const cutThere = claimed(limitOf(cell([2900, 3010, 3122, { cut: 600 }])));
    expect(early.lowerMs).toBeLessThan(0.8 * bare.lowerMs);
    expect(early.lowerMs).toBeLessThan(cutThere.lowerMs);
  });
});

describe("no claim", () => {
  it("without a shutdown, and says what to do", () => {
    const limit = refused(limitOf(cell([{ cut: 7000 }, { cut: 7100 }])));
    expect(limit).toEqual({ ok: false, because: "no-shutdown" });
    expect(missingWords(limit)).toContain("let one run to its end");
  });
  it("from a single run: what it would be if it scattered like the others is a lesser line", () => {
    const alone = refused(limitOf(cell([2000])));
    expect([alone.because, likeOthersWords(alone)]).toEqual(["single-run", null]);
    const lent = refused(limitOf(cell([2640]), cell([1800, 1980, 1740, 2100].map((s) => s + 7)), cell([3660, 4207, 3960])));
    expect(likeOthersWords(lent)).toMatch(/^If it scatters like the unit's other runs: at least 0:2\d:\d\d\./);
    expect(missingWords(lent)).toContain("1 more run");
  });
  it("from runs that scatter as runs of one kind never do", () => {
    const limit = refused(limitOf(cell([1000, 2405, 5110])));
    expect(limit.because).toBe("scatters-widely");
    expect(missingWords(limit)).toMatch(/scatter by \d\d\.\d %.*find what differs/);
  });
  it("from one shutdown among censored runs, unless the others know enough", () => {
    const cells = [cell([2000, { cut: 2500 }]), cell([1500, 1610])];
    expect(refused(limitOf(...cells)).because).toBe("too-few-elsewhere");
    expect(limitOf(...cells, cell([3010, 3120, 3333]), cell([4010, 4444])).ok).toBe(true);
  });
});

it("takes the body's time constant with its range, a default with a factor of two", () => {
  expect(tauOf({ by: "protocol", tauMin: 30, because: "one-rest" })).toEqual({ tauSec: 1800, tauFactor: 2 });
  const fitted = tauOf({ by: "recoveries", tauMin: 45, rangeMin: { lo: 20, hi: 45 }, runIds: [] });
  expect(fitted.tauSec).toBeCloseTo(1800, 9);
  expect(fitted.tauFactor).toBeCloseTo(1.5, 9);
  expect(tauOf({ by: "recoveries", tauMin: 31, rangeMin: { lo: 29, hi: 31 }, runIds: [] }).tauFactor).toBe(1.25);
});

it("refuses a cell that is not there", () => expect(() => cellLimits([cell([2000])], SETTINGS).of(7)).toThrow(RangeError));
