// The full coverage table: markdown on standard output, progress on standard error.

import { randomFrom } from "@keep-rolling/core/statistics";
import type { Scenario } from "./simulate.ts";
import { simulate } from "./simulate.ts";

const argument = (name: string, otherwise: number): number => {
  const i = process.argv.indexOf(`--${name}`);
  const value = i < 0 ? otherwise : Number(process.argv[i + 1]);
  if (!Number.isInteger(value) || value < 1) throw new RangeError(`--${name} must be a whole number of at least 1`);
  return value;
};

const scenario = (name: string, more: Partial<Scenario>): Scenario => ({
  name,
  law: "weibull",
  sd: 0.15,
  cells: 1,
  runs: 5,
  cutShare: 0,
  ...more,
});
const SCENARIOS: readonly Scenario[] = [
  scenario("one cell of 5", {}),
  scenario("one cell of 8", { runs: 8 }),
  scenario("one cell of 10, 3 in 10 cut", { runs: 10, cutShare: 0.3 }),
  scenario("one cell of 8, truly lognormal", { runs: 8, law: "lognormal", sd: 0.1 }),
  scenario("four cells of 3", { cells: 4, runs: 3, law: "lognormal", sd: 0.1 }),
  scenario("six cells of 4", { cells: 6, runs: 4, law: "lognormal", sd: 0.1 }),
  scenario("six cells of 4, 3 in 10 cut", { cells: 6, runs: 4, law: "lognormal", sd: 0.1, cutShare: 0.3 }),
  scenario("six cells of 4, truly Weibull", { cells: 6, runs: 4 }),
  scenario("one cell of 3, 10 % assumed and true", { runs: 3, law: "lognormal", sd: 0.1 }),
  scenario("one cell of 3, 10 % assumed, 15 % true", { runs: 3, law: "lognormal", sd: 0.15 }),
];

const [sets, draws] = [argument("sets", 2000), argument("draws", 1000)];
const perCent = (v: number): string => `${(100 * v).toFixed(1)} %`;
console.log("| unit | truth | rung | claimed | covers | bound over truth | refused |\n|---|---|---|---|---|---|---|");
for (const [i, s] of SCENARIOS.entries()) {
  console.error(s.name);
  // Resampling is slow: fewer sets where pivots are drawn.
  const n = s.cells > 1 && s.cutShare > 0 ? Math.ceil(sets / 4) : sets;
  const seed = randomFrom(i).int(1, 1e9);
  const c = simulate(s, n, draws, seed);
  const truth = `${s.law}, ${perCent(s.sd)}`;
  for (const [rung, t] of Object.entries(c.by))
    console.log(
      `| ${s.name} | ${truth} | ${rung} | ${t.claimed} of ${n} | ${perCent(t.covered / t.claimed)} | ${t.ratio.toFixed(2)} | ${perCent(c.refused / n)} |`,
    );
}
