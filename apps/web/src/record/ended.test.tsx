// @vitest-environment jsdom
// Pages about what has ended: which changes of a list they see.

import { renderHook } from "@testing-library/react";
import { foldRun, heatTrace } from "@keep-rolling/core/runs";
import type { Mark } from "@keep-rolling/core/runs";
import { describe, expect, it } from "vitest";
import { START } from "../testing/kit.ts";
import { mark } from "../testing/marks.ts";
import type { SeenRun } from "./runs.ts";
import { useEnded } from "./runs.ts";

const seen = (id: string, marks: readonly Mark[]): SeenRun => {
  const fold = foldRun(marks);
  return { id, row: null, marks, fold, trace: heatTrace(fold, [], []), unmarked: [] };
};
const ended = seen("ended", [mark("start", 0, START), mark("end", 900, { cause: "thermal shutdown" })]);
const begun = [mark("start", 0, START)];
const rolling = seen("rolling", begun);

describe("a list for what has ended", () => {
  it("stays while runs under way only get marks, and is new as soon as anything else happens", () => {
    const first: SeenRun[] = [ended, rolling];
    const { result, rerender } = renderHook(({ runs }) => useEnded(runs), { initialProps: { runs: first } });
    const noted = seen("rolling", [...begun, mark("note", 10, { text: "door closed" })]);
    rerender({ runs: [ended, noted] });
    expect(result.current).toBe(first);
    const over = [ended, seen("rolling", [...begun, mark("end", 20, { cause: "card full" })])];
    rerender({ runs: over });
    expect(result.current).toBe(over);
    const corrected = [seen("ended", [...ended.marks, mark("note", 1000, { text: "late" })]), over[1] as SeenRun];
    rerender({ runs: corrected });
    expect(result.current).toBe(corrected);
    const more = [...corrected, seen("another", begun)];
    rerender({ runs: more });
    expect(result.current).toBe(more);
    const corrigendum = mark("correction", 30, { startState: { state: "warm", by: "gauge", value: 4 } }, { target: begun[0]?.id });
    const set = [...corrected, seen("another", [...begun, corrigendum])];
    rerender({ runs: set });
    expect(result.current).toBe(set);
  });
});
