// Root finding on a bracket. Bisection: slow, and never wrong. The Illinois rule: false position that cannot get stuck, for costly functions.

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

/** As `bisect` to `within` of x, in a dozen evaluations for a smooth monotone `f`. Dowell and Jarratt (1971), the Illinois algorithm. */
export function falsePosition(f: (x: number) => number, lo: number, hi: number, within: number): number {
  if (!(lo <= hi)) throw new RangeError(`lo must not exceed hi, got ${lo} and ${hi}`);
  let [a, b] = [lo, hi];
  let [fa, fb] = [f(a), f(b)];
  if (fa > 0 === fb > 0) return Math.abs(fa) < Math.abs(fb) ? a : b;
  let side = 0;
  for (let i = 0; i < 200 && b - a > within; i++) {
    const x = (fa * b - fb * a) / (fa - fb);
    const fx = f(x);
    if (fx === 0) return x;
    if (fx > 0 === fb > 0) {
      [b, fb] = [x, fx];
      if (side === 1) fa /= 2;
      side = 1;
    } else {
      [a, fa] = [x, fx];
      if (side === -1) fb /= 2;
      side = -1;
    }
    // One end may close in while the other stays: a step this small is the root.
    if (Math.abs(fx) < 1e-15) return x;
  }
  return a + (b - a) / 2;
}
