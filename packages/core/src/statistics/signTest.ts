// The exact sign test: of n decided comparisons, so many one way (Arbuthnott 1710; binomial with 1/2). Ties are left out.

export interface SignTest {
  /** Decided comparisons. */
  n: number;
  twoSided: number;
  /** P(as many plus or more), P(as many or fewer). */
  greater: number;
  less: number;
}
/** Null of nothing decided. */
export function signTest(plus: number, minus: number): SignTest | null {
  if (!(Number.isInteger(plus) && Number.isInteger(minus) && plus >= 0 && minus >= 0))
    throw new RangeError(`plus and minus must be counts, got ${plus} and ${minus}`);
  const n = plus + minus;
  if (n > MOST) throw new RangeError(`at most ${MOST} comparisons, got ${n}`);
  if (n === 0) return null;
  const upper = (k: number): number => halfTail(k, n);
  const [greater, less] = [upper(plus), upper(minus)];
  return { n, greater, less, twoSided: Math.min(1, 2 * Math.min(greater, less)) };
}

/** Beyond this the smallest term is no number any more. */
const MOST = 1000;

/** P(K >= k) of n at 1/2, by the terms themselves from the smallest on: no digit is lost in a far tail. */
function halfTail(k: number, n: number): number {
  if (k <= 0) return 1;
  // From C(n, n) downwards.
  let term = 0.5 ** n;
  let sum = term;
  for (let i = n; i > k; i--) {
    term *= i / (n - i + 1);
    sum += term;
  }
  return Math.min(1, sum);
}
