import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { chainOf, followUpStart, restBetween } from "./chains.ts";
import { foldRun } from "./fold.ts";
import { isRefusal } from "./observe.ts";
import { mark, START } from "./testing/marks.ts";

const ended = (atSec: number, forSec: number, more: object = {}) =>
  foldRun([mark("start", atSec, { ...START, ...more }), mark("end", atSec + forSec, { cause: "thermal shutdown" })]);

describe("the run after a rest", () => {
  const parent = foldRun([
    mark("start", 0, { ...START, slot: { dayId: "d", slot: "c#1" } }),
    mark("reading", 600, { ambientC: 27.5 }),
    mark("end", 1800, { cause: "thermal shutdown" }),
  ]);
  it("has everything filled in: same cell, warm, the measured rest, the last ambient, its parent and no block", () => {
    const start = followUpStart({ parentRunId: "p", parent, kind: "recovery", nowMs: (1800 + 47 * 60) * 1000 });
    expect(start).toMatchObject({
      runKind: "recovery",
      mode: START.mode,
      condition: START.condition,
      ambient: { valueC: 27.5, basis: "measured" },
      startState: { state: "warm", by: "hours since last powered", value: 0.78 },
      parentRunId: "p",
    });
    expect(start?.slot).toBeUndefined();
  });
  it("carries ambient over as just that where nobody read it again, and never makes one up", () => {
    const silent = foldRun([mark("start", 0, START), mark("end", 1800, { cause: "thermal shutdown" })]);
    expect(followUpStart({ parentRunId: "p", parent: silent, kind: "recovery", nowMs: 0 })?.ambient).toEqual({
      ...START.ambient,
      basis: "as in the last run",
    });
    const unsaid = { ...START, ambient: { ...START.ambient, basis: "not recorded" as const } };
    const unknown = foldRun([mark("start", 0, unsaid), mark("end", 1800, { cause: "thermal shutdown" })]);
    expect(followUpStart({ parentRunId: "p", parent: unknown, kind: "recovery", nowMs: 0 })?.ambient.basis).toBe("not recorded");
  });
  it("in a lighter mode when it is a fallback; none while the parent rolls", () => {
    const lighter = { ...START.mode, id: "mo9", name: "HD" };
    expect(followUpStart({ parentRunId: "p", parent, kind: "fallback", nowMs: 0, mode: lighter })?.mode.name).toBe("HD");
    const rolling = foldRun([mark("start", 0, START)]);
    expect(followUpStart({ parentRunId: "p", parent: rolling, kind: "recovery", nowMs: 0 })).toBeNull();
  });
  it("a refusal at once is a run of zero, and its rest is measured too", () => {
    const start = followUpStart({ parentRunId: "p", parent, kind: "recovery", nowMs: 1_860_000 });
    if (start === null) throw new Error("no start");
    const zero = foldRun([mark("start", 1860, start), mark("end", 1860, { cause: "thermal shutdown" })]);
    expect(isRefusal(zero)).toBe(true);
    expect(restBetween(parent, zero)).toEqual({ lo: 60_000, hi: 60_000 });
  });
  it("the rest is uncertain as far as the end is", () => {
    const foundOff = foldRun([
      mark("start", 0, START),
      mark("end", 1800, { cause: "thermal shutdown", foundOff: { lastSeenMs: 1_200_000 } }),
    ]);
    expect(restBetween(foundOff, ended(2400, 60))).toEqual({ lo: 600_000, hi: 1_200_000 });
    expect(restBetween(ended(0, 100), ended(50, 60))).toBeNull();
    expect(restBetween(foldRun([mark("start", 0, START)]), ended(50, 60))).toBeNull();
  });
});

describe("a chain", () => {
  it("is found from any of its runs, in order of start", () => {
    const runs = [
      { id: "c", fold: ended(9000, 60, { parentRunId: "b" }) },
      { id: "a", fold: ended(0, 1800) },
      { id: "b", fold: ended(4000, 600, { parentRunId: "a" }) },
      { id: "x", fold: ended(5000, 600) },
    ];
    for (const id of ["a", "b", "c"]) expect(chainOf(id, runs).map((r) => r.id)).toEqual(["a", "b", "c"]);
    expect(chainOf("x", runs).map((r) => r.id)).toEqual(["x"]);
    expect(chainOf("nobody", runs)).toEqual([]);
  });
  it("ends whatever the links say: loops, missing parents, runs that name themselves", () => {
    const links = fc.array(fc.option(fc.nat({ max: 7 }), { nil: null }), { minLength: 1, maxLength: 8 });
    fc.assert(
      fc.property(links, fc.nat({ max: 7 }), (parents, which) => {
        const runs = parents.map((p, i) => ({ id: `r${i}`, fold: ended(i * 100, 50, p === null ? {} : { parentRunId: `r${p}` }) }));
        const id = `r${which % runs.length}`;
        const chain = chainOf(id, runs).map((r) => r.id);
        expect(chain).toContain(id);
        expect(new Set(chain).size).toBe(chain.length);
      }),
    );
  });
});
