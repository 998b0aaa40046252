// @vitest-environment jsdom
// Rows and what is said of them change together, once: neither before all is read, nor while it is compared anew.

import type { MoveComparison, SetupRow, WalkPlan } from "@keep-rolling/core/walks";
import { act, cleanup, renderHook } from "@testing-library/react";
import { afterEach, expect, it, vi } from "vitest";
import { useCompared } from "./useCompared.ts";
import type { Numbers } from "./useWalk.ts";

const asked = vi.hoisted(() => [] as { done: (comparison: unknown) => void; fail: () => void }[]);
vi.mock("../../workers/pool.ts", () => ({
  isAbandoned: () => false,
  pool: { call: () => new Promise((done, fail) => asked.push({ done, fail: () => fail(new Error("it broke")) })) },
}));
afterEach(() => {
  cleanup();
  asked.length = 0;
});

const rowsOf = (...names: string[]): SetupRow[] => names.map((name) => ({ setup: { name } }) as unknown as SetupRow);
const said = (of: string): MoveComparison => ({ of }) as unknown as MoveComparison;

/** A page whose `rows` and `numbers` are set anew by `show`; `seen`: what stands on it. */
function page(reading = false) {
  const initialProps: { of: string; rows: SetupRow[]; numbers: Partial<Numbers> } = {
    of: "walk",
    rows: rowsOf("a", "b"),
    numbers: { reading },
  };
  const hook = renderHook(
    ({ of, rows, numbers }) =>
      useCompared(of, {} as WalkPlan, rows, { rows: [], reads: new Map(), reading: false, trouble: null, ...numbers }),
    { initialProps },
  );
  const seen = (): string => {
    const now = hook.result.current;
    return now === null ? "nothing" : `${now.rows.map((r) => r.setup.name).join("")} ${JSON.stringify(now.comparison)}`;
  };
  return { seen, show: (rows: SetupRow[], numbers: Partial<Numbers> = {}, of = "walk"): void => hook.rerender({ of, rows, numbers }) };
}
const answer = (with_: unknown): Promise<void> => act(async () => asked.at(-1)?.done(with_));

it("shows nothing until all is read and compared", async () => {
  const p = page(true);
  await answer(said("half"));
  expect(p.seen()).toBe("nothing");
  p.show(rowsOf("a", "b", "c"));
  expect(p.seen()).toBe("nothing");
  await answer(said("whole"));
  expect(p.seen()).toBe('abc {"of":"whole"}');
});
it("keeps what stood there while more is read and compared, or could not be read", async () => {
  const p = page();
  await answer(said("first"));
  p.show(rowsOf("b", "a"), { reading: true });
  expect(p.seen()).toBe('ab {"of":"first"}');
  p.show(rowsOf("b", "a"));
  expect(p.seen()).toBe('ab {"of":"first"}');
  await answer(said("second"));
  expect(p.seen()).toBe('ba {"of":"second"}');
  p.show(rowsOf("x"), { trouble: "away" });
  await answer(said("of what is left"));
  expect(p.seen()).toBe('ba {"of":"second"}');
});
it("keeps nothing of another move", async () => {
  const p = page();
  await answer(said("first"));
  p.show(rowsOf("x"), {}, "slow pan");
  expect(p.seen()).toBe("nothing");
  await answer(said("pans"));
  expect(p.seen()).toBe('x {"of":"pans"}');
});
it("shows rows without a word on them where nothing could be read, or they could not be compared", async () => {
  const p = page();
  p.show(rowsOf("a"), { trouble: "away" });
  expect(p.seen()).toBe("a null");
  cleanup();
  const q = page();
  await act(async () => asked.at(-1)?.fail());
  expect(q.seen()).toBe("ab null");
});
