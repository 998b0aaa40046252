// Probability on an even grid: the level of a setup, the difference of two. Grid points are whole multiples of the step, so that the
// densities of a session add up point by point; within a cell of one step about its point the probability is even.

export interface Density {
  stepSize: number;
  /** Position of the first point, in steps. */
  first: number;
  /** Probability of each cell; sums to 1. */
  mass: Float64Array;
}

/** Less than this at either end changes no quantile that is ever asked. */
const TAIL = 1e-13;

/** Scaled to sum 1, and cut where nothing is left. Throws when there is no mass at all. */
export function densityOf(first: number, mass: Float64Array, stepSize: number): Density {
  const total = mass.reduce((sum, m) => sum + m, 0);
  if (!(total > 0)) throw new RangeError(`mass must have a positive sum, got ${total}`);
  let [from, to] = [0, mass.length];
  for (let left = TAIL * total; from < to && (left -= mass[from] as number) >= 0; ) from++;
  for (let left = TAIL * total; to > from && (left -= mass[to - 1] as number) >= 0; ) to--;
  const kept = mass.slice(from, to);
  const sum = kept.reduce((s, m) => s + m, 0);
  return { stepSize, first: first + from, mass: kept.map((m) => m / sum) };
}

/** Value below which the share `p` lies, 0 < p < 1; linear inside a cell. */
export function quantileOf({ stepSize, first, mass }: Density, p: number): number {
  if (!(p > 0 && p < 1)) throw new RangeError(`p must lie between 0 and 1, got ${p}`);
  let below = 0;
  for (let i = 0; i < mass.length; i++) {
    const m = mass[i] as number;
    if (below + m >= p) return stepSize * (first + i - 0.5 + (p - below) / m);
    below += m;
  }
  return stepSize * (first + mass.length - 0.5);
}

/** Probability below `x`. */
export function below({ stepSize, first, mass }: Density, x: number): number {
  const cells = x / stepSize - first + 0.5;
  const whole = Math.floor(cells);
  let sum = 0;
  for (let i = 0; i < Math.min(whole, mass.length); i++) sum += mass[i] as number;
  return whole >= 0 && whole < mass.length ? sum + (cells - whole) * (mass[whole] as number) : sum;
}

/** Density of a - b, the two being independent. */
export function difference(a: Density, b: Density): Density {
  requireOneStep(a, b);
  return densityOf(a.first - b.first - (b.mass.length - 1), correlated(a.mass, b.mass), a.stepSize);
}

/** No cells around the mass, so that four neighbours may be summed at once over its edges. */
const PAD = 3;

/**
 * Sums of a[i] b[j] with i - j the same, by i - j. Four at a time: each product is added in the order of `i`, and a processor that waits for
 * one sum goes on with the next.
 */
function correlated(a: Float64Array, b: Float64Array): Float64Array {
  const last = b.length - 1;
  const sums = new Float64Array(a.length + last);
  const padded = new Float64Array(b.length + 2 * PAD);
  padded.set(b, PAD);
  for (let k = 0; k < sums.length; k += 4) {
    const shift = last - k + PAD;
    const from = Math.max(0, k - last);
    const to = Math.min(a.length - 1, k + PAD);
    let [s0, s1, s2, s3] = [0, 0, 0, 0];
    let [b1, b2, b3] = [padded[from + shift - 1] as number, padded[from + shift - 2] as number, padded[from + shift - 3] as number];
    for (let i = from; i <= to; i++) {
      const m = a[i] as number;
      const b0 = padded[i + shift] as number;
      s0 += m * b0;
      s1 += m * b1;
      s2 += m * b2;
      s3 += m * b3;
      b3 = b2;
      b2 = b1;
      b1 = b0;
    }
    // What lies beyond the end is not kept.
    sums.set([s0, s1, s2, s3].slice(0, sums.length - k), k);
  }
  return sums;
}

/** Density of -x. */
export const mirrored = ({ stepSize, first, mass }: Density): Density => ({
  stepSize,
  first: -(first + mass.length - 1),
  mass: Float64Array.from(mass).reverse(),
});
/** Density of a + b, the two being independent. */
export const sum = (a: Density, b: Density): Density => difference(a, mirrored(b));

/** Density that is each of the parts with its weight; weights sum to 1. */
export function mixture(parts: readonly { weight: number; density: Density }[]): Density {
  const used = parts.filter((p) => p.weight > 0);
  const [one] = used;
  if (one === undefined) throw new RangeError("a mixture needs a part with weight");
  for (const p of used) requireOneStep(one.density, p.density);
  const first = Math.min(...used.map((p) => p.density.first));
  const end = Math.max(...used.map((p) => p.density.first + p.density.mass.length));
  const mass = new Float64Array(end - first);
  for (const { weight, density } of used)
    density.mass.forEach((m, i) => (mass[density.first - first + i] = (mass[density.first - first + i] as number) + weight * m));
  return densityOf(first, mass, one.density.stepSize);
}

function requireOneStep(a: Density, b: Density): void {
  if (a.stepSize !== b.stepSize) throw new RangeError(`densities must share one step, got ${a.stepSize} and ${b.stepSize}`);
}
