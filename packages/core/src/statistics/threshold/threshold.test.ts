// Laws of the dependable shutter, and every degenerate ladder: a bound or a closed reason, never a failure. Numbers of whole ladders are checked against
// the cases of the procedure in tools/conformance.

import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { cutAt, quantileAt } from "./cuts.ts";
import { gainInSession, gainOverSessions, gainUnpaired } from "./gained.ts";
import { beliefOf, keepRateAt } from "./keepRate.ts";
import type { Ladder } from "./ladder.ts";
import { HOLD_REFUSALS } from "./ladder.ts";
import { nextExposure } from "./nextExposure.ts";
import { sessionClaim } from "./oneSession.ts";
import { sessionsClaim } from "./sessions.ts";

const FIXED = { share: 0.8, confidence: 0.9, adaptive: false };
const ladder = (from: number, ...kept: number[]): Ladder => kept.map((k, i) => ({ x: from + i, kept: k, shots: 5 }));
const TYPICAL = ladder(-8, 5, 5, 4, 2, 0);
const shots = fc.array(
  fc.record({
    x: fc.integer({ min: -30, max: 6 }).map((k) => k / 3),
    shots: fc.integer({ min: 0, max: 6 }),
    share: fc.double({ min: 0, max: 1, noNaN: true }),
  }),
  { maxLength: 12 },
);
const anyLadder = shots.map((vs): Ladder => vs.map((v) => ({ x: v.x, shots: v.shots, kept: Math.floor(v.share * (v.shots + 0.999)) })));

describe("one session", () => {
  it("moves with its exposures, stop for stop", () => {
    const [here, slower] = [sessionClaim(TYPICAL, FIXED), sessionClaim(ladder(-5, 5, 5, 4, 2, 0), FIXED)];
    expect((slower.claim ?? 0) - (here.claim ?? 0)).toBeCloseTo(3, 9);
    expect((slower.interval?.high ?? 0) - (here.interval?.high ?? 0)).toBeCloseTo(3, 9);
  });
  it("does not hang on the order of visits, nor on exposures between the grid's points", () => {
    expect(sessionClaim([...TYPICAL].reverse(), FIXED).claim).toBeCloseTo(sessionClaim(TYPICAL, FIXED).claim ?? 0, 9);
    const odd = TYPICAL.map((v) => ({ ...v, x: v.x + (v.x === -6 ? 0.031 : 0) }));
    expect(Math.abs((sessionClaim(odd, FIXED).claim ?? 0) - (sessionClaim(TYPICAL, FIXED).claim ?? 0))).toBeLessThan(0.1);
  });
  it("claims less where more is asked, or where exposures were chosen after seeing results", () => {
    const claim = (more: object): number => sessionClaim(TYPICAL, { ...FIXED, ...more }).claim ?? Number.NaN;
    expect(claim({ adaptive: true })).toBeLessThan(claim({}));
    expect(claim({ share: 0.9 })).toBeLessThan(claim({}));
    expect(claim({ confidence: 0.95 })).toBeLessThan(claim({}));
  });
  it("tells the closed reason of every degenerate ladder", () => {
    const reason = (l: Ladder) => sessionClaim(l, FIXED).reason;
    expect(reason([])).toBe("no-shots");
    expect(reason([{ x: -5, kept: 9, shots: 10 }])).toBe("one-rung");
    expect(
      reason([
        { x: -5, kept: 3, shots: 3 },
        { x: -4, kept: 1, shots: 3 },
      ]),
    ).toBe("too-few-shots");
    expect(reason(ladder(-8, 0, 0, 0))).toBe("none-kept");
    expect(reason(ladder(-8, 0, 1, 2, 4, 5))).toBe("rising");
    expect(reason(ladder(-8, 2, 1, 0, 0, 0))).toBe("ladder-starts-too-slow");
  });
  it("gives a bound and no limit beyond it where all or none was kept", () => {
    const all = sessionClaim(ladder(-6, 5, 5, 5, 5, 5), FIXED);
    expect(all).toMatchObject({ reason: null, flags: ["at-least"], interval: { high: null } });
    expect(all.claim).toBeLessThanOrEqual(-2);
    const none = sessionClaim(ladder(-4, 0, 0, 0, 0, 0), FIXED);
    expect(none).toMatchObject({ claim: null, interval: { low: null } });
    expect(none.interval?.high).toBeLessThan(-4);
  });
  it("never counts a lone success, and says which it was", () => {
    const lone = ladder(-8, 5, 5, 3, 0, 1);
    const without = ladder(-8, 5, 5, 3, 0).concat({ x: -4, kept: 0, shots: 4 });
    const told = sessionClaim(lone, FIXED);
    expect(told).toMatchObject({ flags: ["lone-success-not-counted"], lone: [-4] });
    expect(told.claim).toBeLessThanOrEqual(sessionClaim(without, FIXED).claim ?? Number.NaN);
    // The only keeper of all: nothing is left to stand on.
    expect(
      sessionClaim(
        [
          { x: -5, kept: 1, shots: 5 },
          { x: -4, kept: 0, shots: 5 },
        ],
        FIXED,
      ).reason,
    ).toBe("ladder-starts-too-slow");
  });
  it("never claims a time slower than was shot, nor a stop faster than any, whatever was shot", () => {
    fc.assert(
      fc.property(anyLadder, fc.boolean(), (l, adaptive) => {
        const told = sessionClaim(l, { ...FIXED, adaptive });
        if (told.reason !== null) return HOLD_REFUSALS.includes(told.reason) && told.claim === null;
        const xs = l.map((v) => v.x);
        return (told.claim ?? Number.NaN) <= Math.max(...xs) && (told.claim ?? Number.NaN) >= Math.min(...xs) - 1;
      }),
      { numRuns: 60, seed: 5 },
    );
  });
  it("names what is no visit", () => {
    expect(() => sessionClaim([{ x: 0, kept: 3, shots: 2 }, ...TYPICAL], FIXED)).toThrow(
      "kept of shots must be counts with kept <= shots, got 3 of 2",
    );
    expect(() => sessionClaim(TYPICAL, { ...FIXED, share: 0.99 })).toThrow("share must lie between .1 and .95, got 0.99");
  });
});

describe("several sessions", () => {
  const three = [TYPICAL, ladder(-8, 5, 4, 2, 1, 0), ladder(-8, 5, 5, 5, 3, 1)];
  it("claim no more than one alike does, and know the mean better than the next", () => {
    const pooled = sessionsClaim([TYPICAL, TYPICAL, TYPICAL], FIXED);
    expect(pooled.sessions).toBe(3);
    const { interval, mean } = sessionsClaim(three, FIXED);
    const width = (s: { low: number | null; high: number | null } | null): number => (s?.high ?? 99) - (s?.low ?? -99);
    expect(width(mean)).toBeLessThan(width(interval));
  });
  it("do not hang on their order", () => {
    expect(sessionsClaim([...three].reverse(), FIXED).claim).toBeCloseTo(sessionsClaim(three, FIXED).claim ?? 0, 9);
  });
  it("refuse where two of them rise, or none kept anything", () => {
    const rising = ladder(-8, 0, 1, 2, 4, 5);
    expect(sessionsClaim([rising, rising, TYPICAL], FIXED).reason).toBe("rising");
    const none = sessionsClaim([ladder(-4, 0, 0, 0), ladder(-4, 0, 0, 0)], FIXED);
    expect(none).toMatchObject({ reason: "none-kept", interval: { low: null } });
  });
});

describe("stops gained", () => {
  const on = ladder(-4, 5, 5, 4, 1, 0);
  it("turn round with the settings, and are none between equals", () => {
    const [there, back] = [gainInSession(on, TYPICAL, FIXED), gainInSession(TYPICAL, on, FIXED)];
    if (!there.ok || !back.ok) throw new Error("no gain");
    expect(back.low).toBeCloseTo(-(there.high ?? 0), 6);
    const equal = gainInSession(TYPICAL, TYPICAL, FIXED);
    expect(equal).toMatchObject({ ok: true, point: 0 });
  });
  it("have no limit on the side where a ladder has none, and no point then", () => {
    const open = gainInSession(ladder(-4, 5, 5, 5, 5, 5), TYPICAL, FIXED);
    expect(open).toMatchObject({ ok: true, high: null, point: null });
    expect(gainInSession(ladder(-4, 0, 0, 0, 0, 0), TYPICAL, FIXED)).toMatchObject({ ok: true, low: null });
    expect(gainInSession(on, ladder(-8, 0, 1, 2, 4, 5), FIXED)).toEqual({ ok: false, reason: "rising" });
  });
  it("of several sessions are surer than of one, and of days apart less sure", () => {
    const width = (g: ReturnType<typeof gainInSession>): number => (g.ok ? (g.high ?? 99) - (g.low ?? -99) : Number.NaN);
    const one = width(gainInSession(on, TYPICAL, FIXED));
    expect(
      width(
        gainOverSessions(
          [
            { on, off: TYPICAL },
            { on, off: TYPICAL },
            { on, off: TYPICAL },
          ],
          FIXED,
        ),
      ),
    ).toBeLessThan(one);
    expect(width(gainUnpaired([on], [TYPICAL], FIXED))).toBeGreaterThan(one);
    expect(width(gainUnpaired([on, on, on], [TYPICAL, TYPICAL, TYPICAL], FIXED))).toBeLessThan(10);
    expect(gainUnpaired([on, on], [TYPICAL], FIXED)).toEqual({ ok: false, reason: "too-few-sessions" });
    expect(gainUnpaired([], [TYPICAL], FIXED)).toEqual({ ok: false, reason: "no-shots" });
    expect(gainOverSessions([], FIXED)).toEqual({ ok: false, reason: "no-shots" });
  });
});

describe("keep rate and burst", () => {
  it("fall with slower times, and a fresh grip needs no more frames than a burst", () => {
    const belief = beliefOf([TYPICAL], 0.8);
    const rates = [-9, -8, -7, -6, -5, -4].map((x) => keepRateAt(belief, x));
    for (const [i, r] of rates.entries()) {
      expect(r.lower90).toBeLessThanOrEqual(r.mean);
      if (i > 0) expect(r.mean).toBeLessThan(rates[i - 1]?.mean ?? 0);
      expect(r.regripped ?? 99).toBeLessThanOrEqual(r.burst ?? 99);
    }
    expect(keepRateAt(beliefOf([ladder(-4, 0, 0, 0, 0, 0)], 0.8), -4).burst).toBeNull();
  });
});

describe("the next exposure", () => {
  const settings = { ...FIXED, start: -6 };
  it("climbs a whole stop while both are kept, goes two faster where the first is lost, and ends", () => {
    expect(nextExposure([], settings)).toEqual({ done: false, x: -6, why: "ascent" });
    expect(nextExposure([{ x: -6, kept: 2, shots: 2 }], settings)).toEqual({ done: false, x: -5, why: "ascent" });
    expect(nextExposure([{ x: -6, kept: 1, shots: 2 }], settings)).toEqual({ done: false, x: -8, why: "faster" });
    const after = [
      { x: -6, kept: 2, shots: 2 },
      { x: -5, kept: 0, shots: 2 },
    ];
    const next = nextExposure(after, settings);
    expect(next).toMatchObject({ done: false, why: "narrows" });
    // Never again where two were shot and all kept.
    expect(next.done ? null : next.x).not.toBe(-6);
    expect(
      nextExposure(
        Array.from({ length: 30 }, () => ({ x: -5, kept: 1, shots: 2 })),
        settings,
      ),
    ).toEqual({ done: true, why: "shots-enough" });
  });
});

describe("cuts and quantiles", () => {
  it("draw a line between points, and have no limit where the curve has not fallen", () => {
    const curve = [0.01, 0.5, 1, 0.5, 0.2];
    expect(cutAt(curve, 10, 1).low).toBeCloseTo(10 + (1 + (-0.5 - Math.log(0.5)) / -Math.log(0.5)) / 12, 9);
    const wide = cutAt(curve, 10, 3);
    expect(wide.low).not.toBeNull();
    expect(wide.high).toBeNull();
    expect(() => cutAt([0, 0], 0, 1)).toThrow(RangeError);
    expect(quantileAt([1, 2, 1], 0, 0.5)).toBeCloseTo(1 / 12, 12);
    expect(quantileAt([1, 0, 1], 0, 0.25)).toBeCloseTo(0, 12);
  });
});
