// What is known of each end of a cell's recordings: heat from its own runs, the battery from every room, the card from its size.

import { modeKey } from "../kit/index.ts";
import { isShutdown, PRESUMED, predictiveCurve } from "../statistics/index.ts";
import type { LevelledRun } from "./cellReport.ts";
import type { Ends, Known, PathAhead } from "./ends.ts";
import type { CellLimit } from "./limit.ts";
import type { CellRecords, RunRecord } from "./records.ts";
import type { Shared } from "./shared.ts";

export interface EndsReading {
  ends: Ends;
  /** Runs that heat and battery were read from. */
  runIds: string[];
  /** Runs of this cell that an empty battery ended. */
  endedByBattery: number;
}

export function endsOf(s: Shared, heat: CellRecords, limit: CellLimit, levelled: readonly LevelledRun[]): EndsReading {
  const { mode, condition } = heat.setup;
  // A battery does not know the room: every run of the mode on the same power speaks for it.
  const drained = s.battery.cells
    .filter((c) => modeKey(c.setup.mode) === modeKey(mode) && c.setup.condition.power === condition.power)
    .flatMap((c) => c.records);
  const byBattery = condition.power === "internal" || condition.power === "grip";
  const cardSec = s.q.cardSec[modeKey(mode)];
  const ends: Ends = {
    heat: heatKnown(heat, limit, levelled),
    battery: byBattery ? batteryOf(s, `${modeKey(mode)} ${condition.power}`, drained) : { by: "cannot end it" },
    card: cardSec === undefined ? { by: "nothing" } : { by: "size", atSec: cardSec, spread: NOMINAL_BITRATE },
  };
  const endedByBattery = heat.records.filter((r) => r.fold.end?.cause === "battery empty").length;
  return { ends, endedByBattery, runIds: [...new Set([...heat.records, ...(byBattery ? drained : [])].map((r) => r.runId))] };
}
/** One reading for all cells of a mode on the same power. */
function batteryOf(s: Shared, key: string, drained: readonly RunRecord[]): Known {
  const known = s.batteries.get(key) ?? knownFrom(drained, PRESUMED.battery);
  s.batteries.set(key, known);
  return known;
}
/** Relative spread of a card's time where the bitrate is the nominal one (common practice, no source). */
const NOMINAL_BITRATE = 0.05;

/** Where heat carries a claim the chance is the limit's own, so that the two cannot contradict one another. */
function heatKnown({ records }: CellRecords, limit: CellLimit, levelled: readonly LevelledRun[]): Known {
  if (!limit.ok) {
    const known = knownFrom(records, PRESUMED.heat);
    return known.by === "outlasted" ? { ...known, path: pathAhead(records, levelled) } : known;
  }
  const ends = shutdownsIn(records);
  return { by: "limit", curve: limit.curve, ends, outlasted: records.length - ends };
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
  if (ends > 0) return { by: "presumed", curve: predictiveCurve(runs, about), ends, outlasted: runs.length - ends };
  const reachedSec = records.map((r) => r.timeSec);
  const longest = { kind: "exact" as const, sec: Math.max(...reachedSec), day: null };
  return { by: "outlasted", reachedSec, curve: predictiveCurve([longest], about), path: null };
}
const shutdownsIn = (records: readonly RunRecord[]): number => records.filter((r) => isShutdown(r.lasted)).length;
