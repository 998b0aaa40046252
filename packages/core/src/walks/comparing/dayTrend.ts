// Light fades, legs tire: how much shake drifted over the session, estimated within setups so that a setup walked late is not blamed for it.
// Robust regression with a prior of 0 ± 10 % over the whole day; weights lessen takes far from the line.

export interface DayTrend {
  /** Change of the log from the first take to the last. */
  log: number;
  sd: number;
  /** By setup: mean position of its takes in the day, -1/2 to 1/2. */
  position: readonly number[];
  /** By setup and take: the log less the drift. */
  logs: readonly (readonly number[])[];
  /** Beyond chance: the trend may be said. */
  clear: boolean;
}

const PRIOR_PRECISION = 100;
const PRIOR_VARIANCE = 0.0144;
const PRIOR_DF = 4;
const ROUNDS = 6;
const GATE = 1.5;

interface Take {
  s: number;
  x: number;
  y: number;
  h: number;
}

/** Takes by setup with their place in the order walked. At least one take, and more takes than setups, or the residuals say nothing. */
export function dayTrend(setups: readonly (readonly { order: number; log: number }[])[]): DayTrend {
  const orders = setups.flat().map((t) => t.order);
  const n = orders.length;
  if (n <= setups.length) throw new RangeError(`a trend needs more takes than setups, got ${n} of ${setups.length}`);
  const ranked = [...orders].sort((a, b) => a - b);
  const place = (order: number): number => ranked.indexOf(order) / (n - 1) - 0.5;
  const takes = setups.flatMap((row, s) => row.map((t): Take => ({ s, x: place(t.order), y: t.log, h: 1 })));
  let [beta, sd, variance] = [0, PRIOR_PRECISION ** -0.5, PRIOR_VARIANCE];
  for (let round = 0; round < ROUNDS; round++) {
    const centred = centre(takes, setups.length);
    const sxx = centred.reduce((sum, t) => sum + t.h * t.x * t.x, 0);
    const sxy = centred.reduce((sum, t) => sum + t.h * t.x * t.y, 0);
    const precision = sxx / variance + PRIOR_PRECISION;
    beta = sxy / variance / precision;
    sd = precision ** -0.5;
    const residuals = centred.map((t) => t.y - beta * t.x);
    const squares = residuals.reduce((sum, r, i) => sum + (takes[i] as Take).h * r * r, 0);
    variance = (PRIOR_DF * PRIOR_VARIANCE + squares) / (PRIOR_DF + n - setups.length);
    residuals.forEach((r, i) => ((takes[i] as Take).h = Math.min(1, (GATE * Math.sqrt(variance)) / Math.abs(r))));
  }
  const position = setups.map((row) => row.reduce((sum, t) => sum + place(t.order), 0) / row.length);
  const logs = setups.map((row) => row.map((t) => t.log - beta * place(t.order)));
  return { log: beta, sd, position, logs, clear: Math.abs(beta) > 1.645 * sd };
}

/** x and y less their setup's weighted means. */
function centre(takes: readonly Take[], setups: number): Take[] {
  const sums = Array.from({ length: setups }, () => ({ h: 0, x: 0, y: 0 }));
  for (const t of takes) {
    const sum = sums[t.s] as { h: number; x: number; y: number };
    sum.h += t.h;
    sum.x += t.h * t.x;
    sum.y += t.h * t.y;
  }
  return takes.map((t) => {
    const sum = sums[t.s] as { h: number; x: number; y: number };
    return { ...t, x: t.x - sum.x / sum.h, y: t.y - sum.y / sum.h };
  });
}
