// @vitest-environment jsdom
import { act, renderHook } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { useInTurn } from "./useInTurn.ts";

/** A page that keeps a list; each act takes until it is let go. */
function page() {
  const done: string[] = [];
  let letGo: (() => void)[] = [];
  const kept = (what: string) => (): Promise<void> =>
    new Promise((go) => {
      letGo.push(() => {
        done.push(`${what} ${done.length + 1}`);
        go();
      });
    });
  const hook = renderHook(() => useInTurn({ kept: kept("kept"), lost: kept("lost"), undo: kept("undo") }));
  const press = (key: "kept" | "lost" | "undo"): void => act(() => hook.result.current(key));
  const keep = (): Promise<void> =>
    act(async () => {
      const now = letGo;
      letGo = [];
      for (const go of now) go();
      await Promise.resolve();
    });
  return { done, press, keep, underWay: () => letGo.length };
}

describe("acts in turn", () => {
  it("begin at once where nothing else is being kept", async () => {
    const p = page();
    p.press("kept");
    expect(p.underWay()).toBe(1);
    await p.keep();
    p.press("lost");
    await p.keep();
    expect(p.done).toEqual(["kept 1", "lost 2"]);
  });
  it("wait for the one before, and are not lost", async () => {
    const p = page();
    p.press("lost");
    p.press("undo");
    expect(p.underWay()).toBe(1);
    await p.keep();
    expect(p.underWay()).toBe(1);
    await p.keep();
    expect(p.done).toEqual(["lost 1", "undo 2"]);
  });
  it("are done once where one key is pressed twice, and the last of several others counts", async () => {
    const p = page();
    for (const key of ["kept", "kept", "lost", "undo"] as const) p.press(key);
    for (let i = 0; i < 4; i++) await p.keep();
    expect(p.done).toEqual(["kept 1", "undo 2"]);
  });
});
