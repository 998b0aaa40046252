// What earlier runs say about a cell that is about to be tested: where eight of ten runs to come are expected to end by heat, from the same posterior
// as its dependable limit; where no limit may be claimed, the range that was seen. Without runs of its own the nearest cell speaks, said so: nothing
// is scaled from one cell to another, and the basis travels with the number.

import { median } from "es-toolkit/math";
import type { CandidateRun, Counted, Lasting } from "../cells/index.ts";
import { DEFAULT_LEVELS, daysOfRuns, eligible, lastedOf } from "../cells/index.ts";
import { protocolTauMin, timeConstantOf } from "../heat/index.ts";
import type { CellSetup, ConditionSnapshot, ModeSnapshot } from "../kit/index.ts";
import { cellKey, modeKey } from "../kit/index.ts";
import type { CellLimit } from "../reading/index.ts";
import { cellLimits, limitSettings } from "../reading/index.ts";
import type { TemperatureUnit } from "../format/index.ts";
import { chanceAt, timeOfChance } from "../statistics/index.ts";
import { conditionDifferences } from "./compare.ts";

export const BASES = [
  "this cell",
  "another firmware",
  "another protocol",
  "another condition",
  "another unit",
  "another mode",
  "none",
] as const;
export type Basis = (typeof BASES)[number];

export interface HeatRange {
  basis: Exclude<Basis, "none">;
  /** What the runs stand on, for people: "this cell", "the nearest: Pontoon, differs in: ...". */
  basisWords: string;
  /** "estimate": eight of ten runs to come; "seen": shortest and longest so far. */
  by: "estimate" | "seen";
  /** Seen: the earliest heat end, ms recorded; where nothing ended by heat, the longest record. */
  loMs: number;
  /** Seen: longest record that ended by heat; null when a longer one did not, or none did: no upper end. */
  hiMs: number | null;
  /** Typical run; seen: middle record, ended by heat or not. */
  midMs: number;
  n: number;
  events: number;
  runIds: string[];
}
export type Expected = { ok: true; range: HeatRange } | { ok: false; reason: "no-earlier-run" };

export interface EarlierCell {
  setup: CellSetup;
  key: string;
  counted: Counted[];
  records: Lasting[];
}
/** Runs with what is read of them once. */
export interface Earlier {
  cells: EarlierCell[];
  /** All cells of this one's unit on its clock, and its own place among them: what a limit is read from. */
  unitOf(cell: EarlierCell): { cells: EarlierCell[]; index: number; candidates: readonly CandidateRun[] };
  limitOf(cell: EarlierCell): CellLimit;
}

/** Names a unit on one clock. */
const unitKey = ({ clockId, unit }: Pick<CellSetup, "clockId" | "unit">): string => `${clockId}\n${unit.id}`;

/** Groups once; then every cell of a plan can be asked. Only cold, ended, unstruck runs within their ambient speak. `zoneOf`: of a clock, for the days of its runs. */
export function earlierOf(candidates: readonly CandidateRun[], zoneOf: (clockId: string) => string): Earlier {
  const units = new Map<string, { candidates: CandidateRun[]; cells: EarlierCell[] }>();
  for (const c of candidates) {
    if (c.fold.setup === null) continue;
    const key = unitKey(c.fold.setup);
    const unit = units.get(key) ?? { candidates: [], cells: [] };
    unit.candidates.push(c);
    units.set(key, unit);
  }
  for (const unit of units.values()) unit.cells = cellsOf(unit.candidates, zoneOf);
  const read = new Map<string, CellLimit[]>();
  const limitsOf = (key: string): CellLimit[] => {
    const { candidates: mine = [], cells = [] } = units.get(key) ?? {};
    const limits = cellLimits(cells, limitSettings(DEFAULT_LEVELS, timeConstantOf(mine, protocolTauMin(mine))));
    return cells.map((_, i) => limits.of(i));
  };
  const unitOf: Earlier["unitOf"] = (cell) => {
    const { candidates: mine = [], cells = [] } = units.get(unitKey(cell.setup)) ?? {};
    return { cells, index: cells.indexOf(cell), candidates: mine };
  };
  return {
    cells: [...units.values()].flatMap((u) => u.cells),
    unitOf,
    limitOf: (cell) => {
      const key = unitKey(cell.setup);
      const limits = read.get(key) ?? limitsOf(key);
      read.set(key, limits);
      return limits[unitOf(cell).index] as CellLimit;
    },
  };
}

function cellsOf(candidates: readonly CandidateRun[], zoneOf: (clockId: string) => string): EarlierCell[] {
  const clockId = candidates[0]?.fold.setup?.clockId ?? "";
  const starts = candidates.flatMap(({ runId, fold }) => (fold.startMs === null ? [] : [{ runId, startMs: fold.startMs }]));
  const days = daysOfRuns(starts, zoneOf(clockId));
  const groups = new Map<string, { setup: CellSetup; runs: CandidateRun[] }>();
  for (const c of candidates) {
    if (c.fold.setup === null) continue;
    const key = cellKey(c.fold.setup);
    const group = groups.get(key) ?? { setup: c.fold.setup, runs: [] };
    group.runs.push(c);
    groups.set(key, group);
  }
  return [...groups].flatMap(([key, { setup, runs }]): EarlierCell[] => {
    const { counted } = eligible(runs, "shutdown");
    if (counted.length === 0) return [];
    const records = counted.map(
      (c): Lasting => ({
        runId: c.runId,
        timeSec: c.timeMs.lo / 1000,
        event: c.event,
        lasted: lastedOf(c, days.get(c.runId) ?? null),
      }),
    );
    return [{ key, setup, counted, records }];
  });
}

/** The range for one cell: its own runs, else the nearest cell by the order of `BASES`, ties by how much differs; `unit`: of the words. */
export function expectedHeat(earlier: Earlier, cell: CellSetup, unit: TemperatureUnit = "C"): Expected {
  const sameClock = earlier.cells.filter((c) => c.setup.clockId === cell.clockId);
  const ranked = sameClock
    .map((c) => ({ c, basis: basisOf(c.setup, cell), far: distance(c.setup, cell) }))
    .filter((r): r is typeof r & { basis: Exclude<Basis, "none"> } => r.basis !== "none")
    .sort((a, b) => BASES.indexOf(a.basis) - BASES.indexOf(b.basis) || a.far - b.far || b.c.counted.length - a.c.counted.length);
  const best = ranked[0];
  if (best === undefined) return { ok: false, reason: "no-earlier-run" };
  return {
    ok: true,
    range: {
      basis: best.basis,
      basisWords: words(best.basis, best.c.setup, cell, unit),
      ...(estimateOf(best.c, earlier.limitOf(best.c)) ?? rangeOf(best.c.counted)),
    },
  };
}

/** Where eight of ten runs to come end, between one in ten and nine in ten; null where nothing may be claimed. */
function estimateOf({ counted, records }: EarlierCell, limit: CellLimit): Omit<HeatRange, "basis" | "basisWords"> | null {
  if (!limit.ok) return null;
  const at = (chance: number): number | null => {
    const sec = timeOfChance(limit.curve, chance);
    // Where most runs never end by heat there is no upper end.
    return chanceAt(limit.curve, sec) > chance + 0.01 ? null : sec;
  };
  const [lo, mid, hi] = [at(0.9), at(0.5), at(0.1)];
  if (lo === null || mid === null) return null;
  return {
    by: "estimate",
    loMs: Math.floor(1000 * lo),
    hiMs: hi === null ? null : Math.ceil(1000 * hi),
    midMs: Math.round(1000 * mid),
    n: counted.length,
    events: records.filter((r) => r.lasted.kind !== "censored").length,
    runIds: counted.map((c) => c.runId),
  };
}

function rangeOf(counted: readonly Counted[]): Omit<HeatRange, "basis" | "basisWords"> {
  const times = counted.map((c) => c.timeMs.lo);
  const heats = counted.filter((c) => c.event === 1).map((c) => c.timeMs.hi);
  const longest = Math.max(...times);
  const hi = heats.length === 0 ? null : Math.max(...heats);
  return {
    by: "seen",
    // A run that something else ended early tells no low end: only heat ends do; without one, the longest is what was outlasted.
    loMs: heats.length === 0 ? longest : Math.min(...counted.filter((c) => c.event === 1).map((c) => c.timeMs.lo)),
    hiMs: hi !== null && hi >= longest ? hi : null,
    midMs: Math.floor(median(times)),
    n: counted.length,
    events: heats.length,
    runIds: counted.map((c) => c.runId),
  };
}

function basisOf(has: CellSetup, wanted: CellSetup): Basis {
  const sameMode = modeKey(has.mode) === modeKey(wanted.mode);
  const sameCondition = conditionDifferences(has.condition, wanted.condition).length === 0;
  if (has.unit.id === wanted.unit.id && sameMode) {
    if (!sameCondition) return "another condition";
    if (has.protocol.id !== wanted.protocol.id) return "another protocol";
    return has.unit.firmware === wanted.unit.firmware ? "this cell" : "another firmware";
  }
  if (has.unit.modelId === wanted.unit.modelId && sameMode) return "another unit";
  return has.unit.id === wanted.unit.id ? "another mode" : "none";
}

/** Only an order among cells of one basis: degrees of ambient, ten for sun, three for each other setting, then how the modes differ. */
function distance(has: CellSetup, wanted: CellSetup): number {
  return conditionDistance(has.condition, wanted.condition) + 20 * Math.abs(Math.log(heatScore(has.mode) / heatScore(wanted.mode)));
}

function conditionDistance(a: ConditionSnapshot, b: ConditionSnapshot): number {
  const others = conditionDifferences(a, b).filter((d) => d.what !== "ambient" && d.what !== "sun" && d.what !== "tolerance").length;
  const sun = { none: 0, shade: 2, direct: 10 };
  return Math.abs(a.ambientC - b.ambientC) + Math.abs(sun[a.sun] - sun[b.sun]) + 3 * others;
}

function words(basis: Basis, has: CellSetup, wanted: CellSetup, unit: TemperatureUnit): string {
  const differs = conditionDifferences(has.condition, wanted.condition, unit).map((d) => d.words);
  const also = differs.length === 0 ? "" : `, ${differs.join(", ")}`;
  switch (basis) {
    case "this cell":
      return "this mode and condition";
    case "another firmware":
      return `nearest: firmware ${has.unit.firmware}`;
    case "another protocol":
      return `nearest: protocol ${has.protocol.name}`;
    case "another condition":
      return `nearest: ${has.condition.name}${also}`;
    case "another unit":
      return `nearest: unit ${has.unit.name}${also}`;
    case "another mode":
    case "none":
      return `nearest: mode ${has.mode.name}${also}`;
  }
}

const READOUT_WEIGHT: Readonly<Record<ModeSnapshot["readout"], number>> = {
  oversampled: 1.6,
  "pixel for pixel": 1.2,
  "line-skipped": 1,
  binned: 1,
};

/**
 * A rank of modes by how much heat they should make, from the specification alone: pixel rate, read-out, compression, bitrate. An order
 * to test in, not a prediction. Common practice, no source.
 */
export function heatScore(m: ModeSnapshot): number {
  const gigapixels = (m.widthPx * m.heightPx * m.fpsNum) / m.fpsDen / 1e9;
  const codec = m.compression === "all-intra" ? 1.15 : 1;
  return (0.3 + gigapixels) * READOUT_WEIGHT[m.readout] * codec + m.mbps / 2000;
}
