// @vitest-environment jsdom
// Grading by keys: none lost however fast, none given twice, each taken back.

import type { HoldPicture, Sharpness } from "@keep-rolling/core/holds";
import { act, cleanup, fireEvent, renderHook } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { letterOf, useGrading } from "./useGrading.ts";

interface Grade {
  picture: string;
  sharpness: Sharpness;
  factId: string;
  blind: boolean;
}
const store = vi.hoisted(() => ({ grades: [] as Grade[], undone: [] as string[], waits: [] as (() => void)[], slow: false }));
vi.mock("../../../record/sessions.ts", () => ({
  pressAll: async (_id: string, _clock: unknown, facts: readonly [string, { sharpness: Sharpness; blind: boolean }, string, string][]) => {
    if (store.slow) await new Promise<void>((done) => store.waits.push(done));
    for (const [, { sharpness, blind }, picture, factId] of facts) store.grades.push({ picture, sharpness, factId, blind });
  },
  undoFacts: (_id: string, _clock: unknown, ids: readonly string[]) => {
    store.undone.push(...ids);
    store.grades = store.grades.filter((g) => !ids.includes(g.factId));
    return Promise.resolve();
  },
}));

const pictures = (n: number): HoldPicture[] =>
  Array.from({ length: n }, (_, i) => ({
    id: `p${i}`,
    grades: new Map(store.grades.filter((g) => g.picture === `p${i}`).map((g) => ["KD", { ...g }])),
  })) as unknown as HoldPicture[];
const key = (k: string): void => act(() => void fireEvent.keyDown(document.body, { key: k }));
const settle = (): Promise<void> => act(async () => void (await new Promise((done) => setTimeout(done, 0))));
const grading = (n: number, blind = true) =>
  renderHook(() => useGrading({ id: "s", clock: undefined, judge: "KD", blind, pictures: pictures(n), perRow: 2 }));
const said = (): string => store.grades.map((g) => `${g.picture}${letterOf(g.sharpness)}`).join(" ");

beforeEach(() => {
  store.grades = [];
  store.undone = [];
  store.waits = [];
  store.slow = false;
});
afterEach(cleanup);

describe("grading", () => {
  it("takes every key in its turn while the device is still keeping the first", async () => {
    store.slow = true;
    const { result } = grading(4);
    for (const k of ["s", "d", "f", "g"]) key(k);
    expect(result.current.at).toBe(3);
    for (let i = 0; i < 4; i++) {
      await settle();
      store.waits.shift()?.();
    }
    await settle();
    expect(said()).toBe("p0S p1D p2F p3G");
    expect(store.grades.every((g) => g.blind)).toBe(true);
  });
  it("does not grade the last one again by a key too many", async () => {
    grading(2);
    for (const k of ["s", "s", "g", "g"]) key(k);
    await settle();
    expect(said()).toBe("p0S p1S");
  });
  it("goes to what is still open, also before where it stands, and begins there after a reload", async () => {
    const { result } = grading(3);
    key("ArrowRight");
    key("d");
    key("d");
    expect(result.current.at).toBe(0);
    await settle();
    cleanup();
    const again = grading(3);
    expect(again.result.current.at).toBe(0);
    key("g");
    await settle();
    expect(said()).toBe("p1D p2D p0G");
  });
  it("is taken back one by one, also what was given before the page was opened", async () => {
    grading(3);
    key("s");
    key("d");
    key("Backspace");
    await settle();
    expect(said()).toBe("p0S");
    cleanup();
    const { result } = grading(3);
    expect(result.current.canUndo).toBe(true);
    key("Backspace");
    await settle();
    expect(said()).toBe("");
    expect(store.undone).toHaveLength(2);
    expect(result.current.at).toBe(0);
  });
  it("gives a picture that is gone back to another grade, the last of which counts", async () => {
    const { result } = grading(3);
    key("s");
    key("s");
    key("ArrowUp");
    expect(result.current.at).toBe(0);
    key("g");
    await settle();
    expect(said()).toBe("p0S p1S p0G");
    expect(result.current.at).toBe(2);
  });
  it("no longer blind goes on from shot to shot, and never past the ends", async () => {
    const { result } = grading(2, false);
    key("ArrowLeft");
    expect(result.current.at).toBe(0);
    key("f");
    key("f");
    key("f");
    await settle();
    expect(result.current.at).toBe(1);
    expect(said()).toBe("p0F p1F p1F");
    expect(store.grades.some((g) => g.blind)).toBe(false);
  });
});
