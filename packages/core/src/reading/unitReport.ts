// The reading of one unit: every cell by itself, and what only several cells together can tell. Plain data, so that it crosses from a worker.

import { groupBy } from "es-toolkit/array";
import { recoveriesOf } from "../heat/index.ts";
import type { Recovery } from "../heat/index.ts";
import { timeConstantOf } from "../heat/index.ts";
import type { TimeConstant } from "../heat/index.ts";
import { typicalOf } from "../cells/index.ts";
import type { ClaimLevels, CandidateRun } from "../cells/index.ts";
import { isShutdown, PRESUMED, predictiveCurve } from "../statistics/index.ts";
import { cellKey } from "../kit/index.ts";
import type { Endpoint, StartBody } from "../runs/index.ts";
import { modeKey, protocolKey } from "../kit/index.ts";
import { summarise } from "../runs/index.ts";
import type { AmbientTime, PhysicsResult } from "./ambient.ts";
import { fitPhysics, physicsAt, REACH_C, regressionOf } from "./ambient.ts";
import type { Change } from "./beforeAfter.ts";
import { compareChange } from "./beforeAfter.ts";
import type { CellReport, LevelledRun } from "./cellReport.ts";
import { lessThanTypical, reportCell } from "./cellReport.ts";
import type { Differences } from "./differences.ts";
import { differencesOf } from "./differences.ts";
import type { EffectsFit, EffectsResult } from "./effects.ts";
import { effectRecords, effectsOf } from "./effects.ts";
import type { Ends, Known, PathAhead } from "./ends.ts";
import type { CellLimit } from "./limit.ts";
import { cellLimits, limitSettings, tauOf } from "./limit.ts";
import type { Figure, RatingCheck, WaterfallResult } from "./rating.ts";
import { checkRating, codecFactor, FAIR_C, saidOf, waterfall } from "./rating.ts";
import type { CellRecords, RunRecord, UnitRecords } from "./records.ts";
import { unitRecords } from "./records.ts";
import type { DutyLine, RecoveryResult } from "./recovery.ts";
import { dutyLines, fitRecovery } from "./recovery.ts";

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
export interface AmbientPoint {
  ambientC: number;
  physics: AmbientTime;
  regression: AmbientTime;
}
export interface AmbientReading {
  physics: Omit<PhysicsResult & { ok: true }, "within"> | (PhysicsResult & { ok: false });
  /** Every degree in reach, and the settings shared by the runs behind it. */
  points: AmbientPoint[];
  tested: { ambientC: number; timeSec: number; event: 0 | 1; runId: string }[];
}
export interface RecoveryReading {
  points: Recovery[];
  fit: RecoveryResult;
  fallbacks: { runId: string; timeSec: number; event: 0 | 1; mode: string }[];
  duty: DutyLine[];
  /** What the duty lines rest on: the bound where there is one, else the typical time less its margin. */
  dutyFromSec: number | null;
}
export interface EndsReading {
  ends: Ends;
  /** Runs that heat and battery were read from. */
  runIds: string[];
}
export interface FigureReading {
  figure: Figure;
  check: RatingCheck | null;
  waterfall: WaterfallResult | null;
}
export interface FullCell extends CellReport {
  /** The runs of its mode and firmware against the longest of them. */
  differences: Differences;
  ambient: AmbientReading;
  recovery: RecoveryReading;
  ends: EndsReading;
  figures: FigureReading[];
}
export interface ChangeReading {
  kind: "firmware" | "setting";
  what: string;
  before: string;
  after: string;
  modeName: string;
  conditionName: string;
  change: Change;
  runIds: { before: string[]; after: string[] };
}
export interface UnitReport {
  endpoint: Endpoint;
  levels: ClaimLevels;
  tauMin: number;
  /** What the ledger of the start heats works with. */
  ledger: TimeConstant;
  cells: FullCell[];
  effects: Omit<EffectsFit, "model"> | (EffectsResult & { ok: false });
  changes: ChangeReading[];
  /** Share of the shutdown rise at the start of every run, by the ledger. */
  startHeat: Record<string, number>;
}

/** Duty cycles are told for these minutes on, for ever and for an afternoon of four hours. */
export const DUTY_ONS_SEC = [5, 10, 15, 20, 30].map((m) => m * 60);
export const AFTERNOON_SEC = 4 * 3600;

export function readUnit(q: UnitQuestion): UnitReport {
  const ledger = timeConstantOf(q.candidates, q.tauMin);
  const to = (endpoint: Endpoint): UnitRecords => unitRecords(q.candidates, endpoint, q.levels, ledger.tauMin, q.zone);
  const limitsOf = (unit: UnitRecords): CellLimit[] => {
    const limits = cellLimits(unit.cells, limitSettings(q.levels, ledger));
    return unit.cells.map((_, i) => limits.of(i));
  };
  const unit = to(q.endpoint);
  const limits = limitsOf(unit);
  // Physics is about heat, whatever is asked.
  const heat = q.endpoint === "shutdown" ? unit : to("shutdown");
  const heatLimits = heat === unit ? limits : limitsOf(heat);
  const effects = effectsOf(effectRecords(unit, q.candidates));
  const warmToo = effectRecords(heat, q.candidates);
  const shared: Shared = {
    q,
    heat,
    heatLimits,
    ledger,
    effects: heat === unit ? effects : effectsOf(warmToo),
    warmToo,
    differences: new Map(),
    physics: new Map(),
    ambient: new Map(),
    cellOf: new Map(q.candidates.map((c) => [c.runId, c.fold.setup === null ? "" : cellKey(c.fold.setup)])),
    cellSettings: new Map(unit.cells.map((c) => [c.key, settingsKey(c.setup)])),
    battery: to("batteryEmpty"),
    batteries: new Map(),
  };
  // The same runs in the same order make the same cells for every endpoint.
  const cells = unit.cells.map((cell, i) => fullCell(shared, cell, limits[i] as CellLimit, i));
  return {
    endpoint: q.endpoint,
    levels: q.levels,
    tauMin: q.tauMin,
    ledger,
    cells,
    effects: withoutModel(effects),
    changes: changesOf(unit.cells),
    startHeat: Object.fromEntries(unit.startHeat),
  };
}

function withoutModel(effects: EffectsResult): UnitReport["effects"] {
  if (!effects.ok) return effects;
  const { model: _model, ...rest } = effects;
  return rest;
}

interface Shared {
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
  battery: UnitRecords;
  batteries: Map<string, Known>;
}

function fullCell(s: Shared, cell: CellRecords, limit: CellLimit, index: number): FullCell {
  const heat = s.heat.cells[index] as CellRecords;
  const heatLimit = s.heatLimits[index] as CellLimit;
  const report = reportCell(cell, heat, limit, s.q.candidates, s.q.levels, s.ledger);
  return {
    ...report,
    differences: differencesIn(s, heat),
    ambient: ambientOf(s, heat),
    recovery: recoveryOf(s, report.key, heat, heatLimit),
    ends: endsOf(s, heat, heatLimit, report.levelling),
    figures: figuresOf(s, heat),
  };
}

/** One reading for all cells of a mode on one firmware. */
function differencesIn(s: Shared, { setup }: CellRecords): Differences {
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
    sd: scatterOf(s, records),
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

/** All that a condition says but its temperature. */
const settingsKey = ({ mode, condition, protocol }: StartBody): string =>
  [modeKey(mode), condition.sun, condition.air, condition.screen, condition.power, condition.powerOffSetting, protocolKey(protocol)].join(
    "\n",
  );

/** Names all cells that differ in temperature alone. */
const alikeKey = (s: Shared, cell: CellRecords): string => `${s.cellSettings.get(cell.key) ?? ""} ${cell.setup.unit.firmware}`;
const alikeRecords = (s: Shared, cell: CellRecords): RunRecord[] =>
  s.heat.cells.filter((c) => alikeKey(s, c) === alikeKey(s, cell)).flatMap((c) => c.records);

/** One fit for all cells that differ in temperature alone. */
function physicsOf(s: Shared, cell: CellRecords): PhysicsResult {
  const key = alikeKey(s, cell);
  const known = s.physics.get(key);
  if (known !== undefined) return known;
  const records = alikeRecords(s, cell);
  const made = fitPhysics(records, tauOf(s.ledger), scatterOf(s, records));
  s.physics.set(key, made);
  return made;
}

/** One reading for all of them; it travels once. */
function ambientOf(s: Shared, cell: CellRecords): AmbientReading {
  const key = alikeKey(s, cell);
  const read = s.ambient.get(key);
  if (read !== undefined) return read;
  const made = readAmbient(s, physicsOf(s, cell), alikeRecords(s, cell));
  s.ambient.set(key, made);
  return made;
}

function readAmbient(s: Shared, known: PhysicsResult, records: readonly RunRecord[]): AmbientReading {
  const all = s.effects.ok ? s.effects.model.records.map((r) => r.setup.ambient.valueC) : records.map((r) => r.setup.ambient.valueC);
  const [lo, hi] = all.length === 0 ? [0, -1] : [Math.floor(Math.min(...all) - REACH_C * 2), Math.ceil(Math.max(...all) + REACH_C * 2)];
  const regression = regressionOf(s.effects, records[0]);
  const points = Array.from({ length: Math.max(0, hi - lo + 1) }, (_, i): AmbientPoint => {
    const ambientC = lo + i;
    const physics: AmbientTime = known.ok ? physicsAt(known, ambientC) : { ok: false, reason: "no-slope" };
    return { ambientC, physics, regression: regression(ambientC) };
  });
  const tested = records.map((r) => ({ ambientC: r.setup.ambient.valueC, timeSec: r.timeSec, event: r.event, runId: r.runId }));
  if (!known.ok) return { physics: known, points, tested };
  const { within: _within, ...physics } = known;
  return { physics, points, tested };
}

/** The widest of the cells that these records are from: a law must not look surer than its runs. */
function scatterOf({ heat, heatLimits }: Shared, records: readonly RunRecord[]): number {
  const scatters = heatLimits.flatMap((limit, i) =>
    "scatter" in limit && heat.cells[i]?.records.some((r) => records.includes(r)) === true ? [limit.scatter] : [],
  );
  return scatters.length === 0 ? PRESUMED.heat : Math.max(...scatters);
}

function recoveryOf(s: Shared, key: string, heat: CellRecords, limit: CellLimit): RecoveryReading {
  const cold = (c: CandidateRun): number | null => {
    const home = s.heat.cells.find((u) => u.key === s.cellOf.get(c.runId));
    return home === undefined ? null : typicalOf(home);
  };
  const mine = s.q.candidates.filter((c) => s.cellOf.get(c.runId) === key);
  const points = recoveriesOf(s.q.candidates, cold).filter((r) => mine.some((c) => c.runId === r.runId));
  const tauSec = s.q.tauMin * 60;
  const fit = fitRecovery(points, typicalOf(heat), tauSec);
  const parents = new Set(mine.map((c) => c.runId));
  const fallbacks = s.q.candidates
    .filter(
      (c) =>
        c.fold.setup?.runKind === "fallback" &&
        c.fold.state === "ended" &&
        c.struck === null &&
        parents.has(c.fold.setup.parentRunId ?? ""),
    )
    .map((c) => ({
      runId: c.runId,
      timeSec: summarise(c.fold, 0).recordedMs.lo / 1000,
      event: c.fold.end?.cause === "thermal shutdown" ? (1 as const) : (0 as const),
      mode: c.fold.setup?.mode.name ?? "",
    }));
  const dutyFromSec = limit.ok ? limit.lowerMs / 1000 : lessThanTypical(heat);
  const duty = !fit.ok || dutyFromSec === null ? [] : dutyLines(dutyFromSec, tauSec, fit.range.hi, AFTERNOON_SEC, DUTY_ONS_SEC);
  return { points, fit, fallbacks, duty, dutyFromSec };
}

function endsOf(s: Shared, heat: CellRecords, limit: CellLimit, levelled: readonly LevelledRun[]): EndsReading {
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
  return { ends, runIds: [...new Set([...heat.records, ...(byBattery ? drained : [])].map((r) => r.runId))] };
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

function figuresOf(s: Shared, cell: CellRecords): FigureReading[] {
  const { mode } = cell.setup;
  const { firmware } = cell.setup.unit;
  const records = s.heat.cells.filter((c) => c.setup.mode.id === mode.id && c.setup.unit.firmware === firmware).flatMap((c) => c.records);
  const like = cell.records[0];
  return s.q.figures
    .filter((f) => f.modeId === mode.id)
    .map((figure) => {
      const check = figure.kind === "rated" ? checkRating(figure, records, s.q.levels, fairLimitSec(s, figure, cell)) : null;
      const codec = codecFactor(s.effects, mode, saidOf(figure.says?.compression));
      return { figure, check, waterfall: like === undefined ? null : waterfall(figure, like, typicalOf(cell), s.effects, codec) };
    });
}

/** The lowest limit of the cells that are the rating's condition, whichever cell is open; null: none of them has one. */
function fairLimitSec({ heat, heatLimits }: Shared, figure: Figure, like: CellRecords): number | null {
  const fair = heatLimits.flatMap((limit, i) => {
    const { mode, unit, condition } = (heat.cells[i] as CellRecords).setup;
    const same = mode.id === figure.modeId && unit.firmware === like.setup.unit.firmware;
    const near = figure.ambientC === null || Math.abs(condition.ambientC - figure.ambientC) <= FAIR_C;
    return limit.ok && same && near && condition.sun !== "direct" && condition.air !== "fan" ? [limit.lowerMs / 1000] : [];
  });
  return fair.length === 0 ? null : Math.min(...fair);
}

const SETTING_KEYS = ["sun", "air", "screen", "power", "powerOffSetting"] as const;
const SETTING_WORDS: Readonly<Record<(typeof SETTING_KEYS)[number], string>> = {
  sun: "sun",
  air: "air",
  screen: "screen",
  power: "power",
  powerOffSetting: "automatic power-off",
};

/** Pairs of cells that differ in firmware alone, or in one setting alone; the earlier first. */
function changesOf(cells: readonly CellRecords[]): ChangeReading[] {
  const withRuns = cells.filter((c) => c.records.length > 0);
  const pairs = withRuns.flatMap((a, i) =>
    withRuns.slice(i + 1).flatMap((b) => {
      const difference = onlyDifference(a.setup, b.setup);
      if (difference === null) return [];
      const [first, then] = startOf(a) <= startOf(b) ? [a, b] : [b, a];
      return [{ first, then, difference }];
    }),
  );
  return pairs.map(({ first, then, difference }): ChangeReading => {
    const say = (c: CellRecords): string => (difference === "firmware" ? c.setup.unit.firmware : String(c.setup.condition[difference]));
    return {
      kind: difference === "firmware" ? "firmware" : "setting",
      what: difference === "firmware" ? "firmware" : SETTING_WORDS[difference],
      before: say(first),
      after: say(then),
      modeName: first.setup.mode.name,
      conditionName: first.setup.condition.name,
      change: compareChange(first.records, then.records, pairs.length),
      runIds: { before: first.records.map((r) => r.runId), after: then.records.map((r) => r.runId) },
    };
  });
}

const startOf = (c: CellRecords): number => Math.min(...c.records.map((r) => r.startMs));

function onlyDifference(a: StartBody, b: StartBody): "firmware" | (typeof SETTING_KEYS)[number] | null {
  if (modeKey(a.mode) !== modeKey(b.mode) || protocolKey(a.protocol) !== protocolKey(b.protocol)) return null;
  if (Math.abs(a.condition.ambientC - b.condition.ambientC) > 2) return null;
  const differ = SETTING_KEYS.filter((k) => a.condition[k] !== b.condition[k]);
  const firmware = a.unit.firmware !== b.unit.firmware;
  if (firmware) return differ.length === 0 ? "firmware" : null;
  return differ.length === 1 ? (differ[0] ?? null) : null;
}
