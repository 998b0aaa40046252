// The pace of a simulated clock follows what the tester does, and never runs backwards.

import { clockAt, rateAt } from "@keep-rolling/core/time";
import type { Clock } from "@keep-rolling/contract/clocks";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { benchNow, holdSimulatedClocks, readClocks } from "../src/rooms/clocks/index.ts";
import type { TestBench } from "./bench.ts";
import { practiceStart } from "@keep-rolling/demo";
import { presser, testBench } from "./bench.ts";

let bench: TestBench;
let wallMs = 1_700_000_000_000;
beforeEach(async () => {
  bench = await testBench({ now: () => wallMs });
});
afterEach(() => bench.close());

const rehearsal = async (): Promise<Clock> => {
  const clock = (await readClocks(bench.db)).find((c) => c.id === "rehearsal");
  if (clock === undefined) throw new Error("no rehearsal clock");
  return clock;
};
const rate = async (): Promise<number> => rateAt((await rehearsal()).segments, wallMs);
const later = (ms: number): void => void (wallMs += ms);

describe("the rehearsal clock", () => {
  it("drops to 1x in a gap and after the end, and takes the wanted rate up again on resume", async () => {
    const { press, batch } = presser();
    const at = async () => Math.round(await benchNow(bench.deps, "rehearsal"));
    const send = async (...marks: unknown[]) => bench.call("POST", "/api/marks", batch(...marks));
    await holdSimulatedClocks(bench.deps, false);
    await send(press("start", await at(), practiceStart()));
    await bench.call("POST", "/api/clocks/rehearsal/rate", { rate: 60 });
    expect(await rate()).toBe(60);
    later(1000);
    await send(press("gap", await at(), { cause: "card swap", power: "on" }));
    expect(await rate()).toBe(1);
    later(5000);
    await send(press("note", await at(), { text: "door sticks" }));
    expect(await rate()).toBe(1);
    await send(press("resume", await at(), {}));
    expect(await rate()).toBe(60);
    later(1000);
    const end = press("end", await at(), { cause: "tester stopped" });
    await send(end);
    expect(await rate()).toBe(1);
    await send(press("undo", await at(), {}, { target: end.id }));
    expect(await rate()).toBe(60);
  });

  it("stands while the server is stopped and goes on at 1x without a jump", async () => {
    await holdSimulatedClocks(bench.deps, false);
    await bench.call("POST", "/api/clocks/rehearsal/rate", { rate: 120 });
    later(10_000);
    await holdSimulatedClocks(bench.deps, true);
    const stopped = await benchNow(bench.deps, "rehearsal");
    later(3_600_000);
    expect(await benchNow(bench.deps, "rehearsal")).toBe(stopped);
    await holdSimulatedClocks(bench.deps, false);
    expect([await rate(), await benchNow(bench.deps, "rehearsal")]).toEqual([1, stopped]);
  });

  it("is only ever added to, and never runs backwards, even when the wall clock does", async () => {
    await holdSimulatedClocks(bench.deps, false);
    const seen: number[] = [];
    for (const [ms, next] of [
      [5000, 60],
      [-20_000, 10],
      [1000, 120],
      [2000, 1],
    ] as const) {
      later(ms);
      const before = (await rehearsal()).segments;
      await bench.call("POST", "/api/clocks/rehearsal/rate", { rate: next });
      const after = (await rehearsal()).segments;
      expect(after.slice(0, before.length)).toEqual(before);
      seen.push(clockAt(after, after.at(-1)?.wallMs ?? 0));
    }
    expect(seen).toEqual([...seen].sort((a, b) => a - b));
  });

  it("leaves real time alone", async () => {
    const { press, batch } = presser();
    await bench.call(
      "POST",
      "/api/marks",
      batch(press("start", wallMs, practiceStart({ clockId: "real" })), press("gap", wallMs + 5, { cause: "unknown", power: "on" })),
    );
    expect((await readClocks(bench.db)).find((c) => c.id === "real")?.segments).toEqual([]);
    expect(await benchNow(bench.deps, "real")).toBe(wallMs);
  });
});
