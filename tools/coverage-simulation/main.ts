// The table of coverage: markdown on standard output, progress on standard error; its last line sums it up.

import type { Coverage } from "./simulate.ts";
import { simulate } from "./simulate.ts";
import { WORLDS } from "./worlds.ts";

const argument = (name: string, otherwise: number): number => {
  const i = process.argv.indexOf(`--${name}`);
  const value = i < 0 ? otherwise : Number(process.argv[i + 1]);
  if (!Number.isInteger(value) || value < 1) throw new RangeError(`--${name} must be a whole number of at least 1`);
  return value;
};

const sets = argument("sets", 300);
const seed = argument("seed", 20_261_127);
const share = (v: number): string => v.toFixed(3).replace(/^0/, "");
console.log("| world | claims | refused | covers, whole | worst cell | limit over truth |\n|---|---|---|---|---|---|");
const all: Coverage[] = [];
for (const [i, world] of WORLDS.entries()) {
  console.error(world.name);
  const c = simulate(world, sets, seed + i);
  all.push(c);
  console.log(
    `| ${c.name} | ${c.asked - c.refused} | ${share(c.refused / c.asked)} | ${share(c.whole)} | ${share(c.worst)} of ${c.worstOf} | ${share(c.ratio)} |`,
  );
}
const least = (of: (c: Coverage) => number): string => share(Math.min(...all.map(of)));
console.log(`\nworlds ${all.length}, worst whole ${least((c) => c.whole)}, worst cell ${least((c) => c.worst)}`);
