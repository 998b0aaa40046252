// The reading of one unit: every cell by itself, and what only several cells together can tell. Plain data, so that it crosses from a worker.

import { recoveriesOf } from "../heat/index.ts";
import type { Recovery } from "../heat/index.ts";
import { logsOf } from "../cells/index.ts";
import type { Timed } from "../cells/index.ts";
import { timeConstantOf } from "../heat/index.ts";
import type { TimeConstant } from "../heat/index.ts";
import { typicalOf } from "../cells/index.ts";
import type { ClaimLevels, CandidateRun } from "../cells/index.ts";
import { ASSUMED_SD, equalScatter, varianceOf } from "../statistics/index.ts";
import { cellKey } from "../kit/index.ts";
import type { Endpoint, StartBody } from "../runs/index.ts";
import { modeKey, protocolKey } from "../kit/index.ts";
import { summarise } from "../runs/index.ts";
import type { AmbientTime, PhysicsResult } from "./ambient.ts";
import { fitPhysics, physicsAt, REACH_C, regressionOf } from "./ambient.ts";
import type { Change } from "./beforeAfter.ts";
import { compareChange } from "./beforeAfter.ts";
import type { CellReport } from "./cellReport.ts";
import { reportCell } from "./cellReport.ts";
import type { Scatter } from "./chance.ts";
import type { EffectsFit, EffectsResult } from "./effects.ts";
import { effectRecords, effectsOf } from "./effects.ts";
import type { FirstEnd, Survival } from "./firstEnd.ts";
import { certain, chanceToHold, firstEnd, predictive } from "./firstEnd.ts";
import type { CellBound, LadderSettings } from "./ladder.ts";
import { CHECK_P, climb, LADDER_SETTINGS } from "./ladder.ts";
import type { Figure, RatingCheck, WaterfallResult } from "./rating.ts";
import { checkRating, codecFactor, saidOf, waterfall } from "./rating.ts";
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
  settings?: LadderSettings | undefined;
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
  holds: { sec: number; chance: number }[];
  first: FirstEnd | null;
  known: { heat: "runs" | null; battery: "runs" | null; card: "size" | null };
  /** Runs that heat and battery were read from. */
  runIds: string[];
  horizonSec: number;
}
export interface FigureReading {
  figure: Figure;
  check: RatingCheck | null;
  waterfall: WaterfallResult | null;
}
export interface FullCell extends CellReport {
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
  /** Scatter of the cells where they scatter alike, else null. */
  pooled: Scatter | null;
  /** Share of the shutdown rise at the start of every run, by the ledger. */
  startHeat: Record<string, number>;
}

/** Duty cycles are told for these minutes on, for ever and for an afternoon of four hours. */
export const DUTY_ONS_SEC = [5, 10, 15, 20, 30].map((m) => m * 60);
export const AFTERNOON_SEC = 4 * 3600;

export function readUnit(q: UnitQuestion): UnitReport {
  const ledger = timeConstantOf(q.candidates, q.tauMin);
  const unit = unitRecords(q.candidates, q.endpoint, q.levels, ledger.tauMin);
  const settings = q.settings ?? LADDER_SETTINGS;
  const bounds = climb(unit.cells, q.levels, settings);
  const effects = effectsOf(effectRecords(unit, q.candidates));
  const pooled = pooledScatter(unit.cells);
  const cellOf = new Map(q.candidates.map((c) => [c.runId, c.fold.setup === null ? "" : cellKey(c.fold.setup)]));
  const cellSettings = new Map(unit.cells.map((c) => [c.key, settingsKey(c.setup)]));
  const shared: Shared = {
    q,
    unit,
    effects,
    pooled,
    ambient: new Map(),
    cellOf,
    cellSettings,
    battery: unitRecords(q.candidates, "batteryEmpty", q.levels, ledger.tauMin),
  };
  const cells = unit.cells.map((cell, i) => fullCell(shared, cell, bounds[i] as CellBound));
  return {
    endpoint: q.endpoint,
    levels: q.levels,
    tauMin: q.tauMin,
    ledger,
    cells,
    effects: withoutModel(effects),
    changes: changesOf(unit.cells),
    pooled,
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
  unit: UnitRecords;
  effects: EffectsResult;
  pooled: Scatter | null;
  ambient: Map<string, AmbientReading>;
  /** The cell of every run, and `settingsKey` by cell: asked for often, long to build. */
  cellOf: ReadonlyMap<string, string>;
  cellSettings: ReadonlyMap<string, string>;
  battery: UnitRecords;
}

function fullCell(s: Shared, cell: CellRecords, bound: CellBound): FullCell {
  const report = reportCell(cell, bound, s.q.candidates, s.q.levels, s.pooled);
  return {
    ...report,
    ambient: ambientOf(s, cell),
    recovery: recoveryOf(s, report),
    ends: endsOf(s, cell, report),
    figures: figuresOf(s, cell, report),
  };
}

/** Null unless two cells or more scatter alike. */
export function pooledScatter(cells: readonly { records: readonly Timed[] }[]): Scatter | null {
  const groups = cells.map((c) => logsOf(c.records)).filter((g) => g.length >= 2);
  const check = equalScatter(groups);
  if (!check.ok || check.p < CHECK_P) return null;
  const df = groups.reduce((sum, g) => sum + g.length - 1, 0);
  return { sd: Math.sqrt(groups.reduce((sum, g) => sum + (g.length - 1) * varianceOf(g), 0) / df), df };
}

/** All that a condition says but its temperature. */
const settingsKey = ({ mode, condition, protocol }: StartBody): string =>
  [modeKey(mode), condition.sun, condition.air, condition.screen, condition.power, condition.powerOffSetting, protocolKey(protocol)].join(
    "\n",
  );

/** One reading for all cells that differ in temperature alone; it travels once. */
function ambientOf(s: Shared, cell: CellRecords): AmbientReading {
  const settings = s.cellSettings.get(cell.key) ?? "";
  const key = `${settings} ${cell.setup.unit.firmware}`;
  const read = s.ambient.get(key);
  if (read !== undefined) return read;
  const alike = s.unit.cells.filter((c) => s.cellSettings.get(c.key) === settings && c.setup.unit.firmware === cell.setup.unit.firmware);
  const made = readAmbient(
    s,
    alike.flatMap((c) => c.records),
  );
  s.ambient.set(key, made);
  return made;
}

function readAmbient(s: Shared, records: readonly RunRecord[]): AmbientReading {
  const known = fitPhysics(records, s.q.tauMin * 60, s.pooled?.sd ?? ASSUMED_SD);
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

function recoveryOf(s: Shared, report: CellReport): RecoveryReading {
  const cold = (c: CandidateRun): number | null => {
    const home = s.unit.cells.find((u) => u.key === s.cellOf.get(c.runId));
    return home === undefined ? null : typicalOf(home);
  };
  const mine = s.q.candidates.filter((c) => s.cellOf.get(c.runId) === report.key);
  const points = recoveriesOf(s.q.candidates, cold).filter((r) => mine.some((c) => c.runId === r.runId));
  const tauSec = s.q.tauMin * 60;
  const fit = fitRecovery(points, report.typicalSec, tauSec);
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
  const dutyFromSec = report.bound.ok ? report.bound.lowerMs / 1000 : report.typicalLessSec;
  const duty = !fit.ok || dutyFromSec === null ? [] : dutyLines(dutyFromSec, tauSec, fit.range.hi, AFTERNOON_SEC, DUTY_ONS_SEC);
  return { points, fit, fallbacks, duty, dutyFromSec };
}

function endsOf(s: Shared, cell: CellRecords, report: CellReport): EndsReading {
  const heat = survivalOf(cell.records, s.pooled);
  const { mode, condition } = cell.setup;
  // A battery does not know the room: every run of the mode on the same power speaks for it.
  const drained = s.battery.cells
    .filter((c) => modeKey(c.setup.mode) === modeKey(mode) && c.setup.condition.power === condition.power)
    .flatMap((c) => c.records);
  const battery = condition.power === "internal" || condition.power === "grip" ? survivalOf(drained, { sd: 0.05, df: 30 }) : null;
  const cardSec = s.q.cardSec[modeKey(mode)];
  const card = cardSec === undefined ? null : certain(cardSec);
  const ends = { heat, battery, card };
  const longest = Math.max(3600, ...report.runs.map((r) => r.timeSec), cardSec ?? 0);
  const horizonSec = Math.ceil((1.3 * longest) / 600) * 600;
  const known: EndsReading["known"] = {
    heat: heat === null ? null : "runs",
    battery: battery === null ? null : "runs",
    card: card === null ? null : "size",
  };
  const runIds = [...new Set([...(heat === null ? [] : cell.records), ...(battery === null ? [] : drained)].map((r) => r.runId))];
  const someKnown = heat !== null || battery !== null || card !== null;
  const holds = Array.from({ length: 61 }, (_, i) => ({ sec: (horizonSec * i) / 60, chance: chanceToHold(ends, (horizonSec * i) / 60) }));
  return {
    holds: someKnown ? holds : [],
    first: someKnown ? firstEnd(ends, horizonSec, cardSec === undefined ? [] : [cardSec]) : null,
    known,
    runIds,
    horizonSec,
  };
}

/** A run to come by the shutdowns of the records; null without one, or with one and no scatter to lend. */
function survivalOf(records: readonly RunRecord[], scatter: Scatter | null): Survival | null {
  const logs = logsOf(records);
  if (logs.length === 0 || (scatter === null && logs.length < 3)) return null;
  const middle = typicalOf({ records: [...records] });
  if (middle === null) return null;
  const { sd, df } = scatter ?? { sd: Math.sqrt(varianceOf(logs)), df: logs.length - 1 };
  return predictive(Math.log(middle), sd, logs.length, df);
}

function figuresOf(s: Shared, cell: CellRecords, report: CellReport): FigureReading[] {
  const { mode } = cell.setup;
  const { firmware } = cell.setup.unit;
  const records = s.unit.cells.filter((c) => c.setup.mode.id === mode.id && c.setup.unit.firmware === firmware).flatMap((c) => c.records);
  const like = cell.records[0];
  return s.q.figures
    .filter((f) => f.modeId === mode.id)
    .map((figure) => {
      const fair = figure.ambientC === null || Math.abs(cell.setup.condition.ambientC - figure.ambientC) <= 3;
      // An assumed scatter carries no confidence, so it proves no rating.
      const bound = fair && report.bound.ok && report.bound.rung !== "assumed" ? report.bound.lowerMs / 1000 : null;
      const check = figure.kind === "rated" ? checkRating(figure, records, s.q.levels, bound) : null;
      const codec = codecFactor(s.effects, mode, saidOf(figure.says?.compression));
      return { figure, check, waterfall: like === undefined ? null : waterfall(figure, like, report.typicalSec, s.effects, codec) };
    });
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
  return withRuns.flatMap((a, i) =>
    withRuns.slice(i + 1).flatMap((b): ChangeReading[] => {
      const difference = onlyDifference(a.setup, b.setup);
      if (difference === null) return [];
      const [first, then] = startOf(a) <= startOf(b) ? [a, b] : [b, a];
      const say = (c: CellRecords): string => (difference === "firmware" ? c.setup.unit.firmware : String(c.setup.condition[difference]));
      return [
        {
          kind: difference === "firmware" ? "firmware" : "setting",
          what: difference === "firmware" ? "firmware" : SETTING_WORDS[difference],
          before: say(first),
          after: say(then),
          modeName: first.setup.mode.name,
          conditionName: first.setup.condition.name,
          change: compareChange(first.records, then.records),
          runIds: { before: first.records.map((r) => r.runId), after: then.records.map((r) => r.runId) },
        },
      ];
    }),
  );
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
