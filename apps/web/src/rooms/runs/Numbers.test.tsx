// @vitest-environment jsdom
// What a run's page says of what nobody recorded: it is not said to be none, nor to be known.

import type { EndCause, Mark } from "@keep-rolling/core/runs";
import { foldRun, heatTrace } from "@keep-rolling/core/runs";
import { practiceStart } from "@keep-rolling/demo";
import { cleanup, screen } from "@testing-library/react";
import { afterEach, describe, expect, it } from "vitest";
import type { SeenRun } from "../../record/runs.ts";
import { showPage } from "../../testing/page.tsx";
import { Numbers } from "./Numbers.tsx";

const mark = (kind: string, deviceSeq: number, atMs: number, body: object, source: Mark["source"]): Mark =>
  ({
    id: `m${deviceSeq}`,
    runId: "r",
    deviceId: "d",
    deviceSeq,
    kind,
    v: 1,
    atMs,
    madeAtMs: atMs,
    source,
    deviceMs: atMs,
    body,
  }) as unknown as Mark;

function show(source: Mark["source"], cause: EndCause, unmarked: SeenRun["unmarked"] = []): void {
  const marks = [mark("start", 1, 0, practiceStart(), source), mark("end", 2, 2_640_000, { cause }, source)];
  const fold = foldRun(marks);
  const run: SeenRun = { id: "r", fold, row: null, marks, trace: heatTrace(fold, []), unmarked };
  showPage({ "/": <Numbers run={run} nowMs={2_640_000} /> }, "/", {});
}
/** Value and note of a number, by its name. */
const said = (name: string): string => screen.getByText(name).parentElement?.textContent ?? "";
afterEach(cleanup);

describe("the numbers of a run", () => {
  it("of one that was watched: no gap and no warning are none", () => {
    show("pressed", "thermal shutdown");
    expect(said("gaps")).toMatch(/none$/);
    expect(said("first warning")).toMatch(/none$/);
    expect(said("counts as")).toContain("it ended by heat, so this is its time");
  });
  it("of one whose camera told a warning that nobody marked: not that there was none", () => {
    show("pressed", "thermal shutdown", [{ eventId: "e", atMs: 2_400_000, phase: "shown", minutesLeft: null }]);
    expect(said("first warning")).toContain("none marked; the camera told of one");
    expect(said("gaps")).toMatch(/none$/);
  });
  it("of one entered late: none was recorded", () => {
    show("late", "card full");
    expect(said("gaps")).toMatch(/none recorded$/);
    expect(said("first warning")).toMatch(/none recorded$/);
    expect(said("counts as")).toContain("it did not end by heat, so the heat limit lies beyond");
  });
  it("of one whose end nobody said: not that heat did not end it", () => {
    show("late", "unknown");
    expect(said("ended by")).toContain("cause not said");
    expect(said("counts as")).toContain("nobody said that it was not heat");
    expect(said("counts as")).not.toContain("did not end by heat");
  });
});
