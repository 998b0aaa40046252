import { jackknifeSe } from "./bootstrap.ts";

export type Correlation = { ok: true; r: number; jackknifeSe: number } | { ok: false; reason: "too-few" | "no-spread" };

/** Pearson's r with its jackknife standard error. */
export function correlation(x: readonly number[], y: readonly number[]): Correlation {
  if (x.length !== y.length) throw new RangeError(`x and y must be equally long, got ${x.length} and ${y.length}`);
  if (x.length < 3) return { ok: false, reason: "too-few" };
  const pairs = x.map((v, i) => [v, y[i] ?? 0] as const);
  const r = pearson(pairs);
  return Number.isFinite(r) ? { ok: true, r, jackknifeSe: jackknifeSe(pairs, pearson) } : { ok: false, reason: "no-spread" };
}

function pearson(pairs: readonly (readonly [number, number])[]): number {
  const n = pairs.length;
  const mx = pairs.reduce((s, p) => s + p[0], 0) / n;
  const my = pairs.reduce((s, p) => s + p[1], 0) / n;
  const sum = (f: (a: number, b: number) => number): number => pairs.reduce((s, [a, b]) => s + f(a - mx, b - my), 0);
  return sum((a, b) => a * b) / Math.sqrt(sum((a) => a * a) * sum((_a, b) => b * b));
}
