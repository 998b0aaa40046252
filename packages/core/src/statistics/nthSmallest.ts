/**
 * The value that would stand at `n` (from 0) if `values` were sorted upwards; they are put in another order meanwhile. Hoare (1961), Algorithm 65: Find.
 * In a mean time that grows with their number only, where sorting takes its logarithm more. NaN is no value.
 *
 * @throws RangeError unless 0 <= n < values.length
 */
export function nthSmallest(values: Float64Array, n: number): number {
  if (!(Number.isInteger(n) && n >= 0 && n < values.length)) throw new RangeError(`n must lie in 0 to ${values.length - 1}, got ${n}`);
  let [from, to] = [0, values.length - 1];
  while (from < to) {
    const pivot = values[(from + to) >> 1] as number;
    let i = from - 1;
    let j = to + 1;
    for (;;) {
      do i++;
      while ((values[i] as number) < pivot);
      do j--;
      while ((values[j] as number) > pivot);
      if (i >= j) break;
      const held = values[i] as number;
      values[i] = values[j] as number;
      values[j] = held;
    }
    if (n <= j) to = j;
    else from = j + 1;
  }
  return values[n] as number;
}
