// A walking test taken out: one line a take with its numbers, for spreadsheets and R. An unknown number is an empty cell, never a zero.

import type { MeasuredTake, WalkPlan } from "@keep-rolling/core/walks";
import Papa from "papaparse";

type Cell = string | number;
const COLUMNS: readonly (readonly [string, (t: MeasuredTake) => Cell | null | undefined])[] = [
  ["bad", ({ take }) => (take.bad === null ? "" : take.bad || "yes")],
  ["clip", ({ take }) => take.clips[0]?.name],
  ["frames", ({ measures: m }) => m?.frames],
  ["fps", ({ measures: m }) => m?.fps],
  ["jitter_frac", ({ measures: m }) => m?.jitterRmsFrac],
  ["jitter_x_frac", ({ measures: m }) => m?.jitterXFrac],
  ["jitter_y_frac", ({ measures: m }) => m?.jitterYFrac],
  ["roll_deg", ({ measures: m }) => m?.rollRmsDeg],
  ["zoom_frac", ({ measures: m }) => m?.zoomRmsFrac],
  ["drift_frac", ({ measures: m }) => m?.driftRmsFrac],
  ["drift_roll_deg", ({ measures: m }) => m?.driftRollDeg],
  ["above_4_hz_frac", ({ measures: m }) => m?.highFrequencyRmsFrac],
  ["step_hz", ({ measures: m }) => m?.stepHz],
  ["bending_px640", ({ measures: m }) => m?.wobbleHomographyPx640],
  ["leaning_and_bending_px640", ({ measures: m }) => m?.wobbleSimilarityPx640],
  ["sharpness_area", ({ measures: m }) => m?.sharpnessArea],
  ["edge_sigma_px640", ({ measures: m }) => m?.edgeSigmaPx640],
  ["soft_pulses", ({ measures: m }) => m?.dips.length],
  ["light_stops", ({ measures: m }) => m?.lightStops],
  ["crop_factor", ({ cropFactor }) => cropFactor],
  ["pan_delay_s", ({ measures: m }) => m?.pan?.delaySec],
  ["pan_peak_ratio", ({ measures: m }) => m?.pan?.peakRatio],
  ["microphone_floor_db", ({ sound }) => sound?.floorDb],
  ["corrected_copy", ({ take }) => (take.of === null ? "" : "yes")],
  ["clip_from_s", ({ take }) => (take.clips[0]?.part == null ? null : take.clips[0].part.fromMs / 1000)],
  ["flags", ({ measures: m }) => m?.flags.join(" ")],
];

/** In the order they were walked; shares of the picture's width are fractions. Cells a spreadsheet would compute are quoted as text. */
export function takesCsv(plan: WalkPlan, takes: readonly MeasuredTake[], bodyName: (unitId: string) => string): string {
  const head = ["setup", "body", "control", "move", "take", "begun_utc", ...COLUMNS.map(([name]) => name)];
  const rows = takes.map((t) => [
    plan.setups.find((s) => s.id === t.take.setupId)?.name ?? "",
    t.take.unitId === null ? "" : bodyName(t.take.unitId),
    t.take.setupId === plan.controlId ? "yes" : "",
    plan.moves.find((m) => m.id === t.take.moveId)?.kind ?? "",
    t.take.n,
    t.take.timed ? new Date(t.take.startMs).toISOString() : "",
    ...COLUMNS.map(([, cell]) => cell(t) ?? ""),
  ]);
  return Papa.unparse([head, ...rows], { escapeFormulae: true, newline: "\r\n" });
}
