// Small dense linear algebra: symmetric positive definite systems by Cholesky. Matrices are arrays of rows.

export type Matrix = readonly (readonly number[])[];

/** Lower triangle L with L L' = a; null when `a` is not positive definite to working precision. */
export function cholesky(a: Matrix): number[][] | null {
  const n = a.length;
  const lower = Array.from({ length: n }, () => new Array<number>(n).fill(0));
  for (let i = 0; i < n; i++)
    for (let j = 0; j <= i; j++) {
      const dot = lower[i]?.slice(0, j).reduce((sum, v, k) => sum + v * (lower[j]?.[k] ?? 0), 0) ?? 0;
      const left = (a[i]?.[j] ?? 0) - dot;
      if (i === j && !(left > 1e-13 * Math.abs(a[i]?.[i] ?? 0))) return null;
      (lower[i] as number[])[j] = i === j ? Math.sqrt(left) : left / (lower[j]?.[j] ?? 1);
    }
  return lower;
}

/** Solves a x = b for symmetric positive definite `a`; null when it is not. */
export function solvePositive(a: Matrix, b: readonly number[]): number[] | null {
  const lower = cholesky(a);
  return lower === null ? null : solveBy(lower, b);
}

/** Solves L L' x = b. */
function solveBy(lower: Matrix, b: readonly number[]): number[] {
  const y: number[] = [];
  for (const [i, row] of lower.entries())
    y[i] = ((b[i] ?? 0) - row.slice(0, i).reduce((s, v, k) => s + v * (y[k] ?? 0), 0)) / (row[i] ?? 1);
  const x = new Array<number>(b.length).fill(0);
  for (let i = b.length - 1; i >= 0; i--) {
    let left = y[i] ?? 0;
    for (let k = i + 1; k < b.length; k++) left -= (lower[k]?.[i] ?? 0) * (x[k] ?? 0);
    x[i] = left / (lower[i]?.[i] ?? 1);
  }
  return x;
}

/** Inverse of a symmetric positive definite matrix, symmetric to the last digit; null when it has none. */
export function invertPositive(a: Matrix): number[][] | null {
  const lower = cholesky(a);
  if (lower === null) return null;
  const columns = a.map((_, i) =>
    solveBy(
      lower,
      a.map((_row, k) => (k === i ? 1 : 0)),
    ),
  );
  return a.map((_, i) => a.map((_row, j) => ((columns[j]?.[i] ?? 0) + (columns[i]?.[j] ?? 0)) / 2));
}

export const dot = (a: readonly number[], b: readonly number[]): number => a.reduce((sum, v, i) => sum + v * (b[i] ?? 0), 0);
/** v' M v. */
export const quadratic = (m: Matrix, v: readonly number[]): number =>
  dot(
    v,
    m.map((row) => dot(row, v)),
  );

/** Least squares: coefficients of the columns in `rows`; null when they are not independent. */
export function leastSquares(rows: Matrix, target: readonly number[]): number[] | null {
  const width = rows[0]?.length ?? 0;
  const index = Array.from({ length: width }, (_, j) => j);
  const gram = index.map((i) => index.map((j) => rows.reduce((s, r) => s + (r[i] ?? 0) * (r[j] ?? 0), 0)));
  return solvePositive(
    gram,
    index.map((i) => rows.reduce((s, r, k) => s + (r[i] ?? 0) * (target[k] ?? 0), 0)),
  );
}

/** Share of the variance of `target` that the columns explain, with an intercept among them; 1 for a constant target. */
export function explained(rows: Matrix, target: readonly number[]): number {
  const mean = target.reduce((a, b) => a + b, 0) / target.length;
  const whole = target.reduce((s, v) => s + (v - mean) ** 2, 0);
  const coef = leastSquares(rows, target);
  if (!(whole > 0)) return 1;
  // Columns that are not independent explain what fewer of them do; the caller drops them first.
  if (coef === null) return 1;
  return 1 - rows.reduce((s, r, i) => s + ((target[i] ?? 0) - dot(r, coef)) ** 2, 0) / whole;
}
