// What was recorded with a run and could move its runtime: each cause is a column. Modes are factors, ambient and start heat slopes, the rest
// yes or no. A cause that never varies is not asked about; one that always comes together with another cannot be told from it.

import { isLit } from "../kit/index.ts";
import { explained } from "../statistics/index.ts";
import { modeKey } from "../kit/index.ts";
import type { RunRecord } from "./records.ts";

export const CAUSES = [
  "direct sun",
  "breeze",
  "fan",
  "screen lit",
  "outside power",
  "high power-off setting",
  "autofocus hunting",
  "newer firmware",
  "pauses",
  "start heat",
  "ambient",
] as const;
export type Cause = (typeof CAUSES)[number];
/** One step of a slope: ten per cent of the shutdown rise; one degree. The rest: no to yes. */
export const SLOPES: Readonly<Partial<Record<Cause, number>>> = { "start heat": 0.1, ambient: 1 };

const COLUMN: Readonly<Record<Exclude<Cause, "newer firmware">, (r: RunRecord) => number>> = {
  "direct sun": (r) => Number(r.setup.condition.sun === "direct"),
  breeze: (r) => Number(r.setup.condition.air === "breeze"),
  fan: (r) => Number(r.setup.condition.air === "fan"),
  "screen lit": (r) => Number(isLit(r.setup.condition.screen)),
  "outside power": (r) => Number(r.setup.condition.power === "dummy or mains" || r.setup.condition.power === "USB"),
  "high power-off setting": (r) => Number(r.setup.condition.powerOffSetting === "high"),
  "autofocus hunting": (r) => Number(r.setup.condition.settings?.autofocus === "hunting"),
  pauses: (r) => Number(r.fold.gaps.length > 0),
  "start heat": (r) => Math.round(r.startHeat * 1000) / 1000,
  ambient: (r) => r.setup.ambient.valueC,
};

/** What a run has of a cause: 0 or 1, or the value of a slope. */
export const valueOf = (cause: Exclude<Cause, "newer firmware">, run: RunRecord): number => COLUMN[cause](run);

export interface Column {
  cause: Cause;
  values: number[];
}

/** Columns that vary over the records; firmware only when exactly two were run, the later one of first use being the newer. */
export function columnsOf(records: readonly RunRecord[]): Column[] {
  const firmwares = [...new Set([...records].sort((a, b) => a.startMs - b.startMs).map((r) => r.setup.unit.firmware))];
  const newest = firmwares.length === 2 ? firmwares[1] : undefined;
  return CAUSES.flatMap((cause) => {
    const values = records.map((r) =>
      cause === "newer firmware" ? Number(newest !== undefined && r.setup.unit.firmware === newest) : COLUMN[cause](r),
    );
    const spread = Math.max(...values) - Math.min(...values);
    // Less than this never moved: a start within a hundredth of the same heat, a room within half a degree.
    return spread > (cause === "start heat" ? 0.03 : cause === "ambient" ? 1 : 0) ? [{ cause, values }] : [];
  });
}

/** Above this share explained by the others a cause cannot be told from them (a variance inflation of ten; common practice, no source). */
export const ENTANGLED = 0.9;

export interface Separated {
  columns: Column[];
  /** Causes that came together: the first stands for all of them. */
  bundles: Cause[][];
  /** Causes that came with one mode only. */
  withMode: Cause[];
}

/** Drops, from the last cause to the first, what the modes and the causes before it explain. */
export function separate(columns: readonly Column[], records: readonly RunRecord[]): Separated {
  const factors = modeFactors(records).rows;
  const kept: Column[] = [];
  const bundles = new Map<Cause, Cause[]>();
  const withMode: Cause[] = [];
  for (const column of columns) {
    const others = kept.map((k) => k.values);
    const rows = factors.map((f, i) => [...f, ...others.map((v) => v[i] ?? 0)]);
    if (explained(rows, column.values) <= ENTANGLED) {
      kept.push(column);
      continue;
    }
    if (explained(factors, column.values) > ENTANGLED) {
      withMode.push(column.cause);
      continue;
    }
    const partner = closest(kept, factors, column);
    bundles.set(partner, [...(bundles.get(partner) ?? [partner]), column.cause]);
  }
  return { columns: kept, bundles: [...bundles.values()], withMode };
}

/** The kept cause that alone, beside the modes, explains most of it. */
function closest(kept: readonly Column[], factors: readonly (readonly number[])[], column: Column): Cause {
  const by = kept.map((k) => ({
    cause: k.cause,
    share: explained(
      factors.map((f, i) => [...f, k.values[i] ?? 0]),
      column.values,
    ),
  }));
  return by.reduce((best, k) => (k.share > best.share ? k : best)).cause;
}

/** An intercept and a column for each further mode, in order of first appearance. */
export function modeFactors(records: readonly RunRecord[]): { rows: number[][]; keys: string[] } {
  const own = records.map((r) => modeKey(r.setup.mode));
  const keys = [...new Set(own)];
  return { keys, rows: own.map((key) => [1, ...keys.slice(1).map((k) => Number(key === k))]) };
}
