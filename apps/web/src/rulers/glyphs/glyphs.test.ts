// Glyphs as shapes: the strip and its legend draw the same ones, and two drawings on a page never share a pattern.

import { foldRun, heatTrace } from "@keep-rolling/core/runs";
import type { Endpoint } from "@keep-rolling/core/runs";
import { createElement } from "react";
import type { ReactElement } from "react";
import { renderToStaticMarkup } from "react-dom/server";
import { describe, expect, it } from "vitest";
import { mark } from "../../testing/marks.ts";
import { Legend } from "../strips/Legend.tsx";
import { Strip } from "../strips/Strip.tsx";
import { Hatch } from "./Hatch.tsx";
import { piecesOf } from "./Shade.tsx";

const draw = (element: ReactElement): string => renderToStaticMarkup(createElement("svg", null, element));
const SOLID = /h4l9 [\d.]+-9 [\d.]+h-4z/;
const CHEVRONS = /M[\d.]+ [\d.]+l([\d.]+) ([\d.]+)-\1 \2M[\d.]+ [\d.]+l\1 \2-\1 \2/;

const RULE = { mode: { clipLimitSec: null }, protocol: { continuity: { poweredOff: "strict", bridgeBodyOnMs: 20_000 } } };

function endOf(cause: string, endpoint: Endpoint | null): "solid" | "at least" | "both or none" {
  const fold = foldRun([mark("start", 0, RULE), mark("end", 600, { cause })]);
  const strip = createElement(Strip, {
    fold,
    trace: heatTrace(fold),
    nowMs: 600_000,
    x: (ms: number) => ms / 1000,
    y: 8,
    height: 20,
    endpoint,
  });
  const svg = draw(strip);
  return SOLID.test(svg) === CHEVRONS.test(svg) ? "both or none" : SOLID.test(svg) ? "solid" : "at least";
}

describe("the glyph of an end", () => {
  it("is solid where the run did what was asked about, chevrons where it lasted at least this long", () => {
    expect(endOf("thermal shutdown", null)).toBe("solid");
    expect(endOf("battery empty", null)).toBe("at least");
    expect(endOf("battery empty", "batteryEmpty")).toBe("solid");
    expect(endOf("thermal shutdown", "batteryEmpty")).toBe("at least");
  });
  it("is the same in the legend", () => {
    const legend = draw(createElement(Legend, { witnesses: ["gauge"] }));
    expect(legend).toMatch(SOLID);
    expect(legend).toMatch(CHEVRONS);
  });
});

describe("hatching", () => {
  it("has a pattern of its own in every drawing", () => {
    const hatch = { x: 0, y: 0, width: 10, height: 10, kind: "expected" } as const;
    const svg = draw(createElement("g", null, createElement(Hatch, hatch), createElement(Hatch, hatch)));
    const ids = [...svg.matchAll(/<pattern id="([\w-]+)"/g)].map((m) => m[1]);
    expect(new Set(ids).size).toBe(2);
    expect([...svg.matchAll(/url\(#([\w-]+)\)/g)].map((m) => m[1])).toEqual(ids);
  });
});

describe("pieces of a course of heat", () => {
  it("touch, cover the whole, and take the level of their middle", () => {
    const pieces = piecesOf(10, 50, 4, (ms) => ms / 100);
    expect(pieces.map((p) => [p.fromMs, p.toMs])).toEqual([
      [10, 20],
      [20, 30],
      [30, 40],
      [40, 50],
    ]);
    expect(pieces.map((p) => p.level)).toEqual([0.15, 0.25, 0.35, 0.45]);
  });
});
