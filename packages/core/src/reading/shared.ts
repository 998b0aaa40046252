// What the cells of a unit read together: records, limits and fits that several questions stand on, each made once.

import type { CandidateRun, ClaimLevels } from "../cells/index.ts";
import type { TimeConstant } from "../heat/index.ts";
import { modeKey, protocolKey } from "../kit/index.ts";
import type { Endpoint, StartBody } from "../runs/index.ts";
import { kept, PRESUMED } from "../statistics/index.ts";
import type { AmbientReading, PhysicsResult, PhysicsTau } from "./ambient.ts";
import { fitPhysics } from "./ambient.ts";
import type { Differences } from "./differences.ts";
import type { EffectsResult } from "./effects.ts";
import type { Known } from "./ends.ts";
import type { CellLimit } from "./limit.ts";
import { tauOf } from "./limit.ts";
import type { Figure } from "../kit/index.ts";
import type { CellRecords, RunRecord, UnitRecords } from "./records.ts";

export interface UnitQuestion {
  /** Runs of one unit on one clock. */
  candidates: readonly CandidateRun[];
  endpoint: Endpoint;
  levels: ClaimLevels;
  tauMin: number;
  figures: readonly Figure[];
  /** Seconds an empty card lasts, by mode key; absent: not known. */
  cardSec: Readonly<Record<string, number>>;
  /** Time zone in which the runs were made: it tells their days. */
  zone: string;
}

/** How long a battery is relied on in a mode, seconds. */
export interface BatteryLimit {
  sec: number;
  /** With few empties batteries are taken to scatter as they usually do. */
  by: "own scatter" | "usual scatter";
  runs: number;
  empty: number;
}
export interface BatteryReading {
  known: Known;
  /** Null: none ran empty. */
  limit: BatteryLimit | null;
  records: readonly RunRecord[];
}
export interface Shared {
  q: UnitQuestion;
  /** Read to the shutdown. */
  heat: UnitRecords;
  heatLimits: readonly CellLimit[];
  ledger: TimeConstant;
  effects: EffectsResult;
  /** Runs read to the shutdown, warm ones too. */
  warmToo: readonly RunRecord[];
  differences: Map<string, Differences>;
  physics: Map<string, PhysicsResult>;
  ambient: Map<string, AmbientReading>;
  /** The cell of every run, and `settingsKey` by cell: asked for often, long to build. */
  cellOf: ReadonlyMap<string, string>;
  cellSettings: ReadonlyMap<string, string>;
  /** Runs read to the empty battery, warm starts too. */
  drained: readonly RunRecord[];
  batteries: Map<string, BatteryReading>;
}

/** All that a condition says but its temperature. */
export const settingsKey = ({ mode, condition, protocol }: StartBody): string =>
  [modeKey(mode), condition.sun, condition.air, condition.screen, condition.power, condition.powerOffSetting, protocolKey(protocol)].join(
    "\n",
  );

/** Names all cells that differ in temperature alone. */
export const alikeKey = (s: Shared, cell: CellRecords): string => `${s.cellSettings.get(cell.key) ?? ""} ${cell.setup.unit.firmware}`;
export const alikeRecords = (s: Shared, cell: CellRecords): RunRecord[] =>
  s.heat.cells
    .filter((c) => alikeKey(s, c) === alikeKey(s, cell))
    .flatMap((c) => c.records)
    // A temperature nobody recorded is none to fit a law to.
    .filter((r) => r.setup.ambient.basis !== "not recorded");

/** One fit for all cells that differ in temperature alone. */
export function physicsOf(s: Shared, cell: CellRecords): PhysicsResult {
  const key = alikeKey(s, cell);
  const known = s.physics.get(key);
  if (known !== undefined) return known;
  const records = alikeRecords(s, cell);
  const made = fitOnce(records, tauOf(s.ledger), scatterOf(s, records));
  s.physics.set(key, made);
  return made;
}

const FITS_KEPT = 100;
const fitOnce = kept(
  FITS_KEPT,
  (records: readonly RunRecord[], tau: PhysicsTau, sd) =>
    JSON.stringify([tau, sd, records.map((r) => [r.runId, r.timeSec, r.event, r.setup.ambient.valueC])]),
  fitPhysics,
);

/** The widest of the cells that these records are from: a law must not look surer than its runs. */
export function scatterOf({ heat, heatLimits }: Shared, records: readonly RunRecord[]): number {
  const scatters = heatLimits.flatMap((limit, i) =>
    "scatter" in limit && heat.cells[i]?.records.some((r) => records.includes(r)) === true ? [limit.scatter] : [],
  );
  return scatters.length === 0 ? PRESUMED.heat : Math.max(...scatters);
}
