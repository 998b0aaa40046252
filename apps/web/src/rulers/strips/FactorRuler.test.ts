// The factor ruler and the hollow marks, as shapes: where things lie, and that words never meet.

import { createElement } from "react";
import { renderToStaticMarkup } from "react-dom/server";
import { describe, expect, it } from "vitest";
import type { FactorRow } from "./FactorRuler.tsx";
import { FactorRuler } from "./FactorRuler.tsx";
import { Legend } from "./Legend.tsx";
import { OutsideMark } from "../glyphs/FigureMarks.tsx";
import { outsideWords } from "../glyphs/words.ts";

const row = (key: string, lo: number, mid: number, hi: number, from?: number): FactorRow => ({
  key,
  label: key,
  lo,
  mid,
  hi,
  ...(from === undefined ? {} : { from }),
});
const draw = (rows: readonly FactorRow[], width = 700): string =>
  renderToStaticMarkup(createElement(FactorRuler, { rows, width, label: "factors" }));
const middles = (svg: string): number[] => [...svg.matchAll(/<circle cx="([\d.]+)"/g)].map((m) => Number(m[1]));
const ticks = (svg: string): { x: number; words: string }[] =>
  [...svg.matchAll(/<text x="([\d.]+)"[^>]*text-anchor="middle"[^>]*>([^<]+)<\/text>/g)].map((m) => ({
    x: Number(m[1]),
    words: m[2] ?? "",
  }));
const noChange = (svg: string): number => Number(/<path d="M([\d.]+) 16V/.exec(svg)?.[1]);

describe("the factor ruler", () => {
  const rows = [row("sun", 0.65, 0.76, 0.88), row("fan", 1.1, 1.2, 1.35), row("pauses", 0.9, 1, 1.1)];
  it("puts costs left of no change, gains right of it, and no change on it", () => {
    const svg = draw(rows);
    const [sun, fan, pauses] = middles(svg);
    expect(sun).toBeLessThan(noChange(svg));
    expect(fan).toBeGreaterThan(noChange(svg));
    expect(pauses).toBeCloseTo(noChange(svg), 6);
  });
  it("is a log scale: halving lies as far from no change as doubling", () => {
    const svg = draw([row("half", 0.5, 0.5, 0.5), row("double", 2, 2, 2)]);
    const [half, double] = middles(svg);
    expect(noChange(svg) - (half ?? 0)).toBeCloseTo((double ?? 0) - noChange(svg), 4);
  });
  it.each([320, 460, 700, 1200])("has ticks whose words do not meet, no change among them, at %i px", (width) => {
    const all = ticks(draw(rows, width)).sort((a, b) => a.x - b.x);
    expect(all.map((t) => t.words)).toContain("same");
    all.slice(1).forEach((t, i) => expect(t.x - (all[i]?.x ?? 0)).toBeGreaterThanOrEqual(54));
    for (const t of all) expect(t.words).toMatch(/^(same|[−+]\d+ %)$/);
  });
  it("draws an interval only where there is one", () => {
    const svg = draw([row("known", 0.7, 0.8, 0.9), row("rest", 1.3, 1.3, 1.3)]);
    // Whiskers: two short strokes and a line between.
    expect(svg.match(/v10M/g)).toHaveLength(1);
  });
  it("lets each step of a waterfall begin where the one before ended", () => {
    const svg = draw([row("codec", 1.4, 1.4, 1.4, 1), row("ambient", 0.8, 0.8, 0.8, 1.4), row("unexplained", 0.9, 0.9, 0.9, 1.12)]);
    const bars = [...svg.matchAll(/<path d="M([\d.]+) ([\d.]+)H([\d.]+)" style="stroke:var\(--rule2\)" stroke-width="11"/g)].map((m) => [
      Number(m[1]),
      Number(m[3]),
    ]);
    expect(bars).toHaveLength(3);
    expect(bars[1]?.[0]).toBeCloseTo(bars[0]?.[1] ?? 0, 6);
    expect(bars[2]?.[0]).toBeCloseTo(bars[1]?.[1] ?? 0, 6);
  });
  it("stays on the page whatever it is given", () => {
    const svg = draw([row("wild", 1e-6, 3, 1e6), row("none", 0, 0.5, Number.POSITIVE_INFINITY)]);
    expect(svg).not.toMatch(/NaN|Infinity/);
    for (const x of middles(svg)) {
      expect(x).toBeGreaterThanOrEqual(0);
      expect(x).toBeLessThanOrEqual(700);
    }
    expect(draw([])).not.toMatch(/NaN|Infinity/);
  });
  it("is one picture with a name to a screen reader", () => {
    expect(draw(rows)).toMatch(/^<svg[^>]*role="img" aria-label="factors"/);
  });
});

describe("another tester's time on the minutes ruler", () => {
  it("is hollow, and says whose it is, how long and how warm", () => {
    const words = outsideWords({ limitSec: 1140, ambientC: 27 }, "C");
    expect(words).toBe("another tester's 0:19 at 27.0 °C");
    expect(outsideWords({ limitSec: 1140, ambientC: 27 }, "F")).toBe("another tester's 0:19 at 80.6 °F");
    expect(outsideWords({ limitSec: 1140, ambientC: null }, "C")).toBe("another tester's 0:19");
    const svg = renderToStaticMarkup(createElement("svg", null, createElement(OutsideMark, { at: 40, y: 8, words })));
    expect(svg).toContain("fill:var(--ground)");
    expect(svg).toContain("<title>another tester&#x27;s 0:19 at 27.0 °C</title>");
  });
  it("is in the legend only where there is one", () => {
    const legend = (outside: boolean): string => renderToStaticMarkup(createElement(Legend, { witnesses: ["gauge"], outside }));
    expect(legend(true)).toContain("another tester");
    expect(legend(false)).not.toContain("another tester");
  });
});
