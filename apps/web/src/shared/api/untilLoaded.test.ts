import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { untilLoaded } from "./untilLoaded.ts";

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

const away = () => Promise.reject(new TypeError("Failed to fetch dynamically imported module: /assets/part.js"));

describe("code that did not come", () => {
  it("is asked for again, less often by and by, at least every ten seconds", async () => {
    const asked: number[] = [];
    const from = Date.now();
    const part = untilLoaded(() => {
      asked.push((Date.now() - from) / 1000);
      return asked.length < 6 ? away() : Promise.resolve("the part");
    });
    await vi.runAllTimersAsync();
    await expect(part).resolves.toBe("the part");
    expect(asked).toEqual([0, 2, 6, 14, 24, 34]);
  });
  it("is given up after ten minutes", async () => {
    const from = Date.now();
    const part = untilLoaded(away).catch((error: unknown) => error);
    await vi.runAllTimersAsync();
    expect(await part).toBeInstanceOf(TypeError);
    expect(Date.now() - from).toBeGreaterThanOrEqual(600_000);
    expect(Date.now() - from).toBeLessThanOrEqual(610_000);
  });
  it("is not asked for again where it came and is wrong", async () => {
    const load = vi.fn(() => Promise.reject(new Error("no such unit of heat")));
    await expect(untilLoaded(load)).rejects.toThrow("no such unit of heat");
    expect(load).toHaveBeenCalledOnce();
  });
  it("is not waited for once nobody asks any more", async () => {
    const stop = new AbortController();
    const load = vi.fn(away);
    const part = untilLoaded(load, stop.signal).catch((error: unknown) => error);
    await vi.advanceTimersByTimeAsync(500);
    stop.abort();
    await vi.advanceTimersByTimeAsync(0);
    expect(await part).toBeInstanceOf(TypeError);
    expect(load).toHaveBeenCalledTimes(2);
  });
});
