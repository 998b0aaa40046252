import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { FINDING_CODES } from "./findings.ts";
import type { Finding } from "./findings.ts";
import type { Fix } from "./fixes.ts";
import { describeCorrection } from "./describe.ts";
import { fixesFor } from "./fixes.ts";
import { foldRun } from "./fold.ts";
import type { Mark } from "./mark.ts";
import { end, gap, mark, randomLog, start } from "./testing/marks.ts";

/** The mark a fix presses, made after everything else. */
const pressed = (fix: Fix, log: readonly Mark[]): Mark => {
  const atSec = Math.max(...log.map((m) => Math.max(m.madeAtMs, m.atMs))) / 1000 + 1;
  return fix.kind === "undo"
    ? mark("undo", atSec, {}, { target: fix.target })
    : mark("correction", atSec, fix.body, { target: fix.target, ...(fix.replaces === undefined ? {} : { replaces: fix.replaces }) });
};
const has = (log: readonly Mark[], f: Finding): boolean =>
  foldRun(log).findings.some((g) => g.code === f.code && g.markIds.join() === f.markIds.join());
const of = (log: readonly Mark[], code: Finding["code"]): { finding: Finding; fixes: Fix[] } => {
  const fold = foldRun(log);
  const finding = fold.findings.find((f) => f.code === code);
  if (finding === undefined) throw new Error(`no finding ${code}: ${fold.findings.map((f) => f.code).join()}`);
  return { finding, fixes: fixesFor(finding, fold, log) };
};

describe("fixes of findings", () => {
  it("settle what they are offered for, whatever the log", () => {
    const offered = new Set<string>();
    fc.assert(
      fc.property(randomLog, (log) => {
        const fold = foldRun(log);
        for (const finding of fold.findings) {
          for (const fix of fixesFor(finding, fold, log)) {
            offered.add(finding.code);
            expect({ code: finding.code, fix, stands: has([...log, pressed(fix, log)], finding) }).toMatchObject({ stands: false });
          }
        }
      }),
      { numRuns: 600 },
    );
    expect(offered.size).toBeGreaterThanOrEqual(10);
  });
  it("exist for everything but what must come from elsewhere", () => {
    const none = FINDING_CODES.filter((code) => fixesFor({ code, markIds: [] }, foldRun([]), []).length > 0);
    expect(none).toEqual([]);
    const log = [start(0), mark("reading", 5, {})];
    expect(of(log, "details-missing").fixes).toMatchObject([{ kind: "undo", target: log[1]?.id }]);
  });
  it("say which of two ends it was, either way", () => {
    const log = [start(0), end(100), { ...end(103, "battery empty"), deviceId: "d2" }];
    const { fixes } = of(log, "end-causes-differ");
    expect(fixes.map((f) => f.label)).toEqual(["It was: heat shutdown", "It was: battery empty"]);
    const [, second] = fixes;
    if (second === undefined) throw new Error("no second fix");
    expect(foldRun([...log, pressed(second, log)])).toMatchObject({ end: { cause: "battery empty" }, findings: [] });
  });
  it("keep one of two corrections", () => {
    const g = gap(50);
    const log = [
      start(0),
      g,
      mark("correction", 60, { cause: "battery swap" }, { target: g.id, deviceId: "d1" }),
      mark("correction", 61, { cause: "tester" }, { target: g.id, deviceId: "d2" }),
    ];
    const { fixes } = of(log, "corrections-disagree");
    expect(fixes.map((f) => f.label)).toEqual(["Keep: tester", "Keep: battery swap"]);
    const [, other] = fixes;
    if (other === undefined) throw new Error("no second fix");
    expect(foldRun([...log, pressed(other, log)])).toMatchObject({ gaps: [{ cause: "battery swap" }], findings: [] });
  });
  it("read a correction aloud", () => {
    const c = (body: object): string => describeCorrection(mark("correction", 1, body, { target: "x" }));
    expect(c({ atMs: 5, cause: "card full", becauseHot: true })).toBe("another time, card full, stopped because it was hot");
    expect(c({ gauge: 4, ambientC: 21 })).toBe("gauge 4, ambient 21.0 °C");
    expect(c({})).toBe("correction");
  });
});
