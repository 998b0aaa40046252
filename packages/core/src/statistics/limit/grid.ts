// The grid of scatters and what is held likely on it before any run: nearly flat from one to fifty per cent of log time, and how alike the cells of
// a unit scatter. Source: docs/methods/dependable-limit.md, step 4.

export const SIGMAS = 65;
const [SIGMA_LOW, SIGMA_HIGH] = [0.005, 1.25];
const [FLAT_LOW, FLAT_HIGH] = [0.01, 0.5];
const [SHOULDER_LOW, SHOULDER_HIGH] = [0.5, 0.4];
const UNLIKENESS = [0, 0.3, 0.6, 0.9];
/** Of the weight so much lets a cell go its own way. */
const OWN_WAY = 0.3;

const at = (i: number): number => SIGMA_LOW * (SIGMA_HIGH / SIGMA_LOW) ** (i / (SIGMAS - 1));
export const SIGMA: readonly number[] = Array.from({ length: SIGMAS }, (_, i) => at(i));
const edge = (i: number): number => (i === 0 || i === SIGMAS - 1 ? 0.5 : 1);

function normalised(weight: (i: number) => number): Float64Array {
  const values = Float64Array.from({ length: SIGMAS }, (_, i) => weight(i) * edge(i));
  const sum = values.reduce((a, b) => a + b, 0);
  return values.map((v) => v / sum);
}

const shoulder = (beyond: number, sd: number): number => Math.exp(-0.5 * (beyond / sd) ** 2);

/** g: what a scatter is held likely. */
export const BASE: Float64Array = normalised((i) => {
  const sigma = SIGMA[i] as number;
  if (sigma < FLAT_LOW) return shoulder(Math.log(sigma / FLAT_LOW), SHOULDER_LOW);
  return sigma > FLAT_HIGH ? shoulder(Math.log(sigma / FLAT_HIGH), SHOULDER_HIGH) : 1;
});

/** One way in which a cell may be like the typical scatter i: its weight and, by q, what the cell's scatter is then held likely. */
export interface Likeness {
  i: number;
  weight: number;
  given: Float64Array;
}

/** Typical scatters and unlikenesses together, each with the cell's scatter under it. */
export const LIKENESSES: readonly Likeness[] = Array.from({ length: SIGMAS }, (_, i) =>
  UNLIKENESS.map((omega): Likeness => {
    const near =
      omega === 0
        ? Float64Array.from({ length: SIGMAS }, (_s, q) => (q === i ? 1 : 0))
        : normalised((q) => shoulder(Math.log((SIGMA[q] as number) / (SIGMA[i] as number)), omega));
    const given = near.map((p, q) => (1 - OWN_WAY) * p + OWN_WAY * (BASE[q] as number));
    return { i, weight: (BASE[i] as number) / UNLIKENESS.length, given };
  }),
).flat();
