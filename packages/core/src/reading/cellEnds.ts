// What is known of each end of a cell's recordings: heat from its own runs, the battery from every room, the card from its size.

import { cellKey, modeKey } from "../kit/index.ts";
import type { StartBody } from "../runs/index.ts";
import { isDoubtful, isShutdown, PRESUMED, predictiveCurve, presumedLimitSec, takenAsEnd } from "../statistics/index.ts";
import type { LevelledRun } from "./cellReport.ts";
import type { Ends, Known, PathAhead } from "./ends.ts";
import type { CellLimit } from "./limit.ts";
import { cellLimits, limitSettings } from "./limit.ts";
import type { CellRecords, RunRecord } from "./records.ts";
import type { BatteryLimit, BatteryReading, Shared } from "./shared.ts";

export interface EndsReading {
  ends: Ends;
  /** Runs that heat and battery were read from. */
  runIds: string[];
  /** Runs of this cell, warm starts too, that an empty battery ended. */
  endedByBattery: number;
  /** How long the battery is relied on in this mode, in any room; null: no battery ends it, or none ran empty yet. */
  batteryLimit: BatteryLimit | null;
}

export function endsOf(s: Shared, heat: CellRecords, limit: CellLimit, levelled: readonly LevelledRun[]): EndsReading {
  const { mode, condition } = heat.setup;
  const byBattery = condition.power === "internal" || condition.power === "grip";
  const cardSec = s.q.cardSec[modeKey(mode)];
  const battery = byBattery ? batteryOf(s, heat.setup) : null;
  const ends: Ends = {
    heat: heatKnown(heat, limit, levelled),
    battery: battery?.known ?? { by: "cannot end it" },
    card: cardSec === undefined ? { by: "nothing" } : { by: "size", atSec: cardSec, spread: NOMINAL_BITRATE },
  };
  const endedByBattery = (battery?.records ?? []).filter(({ setup, event }) => event === 1 && cellKey(setup) === heat.key).length;
  return {
    ends,
    endedByBattery,
    batteryLimit: battery?.limit ?? null,
    runIds: [...new Set([...heat.records, ...(battery?.records ?? [])].map((r) => r.runId))],
  };
}

/** From so many empty batteries on their own scatter is better than the usual one. */
const OF_ITS_OWN = 6;

/** One reading for all cells of a mode on the same power: a battery knows neither the room nor a warm body. A recovery starts with a used one and stays out. */
function batteryOf(s: Shared, setup: StartBody): BatteryReading {
  const key = `${modeKey(setup.mode)} ${setup.condition.power}`;
  const made = s.batteries.get(key);
  if (made !== undefined) return made;
  const records = s.drained.filter((r) => `${modeKey(r.setup.mode)} ${r.setup.condition.power}` === key);
  const reading = { ...batteryFrom(s, setup, records), records };
  s.batteries.set(key, reading);
  return reading;
}
function batteryFrom(s: Shared, setup: StartBody, records: readonly RunRecord[]): Omit<BatteryReading, "records"> {
  const of = { runs: records.length, empty: shutdownsIn(records) };
  if (of.empty >= OF_ITS_OWN) {
    const limit = cellLimits([{ setup, records }], limitSettings(s.q.levels, s.ledger)).of(0);
    if (limit.ok) return { known: fromLimit(limit, records), limit: { sec: limit.lowerMs / 1000, by: "own scatter", ...of } };
  }
  const known = knownFrom(records, PRESUMED.battery);
  if (of.empty === 0) return { known, limit: null };
  const { share, confidence } = s.q.levels;
  // Of an end nobody explained the reading that claims less.
  const runs = records.map((r) => r.lasted);
  const sec = Math.min(...[runs, runs.map(takenAsEnd)].map((r) => presumedLimitSec(r, PRESUMED.battery, share, confidence)));
  return { known, limit: { sec, by: "usual scatter", ...of } };
}
/** Relative spread of a card's time where the bitrate is the nominal one (common practice, no source). */
const NOMINAL_BITRATE = 0.05;

/** Where heat carries a claim the chance is the limit's own, so that the two cannot contradict one another. */
function heatKnown({ records }: CellRecords, limit: CellLimit, levelled: readonly LevelledRun[]): Known {
  if (!limit.ok) {
    const known = knownFrom(records, PRESUMED.heat);
    return known.by === "outlasted" ? { ...known, path: pathAhead(records, levelled) } : known;
  }
  return fromLimit(limit, records);
}
function fromLimit({ curve }: CellLimit & { ok: true }, records: readonly RunRecord[]): Known {
  const ends = shutdownsIn(records);
  return { by: "limit", curve, ends, outlasted: records.length - ends };
}

/** What the gauge of the longest run says of the time after it; null: nothing. */
function pathAhead(records: readonly RunRecord[], levelled: readonly LevelledRun[]): PathAhead | null {
  const longest = records.reduce<RunRecord | null>((most, r) => (most === null || r.timeSec > most.timeSec ? r : most), null);
  const reading = levelled.find((l) => l.runId === longest?.runId)?.reading;
  if (reading?.ok !== true) return null;
  const climbing = reading.verdict === "still climbing";
  return { levelsOff: reading.levelsOff, climbing, rangeSec: climbing ? reading.rangeSec : null };
}

function knownFrom(records: readonly RunRecord[], about: number): Known {
  const runs = records.map((r) => r.lasted);
  const ends = shutdownsIn(records);
  if (runs.length === 0) return { by: "nothing" };
  const low = runs.some(isDoubtful) ? { low: predictiveCurve(runs.map(takenAsEnd), about) } : {};
  if (ends > 0) return { by: "presumed", curve: predictiveCurve(runs, about), ends, outlasted: runs.length - ends, ...low };
  const reachedSec = records.map((r) => r.timeSec);
  const longest = { kind: "exact" as const, sec: Math.max(...reachedSec), day: null };
  return { by: "outlasted", reachedSec, curve: predictiveCurve([longest], about), path: null, ...low };
}
const shutdownsIn = (records: readonly RunRecord[]): number => records.filter((r) => isShutdown(r.lasted)).length;
