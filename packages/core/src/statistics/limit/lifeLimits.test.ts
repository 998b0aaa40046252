// The procedure against check cases computed on a finer grid, closed forms and brute force (source: each case names it), and its laws.

import { describe, expect, it } from "vitest";
import cases from "../../../fixtures/dependable-limit.json" with { type: "json" };
import { lifeLimits } from "./lifeLimits.ts";
import type { LimitCell, LimitRun } from "./runs.ts";

type CaseRun = { kind: string; t?: number; lo?: number; hi?: number; day: number };
const MIN = 60;
const runOf = ({ kind, t = 0, lo = 0, hi = 0, day }: CaseRun): LimitRun =>
  kind === "interval"
    ? { kind, loSec: lo * MIN, hiSec: hi * MIN, day: String(day) }
    : { kind: kind === "exact" ? "exact" : "censored", sec: t * MIN, day: String(day) };

describe("the check cases", () => {
  for (const c of cases.cases)
    it(c.id, () => {
      const { inputs, expected } = c;
      const cells = inputs.cells.map((cell): LimitCell => ({ key: cell.name, runs: (cell.runs as CaseRun[]).map(runOf) }));
      const { share, confidence } = inputs;
      const limits = lifeLimits(cells, { share, confidence, tauSec: inputs.tau * MIN, tauFactor: inputs.tauFactor });
      limits.forEach((limit, i) => {
        const bound = expected.bounds[i];
        if (bound == null) return expect(limit).toEqual({ ok: false, key: cells[i]?.key, reason: "no-shutdown" });
        if (!limit.ok) throw new Error(`${limit.key} has a bound`);
        expect(Math.abs(limit.boundSec / MIN / bound - 1)).toBeLessThan(0.001);
        expect(Math.abs(limit.scatter - (expected.scatter[i] ?? 0))).toBeLessThan(Math.max(0.002, 0.02 * limit.scatter));
        expect([limit.refusal === null, limit.scope]).toEqual([expected.claims[i], expected.type[i]]);
      });
    });
});
