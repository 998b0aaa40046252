// An answer against what a case expects: every number within its tolerance, every key known, a refusal where one is wanted and only there.

export interface Tolerance {
  rel?: number;
  abs?: number;
  per_key?: Record<string, { rel?: number; abs?: number }>;
}
export interface Case {
  id: string;
  family: string;
  inputs: Record<string, unknown>;
  expected: Record<string, unknown>;
  tolerance?: Tolerance;
}
/** `reason`: the closed reason of a refusal; null where an estimate was given. */
export interface Answer {
  reason: string | null;
  values: Record<string, unknown>;
}

/** What is wrong, in words; empty when all holds. */
export function differences(c: Case, answer: Answer): string[] {
  const found = compareKeys(c.expected, answer.values, c.tolerance ?? {}, "");
  const wanted = wantsRefusal(c);
  if (wanted && answer.reason === null) found.push("a refusal was wanted, an estimate was given");
  if (!wanted && answer.reason !== null) found.push(`refused (${answer.reason}) where an estimate was wanted`);
  return found;
}

export const wantsRefusal = ({ expected }: Pick<Case, "expected">): boolean =>
  "should_say" in expected || expected.ml_exists === false || expected.estimable === false;

/** The meaning of this sentence is what the refusal carries. */
const FOR_PEOPLE: readonly string[] = ["should_say"];

function compareKeys(expected: Record<string, unknown>, got: unknown, tolerance: Tolerance, path: string): string[] {
  if (typeof got !== "object" || got === null) return [`${path || "answer"}: nothing to compare with`];
  return Object.entries(expected).flatMap(([key, want]) => {
    const where = path === "" ? key : `${path}.${key}`;
    if (FOR_PEOPLE.includes(key)) return [];
    if (!(key in got)) return [`${where}: this key is not known here`];
    return compareValue(want, (got as Record<string, unknown>)[key], tolerance, where, key);
  });
}

function compareValue(want: unknown, got: unknown, tolerance: Tolerance, where: string, key: string): string[] {
  if (Array.isArray(want)) {
    if (!Array.isArray(got) || got.length !== want.length)
      return [`${where}: ${Array.isArray(got) ? `${got.length} values` : "no list"}, ${want.length} wanted`];
    return want.flatMap((w, i) => compareValue(w, got[i], tolerance, `${where}[${i}]`, key));
  }
  if (typeof want === "object" && want !== null) return compareKeys(want as Record<string, unknown>, got, tolerance, where);
  if (want === null) return typeof got === "number" ? [`${where}: ${got} where nothing is defined`] : [];
  if (typeof want === "boolean") return got === want ? [] : [`${where}: ${String(got)}, ${String(want)} wanted`];
  // Why nothing is told is part of the answer.
  if (key === "reason") return got === want ? [] : [`${where}: ${String(got)}, another wanted`];
  const number = want === "Infinity" ? Number.POSITIVE_INFINITY : want === "-Infinity" ? Number.NEGATIVE_INFINITY : want;
  // Other strings are for people.
  if (typeof number !== "number") return [];
  return near(got, number, tolerance.per_key?.[key] ?? tolerance) ? [] : [`${where}: ${String(got)}, ${number} wanted`];
}

function near(got: unknown, want: number, { rel = 0, abs = 0 }: { rel?: number; abs?: number }): boolean {
  if (typeof got !== "number" || Number.isNaN(got)) return false;
  return got === want || Math.abs(got - want) <= Math.max(rel * Math.abs(want), abs);
}
