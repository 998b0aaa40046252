// The findings in words: every verdict and every refusal has its sentence, and what is rounded is rounded against us.

import { describe, expect, it } from "vitest";
import type { Change } from "./beforeAfter.ts";
import type { Cause } from "./causes.ts";
import { CAUSES } from "./causes.ts";
import type { Levelling } from "./levelling.ts";
import { LEVELLING_REFUSALS } from "./levelling.ts";
import type { RatingCheck } from "./rating.ts";
import type { RecoveryResult } from "./recovery.ts";
import type { Belief } from "./warnings.ts";
import {
  beliefWords,
  causeWords,
  changeWords,
  effectsRefusal,
  effectWords,
  factorWords,
  hms,
  levellingWords,
  ratingWords,
  recoveryWords,
  unsaidWords,
} from "./words.ts";

describe("causes", () => {
  it("each have their words", () => {
    const words = CAUSES.map((c: Cause) => causeWords(c));
    expect(new Set(words).size).toBe(CAUSES.length);
    expect(words.every((w) => w === w.trim() && w !== "")).toBe(true);
  });
  it("cost or gain with the interval outwards, down to the exact edge", () => {
    expect(factorWords({ mid: 0.5, lo: 0.4, hi: 0.999 })).toBe("costs 50 %, between 0 and 60");
    expect(factorWords({ mid: 1.5, lo: 1.001, hi: 2 })).toBe("gains 50 %, between 0 and 100");
    expect(factorWords({ mid: 0.9, lo: 0.8, hi: 1 })).toMatch(/^no effect can be told/);
    expect(factorWords({ mid: 1.1, lo: 1, hi: 1.2 })).toMatch(/^no effect can be told/);
  });
  it("read as one sentence, alone and bundled", () => {
    const effect = { cause: "fan" as const, together: [], factor: { mid: 1.3, lo: 1.1, hi: 1.5 }, yes: 3, no: 4 };
    expect(effectWords(effect)).toBe("a fan gains 30 %, between 10 and 50");
    expect(effectWords({ ...effect, together: ["screen lit" as const] })).toBe(
      "a fan, together with a lit screen, gains 30 %, between 10 and 50",
    );
    expect(effectWords({ ...effect, factor: { mid: 1, lo: 0.9, hi: 1.1 } })).toBe("a fan: no effect can be told, between −10 % and +10 %");
  });
  it("refuse in words", () => {
    expect(effectsRefusal({ ok: false, reason: "too-few-runs", runs: 3 })).toMatch(/^3 runs are too few/);
    expect(effectsRefusal({ ok: false, reason: "nothing-varies", runs: 3 })).toMatch(/^Nothing that was recorded differs/);
    expect(effectsRefusal({ ok: false, reason: "nothing-varies", runs: 1 })).toMatch(/^There is one run to go by/);
    const unbounded = [{ cause: "pauses", value: true, runs: 1 }] as const;
    expect(effectsRefusal({ ok: false, reason: "nothing-varies", runs: 2, unbounded: [...unbounded] })).toMatch(
      /^No run with a pause ended by heat unbroken, so no effect can be given; in nothing else/,
    );
    expect(effectsRefusal({ ok: false, reason: "nothing-varies", runs: 0 })).toMatch(
      /^No run of this unit is known to have reached the end/,
    );
    expect(effectsRefusal({ ok: false, reason: "no-fit", runs: 3 })).toMatch(/^No fit exists/);
  });
});

describe("paths, recoveries, warnings, ratings, changes", () => {
  it("levels off, climbs and neither, times rounded outwards", () => {
    const off: Levelling = { ok: true, verdict: "levels off", levelsOff: 0.98, upper: 7.81 };
    expect(levellingWords(off, true)).toBe(
      "Levels off below shutdown: plateau at most step 7.9 (90 % sure); fan, sun, screen and place were as at the start.",
    );
    expect(levellingWords(off)).toBe("Levels off below shutdown: plateau at most step 7.9 (90 % sure), if nothing around it changed.");
    const up: Levelling = { ok: true, verdict: "still climbing", levelsOff: 0.02, upper: 14, rangeSec: { lo: 3959, hi: 6201 } };
    expect(levellingWords(up)).toBe("Still climbing: shutdown between 1:05 and 1:44 (8 of 10), if nothing changes.");
    const open = { ok: true, verdict: "cannot tell", levelsOff: 0.5, upper: 11 } as const;
    expect(levellingWords({ ...open, tells: { afterMin: 45, mostly: true } })).toBe("Cannot tell yet: about 45 more minutes would tell.");
    expect(levellingWords({ ...open, tells: { afterMin: 60, mostly: false } })).toBe(
      "Cannot tell yet: 60 more minutes would tell in about half the cases.",
    );
    expect(levellingWords({ ...open, tells: null })).toMatch(/^Cannot tell: the plateau lies about at shutdown/);
    const reasons = LEVELLING_REFUSALS.map((reason) => levellingWords({ ok: false, reason }));
    expect(new Set(reasons).size).toBe(reasons.length);
    for (const words of reasons) expect(words).toMatch(/^[A-Z].*\.$/);
  });
  it("rests are rounded up to whole minutes", () => {
    const fit: RecoveryResult = {
      ok: true,
      tauCoolSec: 2000,
      range: { lo: 1500, hi: 3000 },
      rest80Sec: 1801,
      rest80Safe: 2702,
      n: 3,
      runIds: [],
    };
    expect(recoveryWords(fit)).toBe("31 min of rest give back four fifths of the cold time; rely on 46 min (slow end of the range).");
    expect(recoveryWords({ ok: false, reason: "too-few-recoveries", n: 0 })).toMatch(/^No recovery run yet/);
    expect(recoveryWords({ ok: false, reason: "too-few-recoveries", n: 1 })).toMatch(/^One recovery run/);
    expect(recoveryWords({ ok: false, reason: "one-rest", n: 3 })).toMatch(/same rest/);
    expect(recoveryWords({ ok: false, reason: "no-cold-time", n: 3 })).toMatch(/^No cold time/);
    expect(recoveryWords({ ok: false, reason: "cold-time-open", n: 3 })).toMatch(/is not known: too many runs here were cut off/);
  });
  it("a countdown that was kept by one run is not yet believed", () => {
    const belief = (more: Partial<Belief & { ok: true }>): Belief => ({
      ok: true,
      countdowns: [],
      runs: 1,
      kept: 1,
      keptShare: 0.1,
      worstRatio: 1.2,
      verdict: "cannot tell",
      ...more,
    });
    expect(beliefWords(belief({}), 0.9)).toBe("It was kept in 1 run, too few to rely on (at least 10 % of runs, 90 % sure).");
    expect(beliefWords(belief({ runs: 9, kept: 9, keptShare: 0.7742, verdict: "keeps its word" }), 0.9)).toMatch(
      /at least 77 % of runs keep it/,
    );
    expect(beliefWords(belief({}), 0.95)).toMatch(/95 % sure\)\.$/);
    expect(beliefWords({ ok: false, reason: "no-countdown" }, 0.9)).toMatch(/^No minutes left are on record/);
  });
  it("shares of a rating are rounded against the claim: at least down, at most up", () => {
    const check = (more: Partial<RatingCheck>): RatingCheck => ({
      outlasted: ["a", "b", "c"],
      fellShort: [],
      silent: [],
      maybeShort: [],
      atLeast: 0.4641,
      atMost: 1,
      provedBy: null,
      verdict: "not contradicted",
      ...more,
    });
    expect(ratingWords(check({}), 0.9)).toMatch(/at least 46 % of runs, 90 % sure, and not yet a proof/);
    expect(ratingWords(check({ outlasted: [], fellShort: ["a", "b"], atMost: 0.6838, verdict: "falls short" }), 0.9)).toMatch(
      /at most 69 % of runs/,
    );
    expect(ratingWords(check({}), 0.8)).toMatch(/of runs, 80 % sure, and not yet a proof/);
    expect(ratingWords(check({ verdict: "holds", provedBy: "limit" }), 0.9)).toMatch(
      /^It holds: 3 of 3 .* the dependable limit lies beyond it\.$/,
    );
    // Without a limit it is not said that one lies beyond.
    expect(ratingWords(check({ verdict: "holds", provedBy: "share", atLeast: 0.9006 }), 0.9)).toBe(
      "It holds: 3 of 3 runs that can speak outlasted it, and that alone is at least 90 % of runs, 90 % sure.",
    );
    expect(ratingWords(check({ fellShort: ["d"], verdict: "cannot tell" }), 0.9)).toMatch(/^Cannot tell: 1 of 4/);
    expect(ratingWords(check({ outlasted: [], atLeast: null, atMost: null, verdict: "cannot tell" }), 0.9)).toMatch(/^No run can speak/);
  });
  it("a change is told with its interval outwards, a refusal with what is missing", () => {
    const change = (more: Partial<Change & { ok: true }>): Change => ({
      ok: true,
      ratio: { mid: 0.8, lo: 0.704, hi: 0.909 },
      verdict: "shorter",
      margin: 0.1,
      by: "exact",
      confidence: 0.9,
      n: { before: 4, after: 4 },
      enough: true,
      ...more,
    });
    expect(changeWords(change({}))).toBe("Lasts shorter: −20 %, 90 % interval −30 % to −9 %.");
    expect(changeWords(change({ ratio: { mid: 1.01, lo: 0.96, hi: 1.063 }, verdict: "same within the margin" }))).toBe(
      "The same within 10 %: +1 %, 90 % interval −4 % to +7 %.",
    );
    expect(changeWords(change({ ratio: { mid: 1.1, lo: 0.9, hi: 1.3 }, verdict: "cannot tell yet" }))).toMatch(/^Cannot tell yet: \+10 %/);
    expect(changeWords(change({ confidence: 0.975 }))).toContain("97 % interval (90 % for all pairs together)");
    expect(changeWords({ ok: false, reason: "too-few-shutdowns", n: { before: 1, after: 3 } })).toMatch(/now 1 and 3 runs/);
    expect(changeWords({ ok: false, reason: "no-fit", n: { before: 2, after: 2 } })).toBe("No fit exists.");
  });
  it("a time is cut to whole seconds, and what was not recorded is asked for", () => {
    expect(hms(3725.9)).toBe("1:02:05");
    for (const u of ["start state not known", "ambient guessed", "pauses", "ambient spread", "start heat"] as const)
      expect(unsaidWords(u).length).toBeGreaterThan(10);
  });
});
