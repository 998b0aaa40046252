// @vitest-environment jsdom
// Numbers of a walk's clips that could not be read are not known; those of a path that is nowhere are none.

import type { Walk } from "@keep-rolling/core/walks";
import { cleanup, renderHook } from "@testing-library/react";
import { afterEach, expect, it, vi } from "vitest";
import type { Numbers } from "./useWalk.ts";
import { useNumbers } from "./useWalk.ts";

const server = vi.hoisted(() => ({ rows: {}, path: (): Promise<ArrayBuffer | null> => Promise.resolve(null) }));
vi.mock("./api.ts", () => ({ walkApi: { useWalkClipsQuery: () => server.rows }, readPack: () => server.path() }));
vi.mock("../../workers/pool.ts", () => ({
  isAbandoned: () => false,
  pool: { call: (_job: string, questions: { key: string }[]) => Promise.resolve(questions) },
}));
afterEach(cleanup);

const WALK = { clips: [{ key: "c", sha256: "a", inFrame: 0, outFrame: null, part: null, without: [] }], parts: [] } as unknown as Walk;
const ROWS = { currentData: { clips: [{ sha256: "a", packSha256: "b" }] }, isError: false, isLoading: false };

/** What is known of the one clip of a walk. */
async function numbersBy(rows: object, path = server.path): Promise<Numbers> {
  Object.assign(server, { rows, path });
  const { result } = renderHook(() => useNumbers("s", WALK));
  await vi.waitFor(() => expect(result.current.reading).toBe(false));
  return result.current;
}

it("are read", async () => {
  const { reads, trouble } = await numbersBy(ROWS, () => Promise.resolve(new ArrayBuffer(4)));
  expect([reads.size, trouble]).toEqual([1, null]);
});
it("are not known where rows or a path could not be read, and it is said", async () => {
  const away = { currentData: undefined, isError: true, isLoading: false };
  expect((await numbersBy(away)).trouble).toMatch(/could not be read just now/);
  expect((await numbersBy(ROWS, () => Promise.reject(new TypeError("away")))).trouble).toMatch(/could not be read just now/);
  // What was read before stands while it is asked for again in vain.
  expect((await numbersBy({ ...ROWS, isError: true }, () => Promise.resolve(new ArrayBuffer(4)))).trouble).toBeNull();
});
it("are none of a path that is nowhere", async () => {
  const { reads, trouble } = await numbersBy(ROWS, () => Promise.resolve(null));
  expect([reads.size, trouble]).toEqual([0, null]);
});
