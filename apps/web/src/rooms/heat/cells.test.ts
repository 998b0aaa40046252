import { foldRun, heatTrace } from "@keep-rolling/core/runs";
import type { StartBody } from "@keep-rolling/core/runs";
import { describe, expect, it } from "vitest";
import type { SeenRun } from "../../record/runs.ts";
import { START } from "../../testing/kit.ts";
import { mark } from "../../testing/marks.ts";
import { heatCells } from "./cells.ts";

let serial = 0;
function run(id: string, sec: number, more: Partial<StartBody> = {}, struck: string | null = null): SeenRun {
  const atSec = ++serial * 10_000;
  const marks = [
    mark("start", atSec, { ...START, ...more }, { runId: id }),
    mark("end", atSec + sec, { cause: "thermal shutdown" }, { runId: id }),
  ];
  const fold = foldRun(marks);
  const row = {
    id,
    clockId: "real",
    clockKind: "real",
    provenance: "live",
    unitId: "u",
    modeId: START.mode.id,
    status: "ended",
    lastSeq: 2,
    startedMs: fold.startMs ?? 0,
    endedMs: null,
    recordedMs: null,
    endCause: null,
    struck,
  } as const;
  return { id, row, marks, fold, trace: heatTrace(fold), unmarked: [] };
}

const ASKED = { share: 0.9, confidence: 0.9 };

describe("cells of the heat page", () => {
  it("keeps firmware, condition and mode apart, modes in order", () => {
    const hot = { condition: { ...START.condition, id: "c2", name: "Sun", ambientC: 30 }, ambient: { ...START.ambient, valueC: 30 } };
    const cells = heatCells(
      [run("a", 2000), run("b", 1000, hot), run("c", 1500, { unit: { ...START.unit, firmware: "1.1" } })],
      undefined,
      "shutdown",
      ASKED,
    );
    expect(cells.map((c) => [c.setup.condition.name, c.setup.unit.firmware, c.rows.map((r) => r.run.id)])).toEqual([
      ["Room", "1.0", ["a"]],
      ["Room", "1.1", ["c"]],
      ["Sun", "1.0", ["b"]],
    ]);
  });
  it("shows what a left-out run would change", () => {
    const [cell] = heatCells(
      [run("a", 2000), run("b", 2100), run("warm", 900, { startState: { state: "warm", by: "probe" } }), run("out", 100, {}, "door open")],
      undefined,
      "shutdown",
      ASKED,
    );
    expect(cell?.reading.statement).toMatchObject({ ok: true, n: 2 });
    const rows = Object.fromEntries((cell?.rows ?? []).map((r) => [r.run.id, r]));
    expect(rows.a?.leftOut).toBeNull();
    expect(rows.warm).toMatchObject({ leftOut: "warm start", would: { ok: true, n: 3 } });
    expect(rows.out?.leftOut).toBe("struck out");
    const value = (id: string): number => (rows[id]?.would?.ok === true ? rows[id].would.valueMs : 0);
    expect(value("warm")).toBeLessThan(2_000_000);
  });
  it("takes the rated figure of the mode that is not archived", () => {
    const figure = {
      id: "f",
      modeId: START.mode.id,
      kind: "rated" as const,
      ambientC: 23,
      limitSec: 2700,
      conditions: "",
      source: "",
      archived: true,
      rev: 1,
    };
    const kit = {
      models: [],
      units: [],
      modes: [],
      figures: [figure, { ...figure, id: "g", archived: false }],
      conditions: [],
      protocols: [],
      items: [],
      plans: [],
      days: [],
    };
    expect(heatCells([run("a", 2000)], kit, "shutdown", ASKED)[0]?.rated?.id).toBe("g");
  });
});
