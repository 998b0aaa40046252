import { describe, expect, it } from "vitest";
import { markSchema } from "./marks.ts";

const id = (n: number) => `01900000-0000-7000-8000-${String(n).padStart(12, "0")}`;
const base = {
  id: id(1),
  runId: id(2),
  deviceId: id(3),
  deviceSeq: 1,
  v: 1,
  atMs: 1000,
  madeAtMs: 1000,
  source: "pressed",
  deviceMs: 1000,
  offsetMs: 0,
  offsetErrMs: 3,
};

describe("a mark on the wire", () => {
  it("passes known kinds with their body and refuses another body", () => {
    expect(markSchema.safeParse({ ...base, kind: "gap", body: { cause: "card swap", power: "on" } }).success).toBe(true);
    for (const body of [{ cause: "sunspots", power: "on" }, { cause: "card swap" }, { cause: "card swap", power: "on", extra: 1 }, null]) {
      expect(markSchema.safeParse({ ...base, kind: "gap", body }).success).toBe(false);
    }
  });
  it("keeps kinds and versions from the future, whole", () => {
    const future = markSchema.safeParse({ ...base, kind: "thermal-image", body: { deep: { x: 1 } } });
    expect(future.success && future.data).toMatchObject({ foreign: true, body: { deep: { x: 1 } } });
    expect(markSchema.safeParse({ ...base, v: 2, kind: "gap", body: { anything: true } }).success).toBe(true);
  });
  it("wants a target for undo and correction, whole milliseconds, and real ids", () => {
    expect(markSchema.safeParse({ ...base, kind: "undo", body: {} }).success).toBe(false);
    expect(markSchema.safeParse({ ...base, kind: "undo", body: {}, target: id(9) }).success).toBe(true);
    expect(markSchema.safeParse({ ...base, atMs: 1.5, kind: "resume", body: {} }).success).toBe(false);
    expect(markSchema.safeParse({ ...base, id: "seven", kind: "resume", body: {} }).success).toBe(false);
    expect(markSchema.safeParse({ ...base, kind: "correction", target: id(9), body: { atMs: 500, cause: "card full" } }).success).toBe(
      true,
    );
  });
});
