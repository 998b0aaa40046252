// At another temperature: what physics and the regression say of every degree in reach, for all cells that differ in temperature alone.

import type { AmbientPoint, AmbientReading, AmbientTime, PhysicsResult } from "./ambient.ts";
import { physicsAt, REACH_C, regressionOf } from "./ambient.ts";
import type { CellRecords, RunRecord } from "./records.ts";
import type { Shared } from "./shared.ts";
import { alikeKey, alikeRecords, physicsOf } from "./shared.ts";

/** One reading for all of them; it travels once. */
export function ambientOf(s: Shared, cell: CellRecords): AmbientReading {
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
