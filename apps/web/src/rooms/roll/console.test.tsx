// @vitest-environment jsdom
// What a tick of the clock draws: the big time, and nothing that did not change.

import { act, cleanup, render, screen } from "@testing-library/react";
import { foldRun, heatTrace } from "@keep-rolling/core/runs";
import type { Mark } from "@keep-rolling/core/runs";
import { Provider } from "react-redux";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { createStore } from "../../app/store.ts";
import type { SeenRun } from "../../record/runs.ts";
import { standInBrowser } from "../../testing/dom.ts";
import { Photo } from "../../shared/photos/Photo.tsx";
import { START } from "../../testing/kit.ts";
import { mark } from "../../testing/marks.ts";
import { BigTime } from "./BigTime.tsx";
import { MarkLog } from "./MarkLog.tsx";

// Drawn once a row: it tells how often the log was.
vi.mock("../../shared/photos/Photo.tsx", () => ({ Photo: vi.fn(() => null) }));

beforeEach(() => {
  standInBrowser();
  vi.useFakeTimers({ now: 1_000_000 });
});
afterEach(() => {
  cleanup();
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

const CLOCK = { id: "real", kind: "real" as const, wantedRate: 1, segments: [] };
const runOf = (n: number): SeenRun => {
  const marks: Mark[] = [mark("start", 1000, START), ...Array.from({ length: n }, (_, i) => mark("note", 1000 + i, { text: `note ${i}` }))];
  const fold = foldRun(marks);
  return { id: "r", row: null, marks, fold, trace: heatTrace(fold), unmarked: [] };
};

describe("a tick of the console", () => {
  it("moves the big time and leaves the log of four hundred marks alone", async () => {
    const run = runOf(400);
    const nothing = (): void => undefined;
    const last = { id: null, canRedo: false, undo: nothing, redo: nothing, earlier: nothing, typeTime: nothing };
    const Both = () => (
      <Provider store={store}>
        <BigTime fold={run.fold} clock={CLOCK} />
        <MarkLog run={run} openId={null} last={last} onOpen={nothing} />
      </Provider>
    );
    const store = createStore();
    const { rerender } = render(<Both />);
    const before = Number(screen.getByTestId("recorded").dataset.ms);
    const rows = vi.mocked(Photo).mock.calls.length;
    await act(() => vi.advanceTimersByTime(5000));
    rerender(<Both />);
    expect(Number(screen.getByTestId("recorded").dataset.ms)).toBe(before + 5000);
    expect(vi.mocked(Photo).mock.calls).toHaveLength(rows);
    expect(screen.getAllByRole("listitem")).toHaveLength(401);
  });
});
