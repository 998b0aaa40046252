// The reading of one unit: every cell by itself, and what only several cells together can tell. Plain data, so that it crosses from a worker.

import type { ClaimLevels } from "../cells/index.ts";
import type { TimeConstant } from "../heat/index.ts";
import { timeConstantOf } from "../heat/index.ts";
import { cellKey } from "../kit/index.ts";
import type { Endpoint } from "../runs/index.ts";
import type { AmbientReading } from "./ambient.ts";
import { ambientOf } from "./cellAmbient.ts";
import { differencesIn } from "./cellDifferences.ts";
import type { EndsReading } from "./cellEnds.ts";
import { endsOf } from "./cellEnds.ts";
import type { FigureReading } from "./cellFigures.ts";
import { figuresOf } from "./cellFigures.ts";
import type { RecoveryReading } from "./cellRecovery.ts";
import { recoveryOf } from "./cellRecovery.ts";
import type { CellReport } from "./cellReport.ts";
import { reportCell } from "./cellReport.ts";
import type { ChangeReading } from "./changes.ts";
import { changesOf } from "./changes.ts";
import { withPairs } from "./oneAnswer.ts";
import type { Differences } from "./differences.ts";
import type { EffectsFit, EffectsResult } from "./effects.ts";
import { effectRecords, effectsOf } from "./effects.ts";
import type { CellLimit } from "./limit.ts";
import { cellLimits, limitSettings } from "./limit.ts";
import type { CellRecords, UnitRecords } from "./records.ts";
import { unitRecords } from "./records.ts";
import type { Shared, UnitQuestion } from "./shared.ts";
import { settingsKey } from "./shared.ts";

export interface FullCell extends CellReport {
  /** The runs of its mode and firmware against the longest of them. */
  differences: Differences;
  ambient: AmbientReading;
  recovery: RecoveryReading;
  ends: EndsReading;
  figures: FigureReading[];
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
  const changes = changesOf(unit.cells);
  const effects = withPairs(effectsOf(effectRecords(unit, q.candidates)), changes);
  const warmToo = effectRecords(heat, q.candidates);
  const shared: Shared = {
    q,
    heat,
    heatLimits,
    ledger,
    effects: heat === unit ? effects : withPairs(effectsOf(warmToo), changesOf(heat.cells)),
    warmToo,
    differences: new Map(),
    physics: new Map(),
    ambient: new Map(),
    cellOf: new Map(q.candidates.map((c) => [c.runId, c.fold.setup === null ? "" : cellKey(c.fold.setup)])),
    cellSettings: new Map(unit.cells.map((c) => [c.key, settingsKey(c.setup)])),
    drained: effectRecords(to("batteryEmpty"), q.candidates).filter((r) => r.setup.runKind === "endurance"),
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
    changes,
    startHeat: Object.fromEntries(unit.startHeat),
  };
}

function withoutModel(effects: EffectsResult): UnitReport["effects"] {
  if (!effects.ok) return effects;
  const { model: _model, ...rest } = effects;
  return rest;
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
