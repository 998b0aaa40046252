// The laws of a run's record, on random logs.

import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { clockAt } from "../time/index.ts";
import type { RunFold } from "./fold.ts";
import { foldRun } from "./fold.ts";
import type { Mark } from "./mark.ts";
import { ENDPOINTS, LENIENT_RULE, observe } from "./observe.ts";
import { summarise } from "./summarise.ts";
import { mark, randomLog, undo } from "./testing/marks.ts";

const RUNS = { numRuns: 400 };
const shape = ({ usedIds: _used, ...rest }: RunFold) => rest;
const law = (check: (log: Mark[], pick: number) => void): void =>
  void fc.assert(
    fc.property(randomLog, fc.nat(), (log, pick) => check(log, pick)),
    RUNS,
  );

describe("laws of the fold", () => {
  it("does not depend on order, repeats or batches", () => {
    fc.assert(
      fc.property(
        randomLog.chain((log) => fc.tuple(fc.constant(log), fc.shuffledSubarray([...log, ...log], { minLength: log.length * 2 }))),
        ([log, shuffled]) => {
          expect(foldRun(shuffled)).toEqual(foldRun(log));
        },
      ),
      RUNS,
    );
  });

  it("keeps segments and gaps disjoint, ordered and summing exactly to elapsed", () =>
    law((log) => {
      const fold = foldRun(log);
      const nowMs = 200_000;
      const times = summarise(fold, nowMs);
      const spans = [...fold.segments, ...fold.gaps].sort((a, b) => a.fromMs - b.fromMs);
      spans.forEach((s, i) => {
        const next = spans[i + 1];
        if (next !== undefined) expect(s.toMs).toBe(next.fromMs);
        if (s.toMs !== null) expect(s.toMs).toBeGreaterThan(s.fromMs);
      });
      expect(times.recordedMs.hi + times.gapMs).toBe(times.elapsedMs);
      expect(times.recordedMs.lo).toBeLessThanOrEqual(times.recordedMs.hi);
      expect(times.recordedMs.lo).toBeGreaterThanOrEqual(0);
    }));

  it("undoing a mark is the same as never having made it, when nothing names it", () =>
    law((log, pick) => {
      const free = log.filter((m) => m.kind !== "start" && !log.some((o) => o.target === m.id || o.replaces === m.id));
      const victim = free[pick % Math.max(1, free.length)];
      if (victim === undefined) return;
      const gone = shape(foldRun([...log, undo(victim)]));
      expect(gone).toEqual(shape(foldRun(log.filter((m) => m !== victim))));
    }));

  it("undo of undo is redo", () =>
    law((log, pick) => {
      const victim = log[pick % log.length];
      if (victim === undefined) return;
      const first = undo(victim);
      expect(shape(foldRun([...log, first, undo(first)]))).toEqual(shape(foldRun(log)));
    }));

  it("a correction and its undo restore the run; a correction of a correction reaches the root", () =>
    law((log, pick) => {
      const roots = log.filter((m) => m.kind !== "undo" && m.kind !== "correction");
      const root = roots[pick % roots.length];
      if (root === undefined) return;
      const first = mark("correction", 300, { atMs: 12_345 }, { target: root.id });
      expect(shape(foldRun([...log, first, undo(first)]))).toEqual(shape(foldRun(log)));
      const second = mark("correction", 301, { atMs: 23_456 }, { target: first.id, replaces: first.id });
      const moved = foldRun([...log, first, second]).effective.find((m) => m.id === root.id);
      if (moved !== undefined) expect(moved.atMs).toBe(23_456);
    }));

  it("shifting every time changes no duration", () =>
    law((log) => {
      const by = 86_400_000;
      const [a, b] = [foldRun(log), foldRun(log.map((m) => shifted(m, (ms) => ms + by)))];
      expect(summarise(b, 200_000 + by)).toEqual(summarise(a, 200_000));
      expect(b.findings).toEqual(a.findings);
    }));

  it("recorded time grows at rate 1 while rolling, stands in a gap, and never falls", () =>
    law((log) => {
      const fold = foldRun(log);
      const at = (ms: number) => summarise(fold, ms).recordedMs.hi;
      const grows = fold.state === "rolling" ? 1000 : 0;
      expect(at(301_000) - at(300_000)).toBe(grows);
      for (let ms = 0; ms < 120_000; ms += 9000) expect(at(ms + 9000)).toBeGreaterThanOrEqual(at(ms));
    }));

  it("uses every live mark or names it in a finding", () =>
    law((log) => {
      const fold = foldRun(log);
      const named = new Set(fold.findings.flatMap((f) => f.markIds));
      for (const m of fold.effective) expect(fold.usedIds.has(m.id) || named.has(m.id)).toBe(true);
    }));

  it("readings and notes never change recorded time", () =>
    law((log) => {
      const fold = foldRun([...log, mark("reading", 30, { gauge: 3 }), mark("note", 31, { text: "x" })]);
      expect(summarise(fold, 200_000)).toEqual(summarise(foldRun(log), 200_000));
    }));

  it("under any piecewise clock depends on clock time only", () => {
    const piece = fc.record({ step: fc.integer({ min: 1, max: 50_000 }), rate: fc.constantFrom(0.5, 1, 10, 60, 120) });
    fc.assert(
      fc.property(randomLog, fc.array(piece, { minLength: 1, maxLength: 4 }), (log, pieces) => {
        const segments = [{ wallMs: -10_000, clockMs: 5000, rate: 1 }];
        for (const p of pieces) {
          const wallMs = (segments.at(-1)?.wallMs ?? 0) + p.step;
          segments.push({ wallMs, clockMs: clockAt(segments, wallMs), rate: p.rate });
        }
        const mapped = log.map((m) => shifted(m, (ms) => clockAt(segments, ms)));
        const [a, b] = [foldRun(mapped), foldRun(log)];
        const spans = (f: RunFold) => f.gaps.map((g) => [g.fromMs, g.toMs]);
        expect(spans(a)).toEqual(spans(b).map(([x, y]) => [x, y].map((ms) => (ms == null ? null : clockAt(segments, ms)))));
      }),
      { numRuns: 150 },
    );
  });
});

describe("laws of observe", () => {
  it("a censored run never yields an event; a stricter rule never lengthens the time; lo <= hi", () =>
    law((log) => {
      const fold = foldRun(log);
      for (const endpoint of ENDPOINTS) {
        const strict = observe(fold, { poweredOff: "strict", bridgeBodyOnMs: 0 }, endpoint);
        const middle = observe(fold, { poweredOff: "strict", bridgeBodyOnMs: 20_000 }, endpoint);
        const lenient = observe(fold, LENIENT_RULE, endpoint);
        if (!strict.ok || !middle.ok || !lenient.ok) {
          expect([strict.ok, middle.ok, lenient.ok]).toEqual([false, false, false]);
          continue;
        }
        expect(strict.timeMs.lo).toBeLessThanOrEqual(middle.timeMs.lo);
        expect(middle.timeMs.hi).toBeLessThanOrEqual(lenient.timeMs.hi);
        for (const seen of [strict, middle, lenient]) {
          expect(seen.timeMs.lo).toBeLessThanOrEqual(seen.timeMs.hi);
          if (endpoint === "shutdown" && fold.end?.cause !== "thermal shutdown") expect(seen.event).toBe(0);
          if (endpoint === "batteryEmpty" && fold.end?.cause !== "battery empty") expect(seen.event).toBe(0);
          if (endpoint === "firstWarning" && fold.warnings.length === 0) expect(seen.event).toBe(0);
        }
      }
    }));
});

function shifted(m: Mark, by: (ms: number) => number): Mark {
  const body: Record<string, unknown> = { ...m.body };
  if (typeof body.atMs === "number") body.atMs = by(body.atMs);
  if (typeof body.lastSeenMs === "number") body.lastSeenMs = by(body.lastSeenMs);
  const found = body.foundOff as { lastSeenMs: number } | undefined;
  if (found !== undefined) body.foundOff = { lastSeenMs: by(found.lastSeenMs) };
  return { ...m, atMs: by(m.atMs), madeAtMs: by(m.madeAtMs), body } as Mark;
}
