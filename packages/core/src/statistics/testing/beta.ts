// Shares that vary from take to take, or from visit to visit, for simulated worlds.

import type { Random } from "../random.ts";

/** A share about `p` whose draws of one take are correlated by `rho`, above 0: beta by two gammas. */
export function shareAbout(random: Random, p: number, rho: number): number {
  const m = 1 / rho - 1;
  const [a, b] = [gamma(random, p * m), gamma(random, (1 - p) * m)];
  return a / (a + b);
}
/** Marsaglia and Tsang (2000); below one by the usual power. */
function gamma(random: Random, shape: number): number {
  if (shape < 1) return gamma(random, shape + 1) * random.next() ** (1 / shape);
  const d = shape - 1 / 3;
  for (;;) {
    const x = random.normal();
    const v = (1 + x / Math.sqrt(9 * d)) ** 3;
    if (v > 0 && Math.log(1 - random.next()) < (x * x) / 2 + d - d * v + d * Math.log(v)) return d * v;
  }
}
