// What is assumed of hands and stabilisers where shots are kept or not: stated grids with weights, printed in "how this is computed".

/** A value of a grid with what is believed of it; weights sum to one. */
export interface Weighted {
  value: number;
  weight: number;
}

const SLOPES = 12;
/** How fast the keep rate falls, per stop: 0.4 to 6, most believed about 1.2. */
export const SLOPE: readonly Weighted[] = normalised(
  Array.from({ length: SLOPES }, (_, i) => {
    const value = 0.4 * 15 ** (i / (SLOPES - 1));
    return { value, weight: Math.exp(-0.5 * (Math.log(value / 1.2) / 0.85) ** 2) };
  }),
);
/** Share of shots lost for other reasons, however fast. */
export const LAPSE: readonly Weighted[] = weighted([0, 0.02, 0.05, 0.08], [0.3, 0.3, 0.25, 0.15]);
/** Correlation of two shots of one visit. */
export const DEPENDENCE: readonly Weighted[] = weighted([0, 0.08, 0.16, 0.25], [0.1, 0.3, 0.3, 0.3]);
/** Scatter of a tester's threshold from session to session, stops. */
export const SESSION_SCATTER: readonly Weighted[] = weighted([0.1, 0.2, 0.35, 0.5, 0.7, 1], [0.08, 0.17, 0.25, 0.25, 0.17, 0.08]);
/** Scatter of the stops gained from session to session: the day's form cancels. */
export const GAIN_SCATTER: readonly Weighted[] = weighted([0.05, 0.15, 0.3, 0.5], [0.3, 0.3, 0.25, 0.15]);
/** Scatter of one threshold between days where settings were not shot together, stops. */
export const DAY_SCATTER = 0.45;
/** What is kept by luck, however slow. */
export const FLOOR = 0.02;
/** Steps of a stop on which a threshold is looked for. */
export const STEPS = 12;

function weighted(values: readonly number[], weights: readonly number[]): Weighted[] {
  return values.map((value, i) => ({ value, weight: weights[i] ?? 0 }));
}
function normalised(grid: readonly Weighted[]): Weighted[] {
  const sum = grid.reduce((s, g) => s + g.weight, 0);
  return grid.map((g) => ({ value: g.value, weight: g.weight / sum }));
}
