// What runs on record say for planning: ranges by cell, watts by mode, heat left in bodies, times out of service.

import { bodyHeat } from "@keep-rolling/core/heat";
import type { BodyHeat } from "@keep-rolling/core/heat";
import type { Kit, UnitEvent } from "@keep-rolling/contract/kit";
import type { TemperatureUnit } from "@keep-rolling/core/format";
import type { CellSetup } from "@keep-rolling/core/kit";
import type { Earlier, Expected, Span } from "@keep-rolling/core/planning";
import { earlierOf, expectedHeat, wattsOf } from "@keep-rolling/core/planning";
import { fitsIn } from "@keep-rolling/core/kit";
import { cellKey } from "@keep-rolling/core/kit";
import { modeKey } from "@keep-rolling/core/kit";
import type { SeenRun } from "../../record/runs.ts";
import { zoneOf } from "../dates/dates.ts";
import { traitsOf } from "./cells.ts";

export interface Evidence {
  runs: readonly SeenRun[];
  earlier: Earlier;
  expected(cell: CellSetup): Expected;
  /** The hungriest run of the mode on the unit, W; null when none told. */
  watts(cell: CellSetup): number | null;
  /** Every run of the mode on the unit that tells its watts. */
  wattsRuns(cell: CellSetup): { id: string; watts: number }[];
  /** The heat of a unit at a moment, and the time constant it stands on; `alsoMin`: what protocols about to be used name. */
  body(unitId: string, nowMs: number, alsoMin?: readonly number[]): BodyHeat;
}

export function evidenceOf(kit: Kit, runs: readonly SeenRun[], unit: TemperatureUnit = "C"): Evidence {
  const candidates = runs.map((r) => ({ runId: r.id, fold: r.fold, struck: r.row?.struck ?? null }));
  // All clocks of one kind keep their days in one zone.
  const demo = new Set(runs.flatMap((r) => (r.row?.clockKind === "demo" && r.fold.setup !== null ? [r.fold.setup.clockId] : [])));
  const earlier = earlierOf(candidates, (clockId) => zoneOf(demo.has(clockId) ? "demo" : "real"));
  const known = new Map<string, Expected>();
  const expected = (cell: CellSetup): Expected => {
    const key = cellKey(cell);
    const found = known.get(key) ?? expectedHeat(earlier, cell, unit);
    known.set(key, found);
    return found;
  };
  const wattsRuns = (cell: CellSetup) => wattsFor(kit, runs, cell);
  return {
    runs,
    earlier,
    expected,
    wattsRuns,
    watts: (cell) => wattsRuns(cell).reduce<number | null>((most, r) => Math.max(most ?? 0, r.watts), null),
    body: (unitId, nowMs, alsoMin) =>
      bodyHeat(
        candidates.filter((c) => c.fold.setup?.unit.id === unitId),
        nowMs,
        alsoMin,
      ),
  };
}

/** Which of several batteries was in the body is not on record: the largest that fits is taken, so that watts are not too low. */
function wattsFor(kit: Kit, runs: readonly SeenRun[], cell: CellSetup): { id: string; watts: number }[] {
  const { batteryFits } = traitsOf(
    kit,
    kit.units.find((u) => u.id === cell.unit.id),
  );
  const sizes = kit.items.flatMap((i) => (i.spec.kind === "battery" && fitsIn(i.fits, batteryFits) ? [i.spec.wh] : []));
  if (sizes.length === 0) return [];
  const wh = Math.max(...sizes);
  return (
    runs
      // Pauses and idling drain a battery without a recorded minute.
      .filter((r) => r.fold.setup?.runKind !== "duty" && r.fold.setup?.runKind !== "idle")
      .filter((r) => r.fold.setup?.unit.id === cell.unit.id && modeKey(r.fold.setup.mode) === modeKey(cell.mode))
      .flatMap((r) => {
        const watts = wattsOf(r.fold, wh);
        return watts === null ? [] : [{ id: r.id, watts }];
      })
  );
}

/** Live times out of service of a unit; an open one lasts until further notice. */
export function outsOf(events: readonly UnitEvent[], unitId: string): Span[] {
  return liveEvents(events, unitId)
    .filter((e) => e.kind === "out of service")
    .map((e) => ({ fromMs: e.atMs, toMs: e.toMs ?? Number.POSITIVE_INFINITY }));
}

export interface LiveEvent {
  id: string;
  kind: string;
  atMs: number;
  toMs: number | null;
  text: string;
}

/** A unit's events in order of time, those taken back left out, ends applied. */
export function liveEvents(events: readonly UnitEvent[], unitId: string): LiveEvent[] {
  const mine = events.filter((e) => e.unitId === unitId);
  const after = (id: string, kind: string): UnitEvent | undefined => mine.find((e) => e.kind === kind && e.body.of === id);
  return mine
    .filter((e) => e.kind !== "ended" && e.kind !== "taken back" && after(e.id, "taken back") === undefined)
    .map((e) => {
      const ended = after(e.id, "ended");
      const toMs = ended?.atMs ?? (typeof e.body.toMs === "number" ? e.body.toMs : null);
      return { id: e.id, kind: e.kind, atMs: e.atMs, toMs, text: textOf(e) };
    });
}

const said = (value: unknown): string => (typeof value === "string" ? value : "");
const textOf = (e: UnitEvent): string => (e.kind === "firmware" ? `${said(e.body.from)} to ${said(e.body.to)}` : said(e.body.text));
