// Recovery, warnings, ratings, ends, changes and next runs: against truths they were made from, closed forms, and R where it has the method.

import { shareAfterRest } from "../heat/index.ts";
import { recoveriesOf } from "../heat/index.ts";
import type { Lasting } from "../cells/index.ts";
import { describe, expect, it } from "vitest";
import { plateauOf } from "../heat/index.ts";
import type { CandidateRun } from "../cells/index.ts";
import { mark, START } from "../runs/testing/marks.ts";
import { compareChange } from "./beforeAfter.ts";
import { cellLimits } from "./limit.ts";
import { nextRuns, runsUntil } from "./nextRun.ts";
import type { Figure } from "../kit/index.ts";
import { besideFew } from "./publishedTimes.ts";
import { fewWords } from "./publishedTimesWords.ts";
import { checkRating, waterfall } from "./rating.ts";
import { unitRecords } from "./records.ts";
import { dutyLines, fitRecovery, restForShare } from "./recovery.ts";
import { made, SUN } from "./testing/runs.ts";
import { countdownBelief, warningLeads } from "./warnings.ts";
import { beliefWords, changeWords, ratingWords, recoveryWords } from "./words.ts";

const ASKED = { share: 0.9, confidence: 0.9 };
const timed = (times: readonly number[], events: readonly (0 | 1)[] = []): Lasting[] =>
  times.map((timeSec, i) => {
    const event = events[i] ?? 1;
    return { runId: `t${timeSec}.${i}`, timeSec, event, lasted: { kind: event === 1 ? "exact" : "censored", sec: timeSec, day: "d" } };
  });

describe("recovery", () => {
  const COLD = 1800;
  const chain = (rests: readonly number[], tauCool: number): CandidateRun[] =>
    rests.flatMap((restSec, i) => {
      const parent = made(`par${i}`, { sec: COLD });
      const endSec = (parent.fold.end?.hiMs ?? 0) / 1000;
      const sec = Math.round(COLD * shareAfterRest(restSec, COLD, 1800, tauCool));
      return [
        parent,
        made(`rec${i}`, {
          sec,
          atSec: endSec + restSec,
          setup: { runKind: "recovery", parentRunId: `par${i}`, startState: { state: "warm", by: "hours since last powered" } },
        }),
      ];
    });
  const points = (runs: CandidateRun[]) => recoveriesOf(runs, () => COLD);
  it("counts rest from the last powered moment, a fallback run in between included", () => {
    const parent = made("par", { sec: COLD, atSec: 7e6 });
    const endSec = 7e6 + COLD;
    const fallback = made("fall", {
      sec: 100,
      atSec: endSec + 15,
      cause: "tester stopped",
      setup: { runKind: "fallback", parentRunId: "par" },
    });
    const again = made("rec", { sec: 300, atSec: endSec + 308, setup: { runKind: "recovery", parentRunId: "par" } });
    expect(points([parent, again]).map((p) => p.restSec)).toEqual([308]);
    expect(points([parent, fallback, again]).map((p) => p.restSec)).toEqual([193]);
  });
  it("finds the cooling constant it was made with, a refusal counted as zero", () => {
    const all = points(chain([30, 600, 1500, 3000], 2400));
    expect(all.map((p) => [p.restSec, p.timeSec > 0])).toEqual([
      [30, true],
      [600, true],
      [1500, true],
      [3000, true],
    ]);
    const refused = points([
      made("par", { sec: COLD, atSec: 9e6 }),
      made("no", { sec: 0, atSec: 9e6 + COLD + 60, setup: { runKind: "recovery", parentRunId: "par" } }),
    ]);
    expect(refused).toMatchObject([{ timeSec: 0, share: 0, event: 1, restSec: 60 }]);
    const fit = fitRecovery([...refused, ...all], COLD, 1800);
    if (!fit.ok) throw new Error(fit.reason);
    expect(fit.tauCoolSec / 2400).toBeCloseTo(1, 1.3);
    expect(fit.range.lo).toBeLessThan(2400);
    expect(fit.range.hi).toBeGreaterThan(2400);
    expect(fit.rest80Safe).toBeGreaterThan(fit.rest80Sec);
    expect(recoveryWords(fit)).toMatch(/^\d+ min of rest give back four fifths/);
  });
  it("has a rest that is the inverse of the share", () => {
    for (const share of [0.2, 0.5, 0.8, 0.95])
      expect(shareAfterRest(restForShare(share, COLD, 1800, 2400), COLD, 1800, 2400)).toBeCloseTo(share, 9);
    expect(shareAfterRest(0, COLD, 1800, 2400)).toBe(0);
  });
  it("refuses with a reason: none, one, one rest, no cold time", () => {
    expect(fitRecovery([], COLD, 1800)).toEqual({ ok: false, reason: "too-few-recoveries", n: 0 });
    expect(fitRecovery(points(chain([600, 610], 2400)), COLD, 1800)).toMatchObject({ ok: false, reason: "one-rest" });
    expect(fitRecovery(points(chain([600, 1200], 2400)), null, 1800)).toMatchObject({ ok: false, reason: "no-cold-time" });
    expect(fitRecovery(points(chain([600, 1200], 2400)), null, 1800, 2)).toMatchObject({ ok: false, reason: "cold-time-open" });
  });
  it("gives duty cycles whose peak stays below shutdown, shorter rests for an afternoon than for ever", () => {
    const [five, ten] = dutyLines(COLD, 1800, 2400, 4 * 3600, [300, 600]);
    const p = plateauOf(COLD * 1000, 1800 * 1000);
    for (const line of [five, ten]) {
      const off = line?.offForeverSec ?? 0;
      const [a, b] = [Math.exp(-(line?.onSec ?? 0) / 1800), Math.exp(-off / 2400)];
      expect((p * (1 - a)) / (1 - a * b)).toBeLessThan(0.9);
      const less = Math.exp(-(off - 60) / 2400);
      expect((p * (1 - a)) / (1 - a * less)).toBeGreaterThanOrEqual(0.9);
      expect(line?.offForSec ?? 0).toBeLessThanOrEqual(off);
    }
    expect(dutyLines(300, 1800, 2400, 3600, [900])).toEqual([{ onSec: 900, offForeverSec: null, offForSec: null }]);
  });
});

describe("warnings", () => {
  const warned = (id: string, sec: number, shown: number, minutesLeft: number) =>
    made(id, { sec, between: [(at) => mark("warning", at(shown), { phase: "shown", minutesLeft })] });
  it("lead by recorded time; a shutdown without one is zero", () => {
    const runs = [
      warned("a", 2400, 1800, 5),
      warned("b", 2600, 2300, 5),
      made("c", { sec: 2000 }),
      made("d", { sec: 9000, cause: "card full" }),
    ];
    const leads = warningLeads(runs, 0.9);
    if (!leads.ok) throw new Error(leads.reason);
    expect(leads.leads.map((l) => l.leadSec)).toEqual([0, 300, 600]);
    expect(leads.unwarned).toBe(1);
    expect(leads.share).toBeCloseTo(0.1 ** (1 / 3), 12);
    expect(warningLeads([], 0.9)).toEqual({ ok: false, reason: "no-shutdown" });
    // Entered late without a warning: nobody knows whether there was one.
    const late = (run: CandidateRun): CandidateRun => ({
      ...run,
      fold: { ...run.fold, effective: run.fold.effective.map((m) => ({ ...m, source: "late" as const })) },
    });
    const some = warningLeads([warned("a", 2400, 1800, 5), late(made("l", { sec: 2000 }))], 0.9);
    expect(some).toMatchObject({ ok: true, unwarned: 0, notRecorded: ["l"], leads: [{ runId: "a" }] });
    expect(warningLeads([late(made("l", { sec: 2000 }))], 0.9)).toEqual({ ok: false, reason: "not-recorded" });
    // A device told one, and nobody marked it: no shutdown without a warning.
    const told = { ...made("t", { sec: 2000 }), warningUnmarked: true };
    expect(warningLeads([warned("a", 2400, 1800, 5), told], 0.9)).toMatchObject({ ok: true, unwarned: 0, notRecorded: ["t"] });
    expect(warningLeads([{ ...warned("a", 2400, 1800, 5), warningUnmarked: true }], 0.9)).toMatchObject({
      notRecorded: [],
      shortestSec: 600,
    });
    expect(warningLeads([late(warned("w", 2400, 1800, 5))], 0.9)).toMatchObject({ ok: true, shortestSec: 600, notRecorded: [] });
  });
  it("are believed only as far as they were kept", () => {
    const kept = countdownBelief(
      [1, 2, 3, 4].map((i) => warned(`k${i}`, 2400, 1800, 8)),
      0.9,
    );
    expect(kept).toMatchObject({ ok: true, verdict: "keeps its word", runs: 4, kept: 4 });
    // Clopper and Pearson, one-sided, all of n: alpha^(1/n).
    expect(kept.ok && kept.keptShare).toBeCloseTo(0.1 ** (1 / 4), 9);
    const broken = countdownBelief([warned("x", 2400, 2100, 12), warned("y", 2400, 1500, 5)], 0.9);
    expect(broken).toMatchObject({ ok: true, verdict: "promises too much", kept: 1 });
    expect(broken.ok && broken.worstRatio).toBeCloseTo(300 / 720, 12);
    expect(beliefWords(broken, 0.9)).toMatch(/^Do not believe it: in 1 of 2 runs .* once only 41 % of them\.$/);
    expect(countdownBelief([warned("one", 2400, 1800, 8)], 0.9)).toMatchObject({ verdict: "cannot tell" });
    expect(countdownBelief([made("n", { sec: 100 })], 0.9)).toEqual({ ok: false, reason: "no-countdown" });
  });
});

describe("ratings and outside figures", () => {
  const figure: Figure = { id: "f", modeId: START.mode.id, kind: "rated", ambientC: 23, limitSec: 2400 };
  const records = (runs: CandidateRun[]) => unitRecords(runs, "shutdown", ASKED, 30, "UTC").cells.flatMap((c) => c.records);
  it("let a run speak only where its end and its temperature allow", () => {
    const runs = records([
      made("past", { sec: 2500, cause: "card full" }),
      made("short", { sec: 2000 }),
      made("card", { sec: 2000, cause: "card full" }),
      made("hot", { sec: 1500, ambientC: 30 }),
      made("sun", { sec: 1500, ambientC: 24, setup: { condition: { ...SUN, ambientC: 24 } } }),
      made("cool", { sec: 3000, ambientC: 15 }),
      made("warm", { sec: 2600, ambientC: 28 }),
    ]);
    const c = checkRating(figure, runs, ASKED, null);
    expect(c.outlasted.sort()).toEqual(["past", "warm"]);
    expect(c.fellShort).toEqual(["short"]);
    expect(c.silent.sort()).toEqual(["card", "cool", "hot", "sun"]);
    expect(c.verdict).toBe("cannot tell");
  });
  it("hold by the bound, are not contradicted by few, fall short by many", () => {
    const past = records([1, 2, 3].map((i) => made(`p${i}`, { sec: 2500 + i })));
    expect(checkRating(figure, past, ASKED, 2450).verdict).toBe("holds");
    expect(checkRating(figure, past, ASKED, 2300).verdict).toBe("not contradicted");
    expect(checkRating(figure, past, ASKED, null).atLeast).toBeCloseTo(0.1 ** (1 / 3), 9);
    const short = checkRating(figure, records([1, 2, 3].map((i) => made(`s${i}`, { sec: 2000 + i }))), ASKED, null);
    expect(short.verdict).toBe("falls short");
    // All of three below: the upper bound is 1 - 0.1^(1/3).
    expect(short.atMost).toBeCloseTo(1 - 0.1 ** (1 / 3), 9);
    expect(ratingWords(short, 0.9)).toMatch(/^It does not hold: 3 of 3 runs/);
    expect(checkRating(figure, [], ASKED, null)).toMatchObject({ verdict: "cannot tell", atLeast: null });
  });
  it("count an end nobody explained against the share: unknown is not another cause", () => {
    const runs = [1, 2, 3].map((i) => made(`p${i}`, { sec: 2500 + i }));
    const unsaid = checkRating(figure, records([...runs, made("unsaid", { sec: 1500, cause: "unknown" })]), ASKED, null);
    expect(unsaid).toMatchObject({ maybeShort: ["unsaid"], silent: ["unsaid"], verdict: "not contradicted" });
    // At least three of four: the bound b solves P(X >= 3 | n = 4, b) = 0.1 (tables of the binomial).
    const b = unsaid.atLeast ?? 0;
    expect(4 * b ** 3 * (1 - b) + b ** 4).toBeCloseTo(0.1, 9);
    expect(ratingWords(unsaid, 0.9)).toContain(
      "One other heat may have ended before it, for all that was said: counted against the share.",
    );
    const after = checkRating(figure, records([...runs, made("late", { sec: 2600, cause: "unknown" })]), ASKED, null);
    expect(after).toMatchObject({ maybeShort: [], outlasted: ["p1", "p2", "p3", "late"] });
    // In a room nobody recorded a run says nothing about a time at a temperature, either way.
    const dark = (r: Parameters<typeof checkRating>[1][number]): typeof r => ({
      ...r,
      setup: { ...r.setup, ambient: { ...r.setup.ambient, basis: "not recorded" } },
    });
    const unrecorded = checkRating(figure, records([made("d1", { sec: 1500 }), made("d2", { sec: 2600 })]).map(dark), ASKED, null);
    expect(unrecorded).toMatchObject({ outlasted: [], fellShort: [], silent: ["d1", "d2"], verdict: "cannot tell" });
    const hotter = checkRating(figure, records([...runs, made("hot", { sec: 1500, cause: "unknown", ambientC: 30 })]), ASKED, null);
    expect(hotter.maybeShort).toEqual([]);
  });
  it("are not proved or disproved at the very edge, nor by runs under a fan", () => {
    // 0 of 1 at 90 %: the upper bound is 0.9 itself.
    expect(checkRating(figure, records([made("one", { sec: 2000 })]), ASKED, null).verdict).toBe("cannot tell");
    const fan = { condition: { ...START.condition, air: "fan" as const } };
    const blown = checkRating(figure, records([1, 2, 3].map((i) => made(`b${i}`, { sec: 2500 + i, setup: fan }))), ASKED, null);
    expect(blown).toMatchObject({ outlasted: [], verdict: "cannot tell" });
    // But what falls short even under a fan falls short.
    const short = checkRating(figure, records([1, 2].map((i) => made(`f${i}`, { sec: 2000 + i, setup: fan }))), ASKED, null);
    expect(short).toMatchObject({ fellShort: ["f1", "f2"], verdict: "falls short" });
    // Twenty-two runs prove nine of ten without a limit, twenty-one do not.
    const many = (n: number) =>
      checkRating(figure, records(Array.from({ length: n }, (_, i) => made(`m${i}`, { sec: 2500 + i }))), ASKED, null);
    expect([many(22), many(21)]).toMatchObject([{ verdict: "holds", provedBy: "share" }, { verdict: "not contradicted" }]);
  });
  it("are contradicted by a shutdown after a gap before them, and not by one found off that may have outlasted them", () => {
    const gaps = [
      (at: (s: number) => number) => mark("gap", at(300), { cause: "battery swap", power: "off" }),
      (at: (s: number) => number) => mark("resume", at(360), {}),
    ];
    const broken = checkRating(figure, records([1, 2].map((i) => made(`g${i}`, { sec: 1500 + i, between: gaps }))), ASKED, null);
    expect(broken).toMatchObject({ fellShort: ["g1", "g2"], verdict: "falls short" });
    const [sharp] = records([made("s", { sec: 2000 })]);
    if (sharp === undefined) throw new Error("no record");
    const foundOff = { ...sharp, lasted: { kind: "interval" as const, loSec: 2000, hiSec: 3600, day: "d" } };
    expect(checkRating(figure, [foundOff], ASKED, null)).toMatchObject({ fellShort: [], silent: ["s"] });
  });
  it("are explained cause by cause: the bars multiply to the ratio", () => {
    const [ours] = records([made("o", { sec: 2000 })]);
    if (ours === undefined) throw new Error("no record");
    const factor = { mid: 0.9, lo: 0.85, hi: 0.95 };
    const effects = {
      ok: true as const,
      by: "exact" as const,
      n: 9,
      shutdowns: 9,
      sd: 0.1,
      withMode: [],
      unbounded: [],
      runIds: [],
      model: { fit: {} as never, columns: [], modes: [], records: [] },
      effects: [
        { cause: "ambient" as const, together: [], factor: { mid: 0.97, lo: 0.95, hi: 0.99 }, yes: null, no: null },
        { cause: "start heat" as const, together: [], factor, yes: null, no: null },
        { cause: "direct sun" as const, together: [], factor: { mid: 0.8, lo: 0.7, hi: 0.9 }, yes: 3, no: 6 },
      ],
    };
    const outside: Figure = { ...figure, kind: "outside", ambientC: 26, limitSec: 1200, says: { start: "warm" } };
    const w = waterfall(outside, ours, 2000, effects, null);
    if (!w.ok) throw new Error(w.reason);
    expect(w.bars.reduce((p, b) => p * b.factor.mid, 1)).toBeCloseTo(w.ratio, 12);
    expect(w.bars.map((b) => b.what)).toEqual(["ambient", "start heat", "unexplained"]);
    expect(w.bars[0]?.factor.mid).toBeCloseTo(0.97 ** 4, 12);
    expect(w.unsaid).toMatchObject([{ what: "direct sun" }]);
    expect(waterfall(outside, ours, null, effects, null)).toEqual({ ok: false, reason: "no-typical-time" });
  });
});

describe("a published time beside few runs", () => {
  const theirs = (limitSec: number | null, more: Partial<Figure> = {}): Figure => ({
    id: "o",
    modeId: START.mode.id,
    kind: "outside",
    ambientC: 23,
    limitSec,
    ...more,
  });
  const records = (...runs: CandidateRun[]) => unitRecords(runs, "shutdown", ASKED, 30, "UTC").cells.flatMap((c) => c.records);
  const one = records(made("o", { sec: 4800, ambientC: 29 }));
  it("shorter than ours from a hotter room: the ambient cannot be it, the start state could, the codec is to be asked", () => {
    const f = besideFew(theirs(2700, { says: { start: "warm", sun: "none", air: "still", screen: "lit" } }), one);
    expect(f).toMatchObject({ what: "theirs shorter", runId: "o", ourSec: 4800, against: ["ambient"], could: ["start heat"] });
    expect(fewWords(f)).toBe(
      "No run of yours is known to have ended by heat so early: the shortest that tells lasted 1:20:00. Known and against it: the ambient; it cannot be the reason. It could be: the start state; how much it does, too few runs say. Not said, ask for: codec.",
    );
  });
  it("is no difference within ours, or where more than a time was reached; a run cut before it tells nothing", () => {
    expect(besideFew(theirs(2700), records(made("a", { sec: 2400 }), made("b", { sec: 3000 })))).toEqual({ what: "no difference" });
    expect(besideFew(theirs(2700, { stated: "more than" }), one)).toEqual({ what: "no difference" });
    expect(besideFew(theirs(9000, { stated: "more than" }), one)).toMatchObject({ what: "theirs longer", could: ["ambient"] });
    const cut = made("c", { sec: 600, cause: "tester stopped" });
    expect(besideFew(theirs(2700), records(cut))).toEqual({ what: "ours had not ended" });
    expect(besideFew(theirs(2700), records(cut, made("d", { sec: 3000 })))).toMatchObject({ what: "theirs shorter", runId: "d" });
    const past = made("p", { sec: 3000, cause: "card full" });
    expect(besideFew(theirs(2700), records(past))).toMatchObject({ what: "theirs shorter", atLeast: true });
    // Longer than what heat ended, but shorter than what was cut: said of those that tell alone.
    const later = made("l", { sec: 2600, cause: "card full" });
    expect(fewWords(besideFew(theirs(2700), records(made("e", { sec: 2400 }), later)))).toMatch(
      /^Longer than any run of yours that tells: .* the longest lasted 0:40:00\./,
    );
  });
  it("of no time, or beside no run, is held against nothing", () => {
    for (const [figure, runs] of [
      [theirs(null, { stated: "no limit" }), one],
      [theirs(2700), []],
    ] as const)
      expect(besideFew(figure, runs)).toEqual({ what: "nothing to hold it against" });
  });
  it("and a rating without a limit tells what ended, with no share", () => {
    const none = theirs(null, { kind: "rated", stated: "no limit" });
    const runs = records(made("a", { sec: 2400 }), made("hot", { sec: 2400, ambientC: 35 }), made("b", { sec: 9000, cause: "card full" }));
    const c = checkRating(none, runs, ASKED, 2000);
    expect(c).toMatchObject({ verdict: "no limit stated", fellShort: ["a"], atLeast: null, atMost: null, provedBy: null });
    expect(ratingWords(c, 0.9)).toBe("The maker states no limit; one run ended by heat all the same, in surroundings like its own.");
    // No run at all is not a run without an end.
    expect(ratingWords(checkRating(none, [], ASKED, null), 0.9)).toBe("The maker states no limit. No run of yours counts here yet.");
    const lasted = records(made("b", { sec: 9000, cause: "card full" }));
    expect(ratingWords(checkRating(none, lasted, ASKED, null), 0.9)).toMatch(/no run of yours is known to have ended by heat/);
  });
});

describe("before and after", () => {
  it("is Welch's interval on the logs (R 4.2.2: t.test(log(b), log(a), conf.level = 0.9))", () => {
    const c = compareChange(timed([1602, 1716, 1722, 1932, 2010]), timed([1848, 2010, 2100, 2208, 2340]));
    if (!c.ok) throw new Error(c.reason);
    expect(c.ratio.mid).toBeCloseTo(1.16999289582, 9);
    // The library's quantile of Student's t at a fractional degree of freedom holds six digits.
    expect(c.ratio.lo).toBeCloseTo(1.05032721812, 6);
    expect(c.ratio.hi).toBeCloseTo(1.3032923004, 6);
    expect(c.verdict).toBe("longer");
    expect(changeWords(c)).toBe("Lasts longer: +17 %, 90 % interval +5 % to +31 %.");
  });
  it("says shorter, the same within a margin, and cannot tell yet", () => {
    expect(compareChange(timed([2100, 2150, 2200]), timed([1500, 1550, 1600]))).toMatchObject({ verdict: "shorter" });
    expect(compareChange(timed([2100, 2120, 2110, 2090]), timed([2105, 2115, 2100, 2120]))).toMatchObject({
      verdict: "same within the margin",
    });
    expect(compareChange(timed([2100, 2600, 1700]), timed([2300, 1800, 2700]))).toMatchObject({ verdict: "cannot tell yet" });
  });
  it("gives no verdict on two against two, and is the surer the more pairs are looked at together", () => {
    const [two, other] = [timed([2100, 2105]), timed([1500, 1505])];
    expect(compareChange(two, other)).toMatchObject({ ok: true, verdict: "cannot tell yet" });
    const width = (pairs: number): number => {
      const c = compareChange(timed([2100, 2150, 2200]), timed([1500, 1550, 1600]), pairs);
      return c.ok ? c.ratio.hi / c.ratio.lo : 0;
    };
    expect(width(6)).toBeGreaterThan(width(1));
    expect(compareChange(two, other, 5)).toMatchObject({ confidence: 0.98 });
  });
  it("resamples with censored runs and refuses one shutdown", () => {
    expect(compareChange(timed([2100, 2150, 2200, 2300], [1, 1, 1, 0]), timed([3000, 3100, 3200]))).toMatchObject({
      ok: true,
      by: "pivot",
      verdict: "longer",
    });
    expect(compareChange(timed([2100]), timed([1500, 1600]))).toEqual({
      ok: false,
      reason: "too-few-shutdowns",
      n: { before: 1, after: 2 },
    });
  });
});

describe("what next", () => {
  const SETTINGS = { ...ASKED, tauSec: 1800, tauFactor: 2 };
  const cell = (key: string, times: readonly number[], coolSec = 3600) => ({
    key,
    setup: { protocol: START.protocol },
    records: timed(times),
    coolSec,
  });
  const cells = [cell("few", [2000, 2200]), cell("many", [2000, 2100, 2200, 2050, 2150, 2250, 1990, 2080])];
  it("draws runs to come as the censored ones allow: about the fitted middle, and never past what cut them", () => {
    const other = cell("other", [1500, 1600, 1450, 1550]);
    const cut = { ...cell("cut", []), records: timed([2600, 2900, 2810, 3000, 3000, 3000], [1, 1, 1, 0, 0, 0]) };
    const ofCut = nextRuns([cut, other], SETTINGS, 3, 9).filter((n) => n.key === "cut");
    expect(ofCut.map((n) => n.runs).sort()).toEqual([1, 2, 3]);
    for (const n of ofCut) {
      expect(n.expectedSec).toBeLessThan(3000);
      // A run that is cut costs no more than what cut it, and the rest.
      expect(n.hours).toBeLessThanOrEqual((n.runs * (3000 + 3600)) / 3600 + 1e-9);
    }
  });
  it("prefers the cell where a run brings more, and counts the hours with the rest", () => {
    const next = nextRuns(cells, SETTINGS, 1, 9);
    const few = next.find((n) => n.key === "few" && n.runs === 1);
    expect(few?.hours).toBeCloseTo((Math.exp((Math.log(2000) + Math.log(2200)) / 2) + 3600) / 3600, 9);
    expect(next[0]?.key).toBe("few");
    expect(new Set(next.map((n) => n.key))).toEqual(new Set(["few", "many"]));
    expect(next.map((n) => n.gainPerHour)).toEqual([...next.map((n) => n.gainPerHour)].sort((a, b) => b - a));
    expect(nextRuns([cell("none", [])], SETTINGS)).toEqual([]);
  });
  it("tells how many runs a claim needs, none when it stands, and when it is out of reach", () => {
    expect(runsUntil(cells, 1, 1000, SETTINGS)).toEqual({ ok: true, more: 0 });
    const now = cellLimits(cells, SETTINGS).of(0);
    if (!now.ok) throw new Error(now.because);
    const until = runsUntil(cells, 0, now.lowerMs / 1000 + 20, SETTINGS);
    expect(until.ok && until.more).toBeGreaterThanOrEqual(1);
    expect(runsUntil(cells, 0, 9000, SETTINGS)).toEqual({ ok: false, reason: "beyond-reach" });
    expect(runsUntil([cell("none", [])], 0, 100, SETTINGS)).toEqual({ ok: false, reason: "no-shutdown" });
  });
});
