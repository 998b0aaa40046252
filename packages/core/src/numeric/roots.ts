// Root finding on a bracket. Bisection: slow, and never wrong.

/** x in [lo, hi] where the monotone `f` changes sign, to `within` (0: the last bits); the end nearest to it when it does not. */
export function bisect(f: (x: number) => number, lo: number, hi: number, within = 0): number {
  if (!(lo <= hi)) throw new RangeError(`lo must not exceed hi, got ${lo} and ${hi}`);
  const rising = f(hi) > f(lo);
  let [a, b] = [lo, hi];
  for (let i = 0; i < 200; i++) {
    const middle = a + (b - a) / 2;
    if (middle <= a || middle >= b || b - a <= within) break;
    if (f(middle) > 0 === rising) b = middle;
    else a = middle;
  }
  return a + (b - a) / 2;
}
