/**
 * Pearson's r of a[i] with b[i + lag], for i from `from` to before `to`, in one pass over windows of long series; 0 where either does not vary.
 * `from` and `to` must keep both indices inside.
 */
export function lagCorrelation(a: ArrayLike<number>, b: ArrayLike<number>, from: number, to: number, lag: number): number {
  let [sa, sb, aa, bb, ab] = [0, 0, 0, 0, 0];
  for (let i = from; i < to; i++) {
    const [x, y] = [a[i] as number, b[i + lag] as number];
    sa += x;
    sb += y;
    aa += x * x;
    bb += y * y;
    ab += x * y;
  }
  const n = to - from;
  const spread = (aa - (sa * sa) / n) * (bb - (sb * sb) / n);
  return n > 1 && spread > 1e-18 ? (ab - (sa * sb) / n) / Math.sqrt(spread) : 0;
}
