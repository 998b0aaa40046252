import { describe, expect, it, vi } from "vitest";
import { untilLoaded } from "./untilLoaded.ts";

const away = () => Promise.reject(new TypeError("Failed to fetch dynamically imported module: /assets/part.js"));

const soon = (ms = 5): Promise<void> => new Promise((done) => setTimeout(done, ms));

/** Seconds waited before each time after the first, where the code comes the `n`-th time. */
async function waits(n: number): Promise<number[]> {
  const waited: number[] = [];
  const pause = (ms: number): Promise<void> => Promise.resolve(void waited.push(ms / 1000));
  await expect(
    untilLoaded(() => (waited.length + 1 < n ? away() : Promise.resolve("the part")), undefined, pause).catch(() => "gone"),
  ).resolves.toBe(n === Infinity ? "gone" : "the part");
  return waited;
}

describe("code that did not come", () => {
  it("is asked for again, less often by and by, at least every ten seconds", async () => {
    expect(await waits(1)).toEqual([]);
    expect(await waits(7)).toEqual([2, 4, 8, 10, 10, 10]);
  });
  it("is given up after ten minutes", async () => {
    const all = (await waits(Infinity)).reduce((a, b) => a + b);
    expect(all).toBeGreaterThanOrEqual(600);
    expect(all).toBeLessThanOrEqual(610);
  });
  it("is not asked for again where it came and is wrong", async () => {
    const load = vi.fn(() => Promise.reject(new Error("no such unit of heat")));
    await expect(untilLoaded(load)).rejects.toThrow("no such unit of heat");
    expect(load).toHaveBeenCalledOnce();
  });
  it("is not waited for once nobody asks any more", async () => {
    const stop = new AbortController();
    const load = vi.fn(away);
    const part = untilLoaded(load, stop.signal);
    await vi.waitFor(() => expect(load).toHaveBeenCalledOnce());
    await soon();
    stop.abort();
    // The next time would be in two seconds.
    const late = soon(1000).then(() => Promise.reject(new Error("still waiting")));
    await expect(Promise.race([part, late])).rejects.toThrow("Failed to fetch");
    await late.catch(() => undefined);
    expect(load).toHaveBeenCalledTimes(2);
  });
});
