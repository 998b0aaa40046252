// What the shortest of n records supports without assuming any shape: the first order statistic as a one-sided tolerance limit.
// Source: Wilks, S. S. (1941), "Determination of sample sizes for setting tolerance limits", Ann. Math. Statist. 12, 91-96.
// P(share p of runs outlast the minimum) = 1 - p^n. A censored minimum only makes the statement more cautious.

function requireProbability(name: string, value: number): void {
  if (!(value > 0 && value < 1)) throw new RangeError(`${name} must lie strictly between 0 and 1, got ${value}`);
}

function requireCount(name: string, value: number, least: number): void {
  if (!Number.isInteger(value) || value < least) throw new RangeError(`${name} must be an integer of at least ${least}, got ${value}`);
}

/** Share of runs that outlast the shortest of n, at the given confidence: (1 - C)^(1/n). n = 3, C = 0.9: 0.464. */
export function shareOutlastingShortest(n: number, confidence: number): number {
  requireCount("n", n, 1);
  requireProbability("confidence", confidence);
  return (1 - confidence) ** (1 / n);
}

/** Confidence that at least `share` of runs outlast the shortest of n: 1 - share^n. */
export function confidenceOfShortest(n: number, share: number): number {
  requireCount("n", n, 1);
  requireProbability("share", share);
  return 1 - share ** n;
}

/** Records needed before the shortest supports `share` at `confidence`: smallest n with 1 - share^n >= confidence. 0.9, 0.9: 22. */
export function recordsNeeded(share: number, confidence: number): number {
  return recordsNeededForOrder(share, confidence, 1);
}

/** As `recordsNeeded` for the order-th shortest: smallest n with P(Bin(n, 1 - share) >= order) >= confidence. */
export function recordsNeededForOrder(share: number, confidence: number, order: number): number {
  requireProbability("share", share);
  requireProbability("confidence", confidence);
  requireCount("order", order, 1);
  let n = order;
  while (confidenceOfOrder(n, share, order) < confidence) n++;
  return n;
}

/** P(Bin(n, 1 - share) >= order): confidence that at least `share` of runs outlast the order-th shortest of n. */
export function confidenceOfOrder(n: number, share: number, order: number): number {
  requireCount("n", n, 1);
  requireProbability("share", share);
  const logOdds = Math.log1p(-share) - Math.log(share);
  let logTerm = n * Math.log(share);
  let below = 0;
  for (let k = 0; k < Math.min(order, n + 1); k++) {
    below += Math.exp(logTerm);
    logTerm += Math.log((n - k) / (k + 1)) + logOdds;
  }
  return 1 - below;
}
