import { expect, it } from "vitest";
import { ticksOf } from "./stolen.ts";

// The first line as proc(5) names its columns: user nice system idle iowait irq softirq steal guest guest_nice.
it("counts what was taken from all processors, and what guests used once", () => {
  expect(ticksOf("cpu  100 10 30 800 20 1 9 30 7 2\ncpu0 1 1 1 1 1 1 1 1 1 1\n")).toEqual({ all: 1000, stolen: 30 });
});
it("says nothing where the kernel does not", () => {
  expect(ticksOf("cpu  100 10 30 800\n")).toBeNull();
  expect(ticksOf("")).toBeNull();
});
