// The reading of a unit: what a cell may borrow, and what it may not.

import { describe, expect, it } from "vitest";
import { modeKey } from "../kit/index.ts";
import type { CandidateRun } from "../cells/index.ts";
import { DEFAULT_LEVELS } from "../cells/index.ts";
import { START } from "../runs/testing/marks.ts";
import { completion, endsFirst } from "./ends.ts";
import { endsWords } from "./endsWords.ts";
import type { Figure } from "../kit/index.ts";
import { asked, made, MODE_B, SUN } from "./testing/runs.ts";
import type { FullCell } from "./unitReport.ts";
import { AFTERNOON_SEC, DUTY_ONS_SEC } from "./cellRecovery.ts";
import { causeOf } from "./oneAnswer.ts";
import { chanceOf } from "./ends.ts";
import { readUnit } from "./unitReport.ts";

const rated = (limitSec: number): Figure => ({ id: "f", modeId: START.mode.id, kind: "rated", ambientC: 22, limitSec });
const read = (candidates: CandidateRun[], figures: Figure[] = [], cardSec: Record<string, number> = {}) =>
  readUnit(asked(candidates, { figures, cardSec }));
const only = (candidates: CandidateRun[], figures: Figure[] = [], cardSec: Record<string, number> = {}): FullCell =>
  read(candidates, figures, cardSec).cells[0] as FullCell;
const firmware = (version: string) => ({ unit: { ...START.unit, firmware: version } });

describe("a rating", () => {
  it("is not proved by one run, however long", () => {
    const cell = only([made("a", { sec: 3000 })], [rated(2000)]);
    expect(cell.limit).toMatchObject({ ok: false, because: "single-run" });
    expect(cell.figures[0]?.check?.verdict).toBe("not contradicted");
  });
  it("is proved by a limit that carries its confidence", () => {
    const cell = only(
      [3000, 3100, 2950, 3050, 3150].map((sec, i) => made(`o${i}`, { sec })),
      [rated(2000)],
    );
    expect(cell.limit).toMatchObject({ ok: true, from: { runs: 5, cells: 1 } });
    expect(cell.figures[0]?.check?.verdict).toBe("holds");
  });
  it("is judged by the runs of the cell's own firmware", () => {
    const old = [1500, 1520, 1540].map((sec, i) => made(`old${i}`, { sec, setup: firmware("1.0") }));
    const fresh = [2500, 2520, 2540].map((sec, i) => made(`new${i}`, { sec, setup: firmware("1.1") }));
    const cells = read([...old, ...fresh], [rated(2000)]).cells;
    expect(cells.map((c) => [c.setup.unit.firmware, c.figures[0]?.check?.fellShort.length, c.figures[0]?.check?.outlasted.length])).toEqual(
      [
        ["1.0", 3, 0],
        ["1.1", 0, 3],
      ],
    );
  });
});

describe("runs that spread widely", () => {
  it("explain nothing by their own scatter", () => {
    const cell = only([700, 1999, 4801].map((sec, i) => made(`w${i}`, { sec })));
    if (!cell.differences.ok) throw new Error(cell.differences.reason);
    expect(cell.differences.runs.map((d) => d.explained)).toEqual([false, false]);
  });
  it("are not made so by an end found off", () => {
    const foundOff = made("f", { sec: 3600 });
    const end = foundOff.fold.end;
    if (end === null) throw new Error("no end");
    const fold = { ...foundOff.fold, end: { ...end, loMs: end.hiMs - 2_400_000 } };
    const cell = only([{ ...foundOff, fold }, made("s", { sec: 2500 }), made("t", { sec: 2600 }), made("u", { sec: 2650 })]);
    expect(cell.runs.find((r) => r.runId === "f")?.lasted).toMatchObject({ kind: "interval", loSec: 1200, hiSec: 3600 });
    expect(cell.scatter.tooWide).toBe(false);
    expect(cell.typicalSec ?? 0).toBeGreaterThan(2500);
  });
});

describe("recoveries", () => {
  const chain = (id: string, coldSec: number, restSec: number, sec: number, version: string): CandidateRun[] => {
    const parent = made(`${id}-cold`, { sec: coldSec, setup: firmware(version) });
    const atSec = (parent.fold.end?.hiMs ?? 0) / 1000 + restSec;
    const warm = { state: "warm" as const, by: "hours since last powered" as const };
    return [
      parent,
      made(`${id}-again`, {
        sec,
        atSec,
        setup: { ...firmware(version), runKind: "recovery", parentRunId: `${id}-cold`, startState: warm },
      }),
    ];
  };
  it("are held against the cold time of their own firmware, and shown there alone", () => {
    const cells = read([...chain("a", 1000, 900, 500, "1.0"), ...chain("b", 2000, 900, 500, "1.1")]).cells;
    expect(cells.map((c) => c.recovery.points.map((p) => [p.runId, Math.round(1e9 * p.share) / 1e9]))).toEqual([
      [["a-again", 0.5]],
      [["b-again", 0.25]],
    ]);
  });
  it("give duty lines from the limit, none without a fit", () => {
    const runs = [...chain("a", 1800, 600, 500, "1.0"), ...chain("b", 1850, 1500, 900, "1.0"), ...chain("c", 1750, 3000, 1400, "1.0")];
    const { recovery, limit } = only(runs);
    expect(recovery.fit.ok).toBe(true);
    expect(recovery.duty.map((d) => d.onSec)).toEqual(DUTY_ONS_SEC);
    expect(recovery.dutyFromSec).toBe(limit.ok ? limit.lowerMs / 1000 : null);
    for (const d of recovery.duty) if (d.offForeverSec !== null) expect(d.offForSec ?? AFTERNOON_SEC).toBeLessThanOrEqual(d.offForeverSec);
    expect(only(chain("d", 1800, 600, 500, "1.0")).recovery.duty).toEqual([]);
  });
});

describe("what ends it first", () => {
  const card = { [modeKey(START.mode)]: 5000 };
  it("opens to the runs it was read from: batteries of the mode in any room, not this cell's censored ones", () => {
    const inSun = { condition: SUN };
    const here = [1800, 1900, 1850].map((sec, i) => made(`h${i}`, { sec, ambientC: 30, setup: inSun }));
    const there = [7000, 7100].map((sec, i) => made(`b${i}`, { sec, cause: "battery empty" }));
    const [sun, shade] = read([...here, ...there], [], card).cells;
    expect(sun?.ends.runIds.sort()).toEqual(["b0", "b1", "h0", "h1", "h2"]);
    expect(sun?.ends.ends).toMatchObject({
      heat: { by: "limit", ends: 3 },
      battery: { by: "presumed", ends: 2, outlasted: 3 },
      card: { by: "size", atSec: 5000 },
    });
    if (sun === undefined || shade === undefined) throw new Error("two cells");
    expect(endsFirst(sun.ends.ends, 7200).heat).toBeGreaterThan(0.95);
    expect(shade.ends.ends.heat).toMatchObject({ by: "outlasted", reachedSec: [7000, 7100] });
    // The card is full at 5,000 s, long before the batteries.
    expect(endsFirst(shade.ends.ends, 7200).card).toBeGreaterThan(0.98);
  });
  it("gives the battery a limit of its own, from every room and warm starts too, not from a recovery on a used one", () => {
    const empty = (id: string, sec: number, more: object = {}) => made(id, { sec, cause: "battery empty", ...more });
    const warm = { startState: { state: "warm", by: "gauge" } };
    const first = made("h", { sec: 1800 });
    const runs = [
      first,
      empty("a", 3000),
      empty("b", 3120, { setup: { condition: SUN } }),
      empty("w", 2900, { setup: warm }),
      empty("r", 600, { setup: { ...warm, runKind: "recovery", parentRunId: "h" } }),
    ];
    const { cells } = read(runs, [], card);
    const here = cells.find((c) => c.runs.some((r) => r.runId === "a"));
    const { batteryLimit, endedByBattery } = here?.ends ?? {};
    expect(batteryLimit).toMatchObject({ by: "usual scatter", runs: 4, empty: 3 });
    expect([...(here?.ends.runIds ?? [])].sort()).toEqual(["a", "b", "h", "w"]);
    // Below the shortest that ran empty, and no more than a fifth.
    expect(batteryLimit?.sec).toBeLessThan(2900);
    expect(batteryLimit?.sec).toBeGreaterThan(2900 * 0.8);
    expect(chanceOf(here?.ends.ends.battery ?? { by: "nothing" }, batteryLimit?.sec ?? 0).lo).toBeGreaterThanOrEqual(0.9 - 1e-9);
    const many = read([...runs, ...[2950, 3010, 3060].map((sec, i) => empty(`m${i}`, sec))], [], card).cells[0];
    expect(many?.ends.batteryLimit).toMatchObject({ by: "own scatter", empty: 6 });
    expect(endedByBattery).toBe(2);
    expect(only([first]).ends.batteryLimit).toBeNull();
  });
  it("takes unknown for unknown, never for never", () => {
    const cell = only([made("x", { sec: 1320 })]);
    const words = endsWords(cell.ends.ends, 55 * 60);
    expect(words.lead).toBe("0:55 will hardly be held.");
    expect(words.first).toBe("Heat ends it first.");
    expect(words.unknown).toContain("nothing is known");
    const none = only([made("y", { sec: 1320, cause: "tester stopped" })]);
    expect(endsWords(none.ends.ends, 55 * 60).lead).toMatch(/^No chance can be given/);
  });
  it("is of heat whatever endpoint is asked", () => {
    const runs = [1800, 1905, 1850].map((sec, i) => made(`h${i}`, { sec }));
    const asked = { candidates: runs, levels: DEFAULT_LEVELS, tauMin: 30, figures: [], cardSec: card, zone: "UTC" };
    const [toHeat, toBattery] = (["shutdown", "batteryEmpty"] as const).map((endpoint) => readUnit({ ...asked, endpoint }).cells[0]);
    expect(toBattery?.limit.ok).toBe(false);
    expect(toBattery?.ends).toEqual(toHeat?.ends);
    expect(toBattery?.recovery).toEqual(toHeat?.recovery);
  });
  it("never contradicts the limit: its chance at the limit is at least the share claimed", () => {
    const cell = only([1800, 1905, 1850, 1770].map((sec, i) => made(`h${i}`, { sec })));
    if (!cell.limit.ok) throw new Error(cell.limit.because);
    expect(
      completion({ ...cell.ends.ends, battery: { by: "cannot end it" }, card: { by: "cannot end it" } }, cell.limit.lowerMs / 1000).lo,
    ).toBeGreaterThan(0.9);
  });
});

describe("changes", () => {
  it("are pairs that differ in one thing, the earlier first", () => {
    const dark = { condition: { ...START.condition, id: "d", screen: "dark" as const } };
    const runs = [
      ...[2000, 2050, 1950].map((sec, i) => made(`lit${i}`, { sec })),
      ...[2500, 2550, 2450].map((sec, i) => made(`dark${i}`, { sec, setup: dark })),
      ...[900, 950].map((sec, i) => made(`b${i}`, { sec, setup: { mode: MODE_B } })),
    ];
    const { changes } = read(runs);
    expect(changes).toHaveLength(1);
    expect(changes[0]).toMatchObject({
      kind: "setting",
      what: "screen",
      before: "lit",
      after: "dark",
      change: { ok: true, verdict: "longer" },
    });
    expect([...(changes[0]?.runIds.after ?? [])].sort()).toEqual(["dark0", "dark1", "dark2"]);
  });
  it("are none where two things differ, or the rooms", () => {
    const both = { condition: { ...START.condition, id: "d", screen: "dark" as const, air: "fan" as const } };
    const warmer = { condition: { ...START.condition, id: "w", screen: "dark" as const, ambientC: 26 } };
    const two = (setup: object, id: string, ambientC: number) => [2000, 2100].map((sec, i) => made(`${id}${i}`, { sec, setup, ambientC }));
    expect(read([...two({}, "a", 22), ...two(both, "b", 22)]).changes).toEqual([]);
    expect(read([...two({}, "a", 22), ...two(warmer, "c", 26)]).changes).toEqual([]);
  });
});

describe("another temperature", () => {
  it("is read from the same settings on the same firmware alone", () => {
    const at = (ambientC: number, sec: number, id: string, version = "1.0") =>
      made(id, {
        sec,
        ambientC,
        setup: { ...firmware(version), condition: { ...START.condition, id: `c${ambientC}`, ambientC, toleranceC: 2 } },
      });
    const runs = [at(18, 3200, "a"), at(18, 3300, "b"), at(28, 1900, "c"), at(28, 1850, "d")];
    const cell = only(runs);
    expect(cell.ambient.physics.ok).toBe(true);
    expect(cell.ambient.tested.map((t) => t.runId).sort()).toEqual(["a", "b", "c", "d"]);
    const mixed = only([at(18, 3200, "a"), at(18, 3300, "b"), at(28, 1900, "c", "1.1"), at(28, 1850, "d", "1.1")]);
    expect(mixed.ambient.physics).toMatchObject({ ok: false, reason: "one-temperature" });
    // Every whole degree in reach, once.
    const degrees = cell.ambient.points.map((p) => p.ambientC);
    expect(new Set(degrees).size).toBe(degrees.length);
    expect(degrees).toEqual([...degrees].sort((a, b) => a - b));
  });
});

describe("one answer to what a firmware did", () => {
  const OTHER = { mode: { ...START.mode, id: "m2", name: "Other", fpsNum: 100 } };
  const runs = (after: number[]) => [
    ...[1500, 1540, 1580, 1600].map((sec, i) => made(`o${i}`, { sec, setup: firmware("1.0") })),
    ...after.map((sec, i) => made(`n${i}`, { sec, setup: firmware("1.1") })),
    // In another mode both were run too, too few for a pair to say anything.
    made("p", { sec: 900, setup: { ...OTHER, ...firmware("1.0") } }),
    made("q", { sec: 1300, setup: { ...OTHER, ...firmware("1.1") } }),
  ];
  const factors = (after: number[]) => {
    const { effects, changes } = read(runs(after));
    const effect = effects.ok ? effects.effects.find((e) => e.cause === "newer firmware") : undefined;
    const pair = changes.find((c) => c.change.ok)?.change;
    return { effect, pair: pair?.ok === true ? pair.ratio : null };
  };
  it("is the pair's wherever one pair suffices", () => {
    const { effect, pair } = factors([1700, 1760, 1800, 1810]);
    expect(effect).toMatchObject({ byPair: true, factor: pair });
  });
  it("is that of all runs where the pair is too small for a verdict", () => {
    const { effect, pair } = factors([1700, 1760]);
    expect(effect?.byPair).toBeUndefined();
    expect(effect?.factor.mid).not.toBeCloseTo(pair?.mid ?? 0, 3);
  });
  it("knows of a setting whether it came or went", () => {
    const change = (what: string, before: string, after: string) => causeOf({ kind: "setting", what, before, after });
    expect(change("sun", "none", "direct")).toEqual({ cause: "direct sun", way: 1 });
    expect(change("screen", "lit", "dark")).toEqual({ cause: "screen lit", way: -1 });
    expect(change("sun", "none", "shade")).toBeNull();
    expect(change("air", "still", "fan")).toEqual({ cause: "fan", way: 1 });
    expect(change("air", "breeze", "fan")).toBeNull();
  });
});
