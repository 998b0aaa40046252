// Every question of the room for every cell of the demo's three bodies, drawn as a page would be: an answer each time, never a figure that is none,
// and each answer with what it stands on.

import type { FullCell, UnitReport } from "@keep-rolling/core/reading";
import { readUnit } from "@keep-rolling/core/reading";
import { DEFAULT_LEVELS } from "@keep-rolling/core/cells";
import type { Endpoint } from "@keep-rolling/core/runs";
import { foldRun, heatTrace } from "@keep-rolling/core/runs";
import { modeKey } from "@keep-rolling/core/kit";
import { demoRuns, PLOVER, scenarioKit, TERN, WADER } from "@keep-rolling/demo";
import { configureStore } from "@reduxjs/toolkit";
import type { ReactNode } from "react";
import { createElement } from "react";
import { renderToStaticMarkup } from "react-dom/server";
import { Provider } from "react-redux";
import { createMemoryRouter, RouterProvider } from "react-router";
import { describe, expect, it } from "vitest";
import { api } from "../../shared/api/api.ts";
import type { SeenRun } from "../../record/runs.ts";
import { settingsReducer } from "../../shared/settings/settings.ts";
import type { HeatCell } from "./cells.ts";
import { heatCells } from "./cells.ts";
import type { Answerable } from "./questions/ask.ts";
import { Changed } from "./questions/Changed.tsx";
import { First } from "./questions/First.tsx";
import { CellStrips } from "./CellStrips.tsx";
import { Lasts } from "./questions/Lasts.tsx";
import { Levelled } from "./questions/Levelled.tsx";
import { Rating } from "./questions/Rating.tsx";
import { Recovering } from "./questions/Recovering.tsx";
import { Temperature } from "./questions/Temperature.tsx";
import { Warned } from "./questions/Warned.tsx";
import { Why } from "./questions/Why.tsx";

const kit = Object.fromEntries(
  Object.entries(scenarioKit).map(([entity, rows]) => [entity, rows.map((r) => ({ ...r, rev: 1 }))]),
) as unknown as Parameters<typeof heatCells>[1];

const SEEN: SeenRun[] = demoRuns().map(({ runId, marks }) => {
  const fold = foldRun(marks);
  const row = {
    id: runId,
    clockId: "demo",
    clockKind: "demo",
    provenance: "live",
    unitId: fold.setup?.unit.id ?? "",
    modeId: fold.setup?.mode.id ?? "",
    status: fold.state === "ended" ? "ended" : "rolling",
    lastSeq: marks.length,
    startedMs: fold.startMs ?? 0,
    struck: null,
  } as unknown as SeenRun["row"];
  return { id: runId, row, marks, fold, trace: heatTrace(fold), unmarked: [] };
});

const store = configureStore({
  reducer: { [api.reducerPath]: api.reducer, settings: settingsReducer },
  middleware: (get) => get({ serializableCheck: false, immutableCheck: false }).concat(api.middleware),
});
/** The words of the page, tags gone. */
const markupOf = (node: ReactNode): string =>
  renderToStaticMarkup(
    createElement(Provider, {
      store,
      children: createElement(RouterProvider, { router: createMemoryRouter([{ path: "*", element: node }]) }),
    }),
  );
function drawn(node: ReactNode): string {
  return markupOf(node)
    .replace(/<[^>]+>/g, " ")
    .replace(/&#x27;/g, "'")
    .replace(/\s+/g, " ");
}

function read(unitId: string, endpoint: Endpoint = "shutdown"): { runs: SeenRun[]; cells: HeatCell[]; report: UnitReport } {
  const runs = SEEN.filter((r) => r.fold.setup?.unit.id === unitId);
  const candidates = runs.map((r) => ({ runId: r.id, fold: r.fold, struck: null }));
  const cardSec = Object.fromEntries(runs.flatMap((r) => (r.fold.setup === null ? [] : [[modeKey(r.fold.setup.mode), 9000]])));
  const report = readUnit({ candidates, endpoint, levels: DEFAULT_LEVELS, tauMin: 30, figures: scenarioKit.figures, cardSec, zone: "UTC" });
  return { runs, cells: heatCells(runs, kit, endpoint, DEFAULT_LEVELS), report };
}

function given(unit: ReturnType<typeof read>, cell: HeatCell, endpoint: Endpoint = "shutdown"): Answerable {
  const full = unit.report.cells.find((c) => c.key === cell.key) as FullCell;
  const { runs, report } = unit;
  return { cell, full, report, runs, endpoint, levels: DEFAULT_LEVELS };
}

const ASKED = { Lasts, Why, Temperature, Levelled, Recovering, Warned, Rating, First, Changed } as const;
/** What no reader should ever meet. */
const NONSENSE = /\bNaN\b|undefined|\bInfinity\b|\[object|\bnull\b/;

describe.each([
  ["Plover B", PLOVER],
  ["Tern A", TERN],
  ["Wader", WADER],
])("the room for %s", (_name, unitId) => {
  const unit = read(unitId);
  it("has its cells in the report and on the page alike", () => {
    expect(new Set(unit.report.cells.map((c) => c.key))).toEqual(new Set(unit.cells.map((c) => c.key)));
    expect(unit.cells.length).toBeGreaterThan(2);
  });
  it.each(Object.entries(ASKED))("%s is answered for every cell, without a figure that is none", (_question, Question) => {
    for (const cell of unit.cells) {
      const words = drawn(createElement(Question as (a: Answerable) => ReactNode, given(unit, cell)));
      expect(words, `${cell.setup.mode.name}, ${cell.setup.condition.name}`).not.toMatch(NONSENSE);
      expect(words.length).toBeGreaterThan(40);
    }
  });
  it("lasts is answered before the worker is, by what needs no fit", () => {
    for (const cell of unit.cells) {
      const node = createElement(Lasts, { ...given(unit, cell), full: null });
      const words = drawn(node);
      expect(words).not.toMatch(NONSENSE);
      expect(words).toMatch(/at least \d+:\d\d:\d\d|No run counts here yet/);
      // What is not computed yet is no "none", and cannot be recorded.
      expect(words).not.toMatch(/none yet|Typical less 20 % none/);
      if (!cell.reading.statement.ok) continue;
      expect(words).toMatch(/Dependable limit.*being computed/);
      expect(markupOf(node)).toMatch(/<button[^>]* disabled=""[^>]*>Record this limit/);
      expect(words).toContain("Record the shortest run");
      const failed = drawn(createElement(Lasts, { ...given(unit, cell), full: null, failed: true }));
      expect(failed).toMatch(/Dependable limit.*not computed/);
      expect(failed).not.toContain("Record this limit");
    }
  });
  it.each(["firstWarning", "batteryEmpty"] as const)("answers for the %s too", (endpoint) => {
    const other = read(unitId, endpoint);
    for (const cell of other.cells) expect(drawn(createElement(Lasts, given(other, cell, endpoint)))).not.toMatch(NONSENSE);
  });
});

describe("the strips", () => {
  /** A cold run of the demo with no warning on record: watched, or typed in afterwards. */
  const silent = (source: "key" | "late"): SeenRun => {
    const [one] = SEEN.filter((r) => r.fold.end?.cause === "thermal shutdown" && r.fold.setup?.startState.state === "cold");
    if (one === undefined) throw new Error("no cold shutdown in the demo");
    const marks = one.marks
      .filter((m) => m.kind === "start" || m.kind === "end")
      .map((m) => ({ ...m, source }) as (typeof one.marks)[number]);
    const fold = foldRun(marks);
    return { ...one, marks, fold, trace: heatTrace(fold) };
  };
  const strips = (run: SeenRun, endpoint: Endpoint): string => {
    const cells = heatCells([run], kit, endpoint, DEFAULT_LEVELS);
    return drawn(
      createElement(CellStrips, { cells, endpoint, bounds: new Map(), chosenKey: cells[0]?.key ?? "", onChoose: () => undefined }),
    );
  };
  it("never say 'at least' of a warning of which nobody recorded whether it came", () => {
    expect(strips(silent("key"), "firstWarning")).toMatch(/≥ \d:\d\d:\d\d/);
    expect(strips(silent("late"), "firstWarning")).not.toContain("≥");
    expect(strips(silent("late"), "firstWarning")).toContain("not recorded");
    expect(strips(silent("late"), "shutdown")).not.toContain("not recorded");
  });
});

describe("what stands beside the answer", () => {
  const plover = read(PLOVER);
  const cellNamed = (mode: string, condition: string, firmware = "2.1"): HeatCell => {
    const cell = plover.cells.find(
      (c) => c.setup.mode.name === mode && c.setup.condition.name === condition && c.setup.unit.firmware === firmware,
    );
    if (cell === undefined) throw new Error(`no cell ${mode}, ${condition}`);
    return cell;
  };
  const say = (Question: (a: Answerable) => ReactNode, cell: HeatCell): string => drawn(createElement(Question, given(plover, cell)));
  const HOT = "UHD 50 oversampled";

  it("is always the distribution-free statement, and of which days the limit speaks", () => {
    const words = say(Lasts as (a: Answerable) => ReactNode, cellNamed(HOT, "Pontoon, direct sun"));
    expect(words).toMatch(/3 runs, the shortest 0:1\d:\d\d: at least 46 % of runs last longer, 90 % sure/);
    expect(words).toMatch(
      /9 of 10 runs will last at least 0:1\d:\d\d on days like 12 June 2031; 90 % sure from these 3 runs and how the unit's \d+ runs scatter/,
    );
    expect(words).toContain("It speaks of days like those tested: runs on 2 more days and it speaks for new days.");
    expect(words).toMatch(/Open the number: runs and method/);
  });
  it("is what is missing, where a bound is low or there is none", () => {
    expect(say(Lasts as (a: Answerable) => ReactNode, cellNamed(HOT, "Boathouse, early morning"))).toContain("No dependable limit yet.");
    expect(say(Lasts as (a: Answerable) => ReactNode, cellNamed(HOT, "Boathouse"))).toMatch(/What would help: .*some were paused/);
  });
  it("is the price of each cause once, and what came together", () => {
    const words = say(Why, cellNamed(HOT, "Boathouse"));
    expect(words.match(/Direct sun, together with a breeze, costs \d+ %/g)).toHaveLength(1);
    expect(words).toContain("One run with only one of them would separate them.");
    expect(words).toContain("Open the causes: runs and method");
  });
  it("is a zero after a shutdown, told as a result", () => {
    expect(say(Recovering, cellNamed(HOT, "Boathouse, hot afternoon"))).toMatch(
      /Zero after 3 min 0 s: the body refused the same mode\. A result, and part of the fit\./,
    );
  });
  it("is the reason where a question cannot be answered", () => {
    const none = say(Recovering, cellNamed(HOT, "Boathouse", "2.0"));
    expect(none).toMatch(/No recovery run yet|of rest give back/);
    expect(say(Temperature, cellNamed(HOT, "Pontoon, direct sun"))).toContain(
      "Physics needs shutdowns in two rooms at least three degrees apart",
    );
    expect(say(Levelled, cellNamed(HOT, "Boathouse"))).toContain("every counted run here ended by heat; nothing to level off.");
  });
  it("is what an outside figure leaves unsaid", () => {
    const words = say(Rating, cellNamed(HOT, "Boathouse"));
    expect(words).toContain("Theirs: 0:19:00 at 27.0 °C.");
    expect(words).toMatch(/Not said[:,]/);
    expect(words).toMatch(/cannot speak about it/);
  });
});
