// The runs of a cell's mode against the longest of them, with the physics and effects that the unit knows.

import { groupBy } from "es-toolkit/array";
import { modeKey } from "../kit/index.ts";
import type { StartBody } from "../runs/index.ts";
import type { PhysicsResult } from "./ambient.ts";
import type { Differences } from "./differences.ts";
import { differencesOf } from "./differences.ts";
import { tauOf } from "./limit.ts";
import { COLD_SCATTER } from "./cellReport.ts";
import type { CellRecords } from "./records.ts";
import type { Shared } from "./shared.ts";
import { physicsOf, scatterOf, settingsKey } from "./shared.ts";

/** One reading for all cells of a mode on one firmware. */
export function differencesIn(s: Shared, { setup }: CellRecords): Differences {
  const key = `${modeKey(setup.mode)} ${setup.unit.firmware}`;
  const known = s.differences.get(key);
  if (known !== undefined) return known;
  const records = s.warmToo.filter((r) => `${modeKey(r.setup.mode)} ${r.setup.unit.firmware}` === key);
  const physics = physicsWithMost(s, setup);
  const made = differencesOf({
    records,
    tau: tauOf(s.ledger),
    tauFitted: s.ledger.by === "recoveries",
    physics: physics?.ok === true ? physics : null,
    effects: s.effects.ok ? s.effects.effects : [],
    // A cell that scatters widely is what is to be explained: its own scatter explains nothing.
    sd: Math.min(scatterOf(s, records), COLD_SCATTER),
  });
  s.differences.set(key, made);
  return made;
}
/** Of the settings in which the mode was run most, what another room alone does; null: it is not known. */
function physicsWithMost(s: Shared, { mode, unit }: StartBody): PhysicsResult | null {
  const mine = s.heat.cells.filter((c) => modeKey(c.setup.mode) === modeKey(mode) && c.setup.unit.firmware === unit.firmware);
  const groups = Object.values(groupBy(mine, (c) => settingsKey(c.setup)));
  const size = (g: readonly CellRecords[]): number => g.reduce((sum, c) => sum + c.records.length, 0);
  const most = groups.reduce<CellRecords[]>((best, g) => (size(g) > size(best) ? g : best), []);
  return most[0] === undefined ? null : physicsOf(s, most[0]);
}
