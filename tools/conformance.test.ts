// The checker itself: every case of the fixtures passes, and none would if one expected number were another.

import { describe, expect, it } from "vitest";
import fixtures from "../packages/core/fixtures/check-cases.json" with { type: "json" };
import further from "../packages/core/fixtures/further-cases.json" with { type: "json" };
import holds from "../packages/core/fixtures/hold-threshold.json" with { type: "json" };
import limits from "../packages/core/fixtures/dependable-limit.json" with { type: "json" };
import walks from "../packages/core/fixtures/walk-comparison.json" with { type: "json" };
import type { Answer, Case } from "./conformance/compare.ts";
import { wantsRefusal } from "./conformance/compare.ts";
import { answerTo, checkCase, FAMILIES } from "./conformance/check.ts";

const cases = [...fixtures.cases, ...further.cases, ...limits.cases, ...walks.cases, ...holds.cases] as unknown as Case[];

/** Answered once a case: what is moved below is what was expected, never what was asked. */
const answers = new Map<string, Answer>();
function answered(c: Case): Answer {
  const known = answers.get(c.id) ?? answerTo(c);
  answers.set(c.id, known);
  return known;
}

describe("the core against the check cases", () => {
  it("knows every family of the fixtures", () => {
    for (const c of cases) expect(Object.keys(FAMILIES)).toContain(c.family);
    expect(new Set(cases.map((c) => c.family)).size).toBe(37);
  });
  it.each(cases.map((c) => [c.id, c] as const))("%s", (_id, c) => {
    expect(checkCase(c, answered)).toEqual([]);
  });
});

type Path = readonly (string | number)[];
/** Paths of all numbers (infinite ones too) below expected. */
function numbersIn(value: unknown, path: Path = []): Path[] {
  if (typeof value === "number" || value === "Infinity" || value === "-Infinity") return [path];
  if (Array.isArray(value)) return value.flatMap((v, i) => numbersIn(v, [...path, i]));
  if (typeof value !== "object" || value === null) return [];
  return Object.entries(value).flatMap(([key, v]) => numbersIn(v, [...path, key]));
}
/** Paths of the closed reasons below expected. */
function reasonsIn(value: unknown, path: Path = []): Path[] {
  if (path.at(-1) === "reason") return [path];
  if (typeof value !== "object" || value === null) return [];
  return Object.entries(value).flatMap(([key, v]) => reasonsIn(v, [...path, key]));
}
type Holder = Record<string | number, unknown>;
const holderOf = (c: Case, path: Path): Holder => path.slice(0, -1).reduce<Holder>((o, k) => o[k] as Holder, c.expected);
function withValue(c: Case, path: Path, value: unknown): Case {
  const copy = structuredClone(c);
  holderOf(copy, path)[path.at(-1) as string | number] = value;
  return copy;
}
function moved(c: Case, path: Path): Case {
  const old = holderOf(c, path)[path.at(-1) as string | number];
  const key = [...path].reverse().find((k) => typeof k === "string") ?? "";
  const { rel = 0, abs = 0 } = c.tolerance?.per_key?.[key] ?? c.tolerance ?? {};
  return withValue(c, path, typeof old === "number" ? old + 3 * Math.max(rel * Math.abs(old), abs, 1e-300) : 12.5);
}
/** Arguments a case asks about, echoed by the answer: what is moved there is another question. */
const ASKED: readonly string[] = ["p", "P", "confidence", "at", "assumed_shape", "t"];
const isAsked = (path: Path): boolean => path.some((k) => typeof k === "string" && ASKED.includes(k)) && path.length > 1;

describe("the checker", () => {
  it.each(cases.map((c) => [c.id, c] as const))("%s fails with one expected number moved beyond its tolerance", (_id, c) => {
    const paths = numbersIn(c.expected).filter((p) => !isAsked(p));
    // Every number of a small case; of a large one an even sample, first and last among them.
    const step = Math.max(1, Math.ceil(paths.length / 12));
    const tried = paths.filter((_, i) => i % step === 0 || i === paths.length - 1);
    for (const path of tried) expect(checkCase(moved(c, path), answered), path.join(".")).not.toEqual([]);
    if (paths.length > 0) return;
    const said = reasonsIn(c.expected);
    if (said.length > 0) {
      for (const path of said) expect(checkCase(withValue(c, path, "another"), answered), path.join(".")).not.toEqual([]);
      return;
    }
    // No number at all: the refusal is what it says.
    expect(wantsRefusal(c)).toBe(true);
    const flipped = {
      ...c,
      expected: Object.fromEntries(
        Object.entries(c.expected).filter(([k]) => k !== "should_say" && k !== "ml_exists" && k !== "estimable"),
      ),
    };
    expect(checkCase(flipped, answered)).not.toEqual([]);
  });
  it("fails for a family, an input or a key it does not know", () => {
    const [any] = cases.filter((c) => c.family === "proportion");
    if (any === undefined) throw new Error("no case");
    expect(checkCase({ ...any, family: "tea-leaves" })).toEqual(["the family tea-leaves is not known here"]);
    expect(checkCase({ ...any, inputs: { ...any.inputs, weather: 3 } })).toEqual(["the input weather is not known here"]);
    expect(checkCase({ ...any, expected: { ...any.expected, luck: 1 } })).toEqual(["luck: this key is not known here"]);
    expect(checkCase({ ...any, expected: { ...any.expected, p: null } })).not.toEqual([]);
    expect(checkCase({ ...any, expected: { ...any.expected, should_say: "no" } })).toEqual(["a refusal was wanted, an estimate was given"]);
  });
});
