// Before and after: pairs of cells that differ in firmware alone, or in one setting alone.

import { shutdownsOf } from "../cells/index.ts";
import { modeKey, protocolKey } from "../kit/index.ts";
import type { StartBody } from "../runs/index.ts";
import type { Change } from "./beforeAfter.ts";
import { compareChange, LEAST_SHUTDOWNS } from "./beforeAfter.ts";
import type { CellRecords } from "./records.ts";

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

const SETTING_KEYS = ["sun", "air", "screen", "power", "powerOffSetting"] as const;
const SETTING_WORDS: Readonly<Record<(typeof SETTING_KEYS)[number], string>> = {
  sun: "sun",
  air: "air",
  screen: "screen",
  power: "power",
  powerOffSetting: "automatic power-off",
};

/** Pairs of cells that differ in firmware alone, or in one setting alone; the earlier first. */
export function changesOf(cells: readonly CellRecords[]): ChangeReading[] {
  const withRuns = cells.filter((c) => c.records.length > 0);
  const pairs = withRuns.flatMap((a, i) =>
    withRuns.slice(i + 1).flatMap((b) => {
      const difference = onlyDifference(a.setup, b.setup);
      if (difference === null) return [];
      const [first, then] = startOf(a) <= startOf(b) ? [a, b] : [b, a];
      return [{ first, then, difference }];
    }),
  );
  // What cannot be compared makes nothing else less sure.
  const compared = pairs.filter((p) => [p.first, p.then].every((c) => shutdownsOf(c.records).length >= LEAST_SHUTDOWNS)).length;
  return pairs.map(({ first, then, difference }): ChangeReading => {
    const say = (c: CellRecords): string => (difference === "firmware" ? c.setup.unit.firmware : String(c.setup.condition[difference]));
    return {
      kind: difference === "firmware" ? "firmware" : "setting",
      what: difference === "firmware" ? "firmware" : SETTING_WORDS[difference],
      before: say(first),
      after: say(then),
      modeName: first.setup.mode.name,
      conditionName: first.setup.condition.name,
      change: compareChange(first.records, then.records, Math.max(1, compared)),
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
