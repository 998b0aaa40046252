// @vitest-environment jsdom
// A card of a test: what is pressed is shown, and kept at once, late or never.

import { act, renderHook } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { useInTurn } from "./useInTurn.ts";

/** A page that shows a list. A press is shown by `show`, and its act ends by `keep`: the first of those that wait for it. */
function card() {
  const list: string[] = [];
  const unseen: string[] = [];
  const unkept: (() => void)[] = [];
  /** By what the page had drawn when the act began, as a shot belongs to the time then set. */
  const pressed = (what: string, drawn: number) => (): Promise<void> => {
    unseen.push(`${what} after ${drawn}`);
    return new Promise((done) => unkept.push(done));
  };
  const hook = renderHook(
    ({ drawn }) => useInTurn({ kept: pressed("kept", drawn), lost: pressed("lost", drawn), undo: pressed("undo", drawn) }, drawn),
    { initialProps: { drawn: 0 } },
  );
  return {
    list,
    began: () => list.length + unseen.length,
    press: (key: "kept" | "lost" | "undo"): void => act(() => hook.result.current(key)),
    show: (): void => {
      list.push(...unseen.splice(0));
      hook.rerender({ drawn: list.length });
    },
    keep: (): Promise<void> =>
      act(async () => {
        unkept.shift()?.();
        await Promise.resolve();
      }),
  };
}

describe("presses in turn", () => {
  it("begin at once where nothing waits", async () => {
    const c = card();
    c.press("kept");
    c.show();
    await c.keep();
    c.press("kept");
    c.show();
    expect(c.list).toEqual(["kept after 0", "kept after 1"]);
  });
  it("wait until the one before is shown, all of them and in order", () => {
    const c = card();
    for (const key of ["kept", "lost", "undo"] as const) c.press(key);
    expect(c.began()).toBe(1);
    for (let i = 0; i < 3; i++) c.show();
    expect(c.list).toEqual(["kept after 0", "lost after 1", "undo after 2"]);
  });
  it("are one where the same is pressed again before it is shown", () => {
    const c = card();
    for (const key of ["kept", "kept", "kept"] as const) c.press(key);
    c.show();
    c.show();
    expect(c.list).toEqual(["kept after 0"]);
  });
  it("are two where the first is shown and only slow to be kept", async () => {
    const c = card();
    c.press("kept");
    c.show();
    c.press("kept");
    c.show();
    expect(c.list).toEqual(["kept after 0", "kept after 1"]);
    // The first is kept at last: that is nobody's turn any more.
    c.press("lost");
    c.press("undo");
    await c.keep();
    expect(c.began()).toBe(3);
    c.show();
    c.show();
    expect(c.list.slice(2)).toEqual(["lost after 2", "undo after 3"]);
  });
  it("go on after one that had nothing to do", async () => {
    const c = card();
    c.press("undo");
    c.press("kept");
    await c.keep();
    expect(c.began()).toBe(2);
  });
});
