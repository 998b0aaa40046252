// @vitest-environment jsdom
// How two bodies' clips lie to each other: told, told of nobody, or not known yet. The last two are not the same.

import type { Sync, WalkTake } from "@keep-rolling/core/walks";
import { cleanup, renderHook } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { useSync } from "./useSync.ts";
import type { Numbers } from "./useWalk.ts";
import { syncWords } from "./words.ts";

let answer: () => Promise<Sync | null> = () => Promise.resolve(null);
vi.mock("../../workers/pool.ts", () => ({ pool: { call: () => answer() }, isAbandoned: () => false }));
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

/** The take of a clip of this content. */
const take = (sha256: string) => ({ clips: [{ key: sha256, sha256, part: null }] }) as unknown as WalkTake;
const row = (sha256: string) => ({ sha256, packSha256: `${sha256} path`, sound: null });

/** What is said of the takes `a` and `b`; `measured` are the clips with numbers, and the server answers `status`. */
async function said(measured: string[], status = 200, [a, b] = ["one", "two"]): Promise<string> {
  vi.stubGlobal("fetch", () => Promise.resolve(new Response(new Uint8Array(4), { status })));
  const numbers = { rows: measured.map(row), reading: false } as unknown as Numbers;
  const [first, second] = [take(a ?? ""), take(b ?? "")];
  const { result } = renderHook(() => useSync(first, second, numbers));
  return vi.waitFor(() => {
    if (result.current === undefined) throw new Error("not told yet");
    return syncWords(result.current);
  });
}

describe("two bodies of one walk", () => {
  it("are told as they lie, or that nothing tells", async () => {
    answer = () => Promise.resolve({ lagSec: 0.5, by: "sound", correlation: 0.876 } as Sync);
    expect(await said(["one", "two"])).toBe("its clip begins 0.50 s later, by sound (0.87 alike)");
    answer = () => Promise.resolve(null);
    expect(await said(["one", "two"])).toMatch(/^neither sound nor path says/);
  });
  it("are not called unlike while a clip is not measured, or a path or the answer did not come", async () => {
    answer = () => Promise.resolve(null);
    expect(await said(["one"])).toMatch(/told once both clips are measured/);
    expect(await said(["three", "four"], 404, ["three", "four"])).toMatch(/could not be read just now/);
    expect(await said(["five", "six"], 503, ["five", "six"])).toMatch(/could not be read just now/);
    answer = () => Promise.reject(new Error("the worker is gone"));
    expect(await said(["one", "two"])).toMatch(/could not be read just now/);
  });
  it("are not told while numbers are still being read", () => {
    const numbers = { rows: [], reading: true } as unknown as Numbers;
    const [a, b] = [take("one"), take("two")];
    expect(renderHook(() => useSync(a, b, numbers)).result.current).toBeUndefined();
  });
  it("stay told while a further clip is being read: what is looked at goes on", async () => {
    answer = () => Promise.resolve({ lagSec: 0.5, by: "sound", correlation: 0.9 } as Sync);
    const rows = ["one", "two"].map(row);
    const [a, b] = [take("one"), take("two")];
    const { result, rerender } = renderHook(({ reading }) => useSync(a, b, { rows, reading } as unknown as Numbers), {
      initialProps: { reading: false },
    });
    await vi.waitFor(() => expect(result.current).toMatchObject({ lagSec: 0.5 }));
    rerender({ reading: true });
    expect(result.current).toMatchObject({ lagSec: 0.5 });
  });
});
