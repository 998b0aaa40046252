import type { KnownKind, MarkBodies } from "@keep-rolling/core/runs";
import { KNOWN_KINDS, MARK_KINDS } from "@keep-rolling/core/runs";
import { randomFrom } from "@keep-rolling/core/statistics";
import { describe, expect, it } from "vitest";
import type { z } from "zod";
import { bodies, markSchema } from "./marks.ts";

/** Does not compile where a body of the contract and of the core differ, whichever has more. */
type Same<A, B> = [A] extends [B] ? ([B] extends [A] ? true : never) : never;
type Wire<K extends KnownKind> = z.output<(typeof bodies)[K]>;
const SAME: { [K in KnownKind]: Same<Required<Wire<K>>, Required<MarkBodies[K]>> extends true ? true : never } = {
  start: true,
  gap: true,
  resume: true,
  split: true,
  reading: true,
  touch: true,
  warning: true,
  condition: true,
  end: true,
  check: true,
  note: true,
  photo: true,
  correction: true,
  undo: true,
};

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
  it("takes what every kind's own generator makes", () => {
    const random = randomFrom(7);
    const draw = {
      oneOf: <T>(words: readonly T[]): T => words[random.int(0, words.length - 1)] as T,
      int: (min: number, max: number) => random.int(min, max),
      number: (min: number, max: number) => min + (max - min) * random.next(),
      maybe: () => random.next() < 0.5,
    };
    expect(Object.keys(SAME).sort()).toEqual([...KNOWN_KINDS].sort());
    for (const kind of KNOWN_KINDS) {
      // Ids of kit rows are no part of what a generator says.
      const schema = kind === "start" ? bodies.start.omit({ unit: true, mode: true, condition: true, protocol: true }) : bodies[kind];
      for (let i = 0; i < 50; i++) {
        const { unit: _u, mode: _m, condition: _c, protocol: _p, ...body } = MARK_KINDS[kind].sample(draw) as Record<string, unknown>;
        expect(schema.safeParse(body).error, kind).toBeUndefined();
      }
    }
  });
});
