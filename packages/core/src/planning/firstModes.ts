// Which modes to test first, and why: the hottest on paper, or by the unit's own runs once it has some; then what has no evidence yet.

import type { ModeSnapshot } from "../kit/index.ts";
import { formatTick } from "../format/index.ts";
import { heatScore } from "./earlier.ts";

export interface ModeEvidence {
  mode: ModeSnapshot;
  /** Middle of the recorded times to heat of the unit's own cold runs, any condition; null without one. */
  typicalHeatMs: number | null;
  /** Counted runs in all conditions. */
  n: number;
}
export interface ModeAdvice {
  modeId: string;
  /** 1 is the hottest. */
  rank: number;
  by: "own runs" | "specification";
  why: string;
}

/** Hottest first. Modes with own heat times are ordered by them among themselves; the others are put in by specification. */
export function firstModes(modes: readonly ModeEvidence[]): ModeAdvice[] {
  const bySpec = [...modes].sort((a, b) => heatScore(b.mode) - heatScore(a.mode) || (a.mode.name < b.mode.name ? -1 : 1));
  const known = bySpec.filter((m) => m.typicalHeatMs !== null).sort((a, b) => (a.typicalHeatMs ?? 0) - (b.typicalHeatMs ?? 0));
  // Known modes keep the places the specification gave to known modes, in the order their runs showed.
  const ordered = bySpec.map((m) => (m.typicalHeatMs === null ? m : (known.shift() ?? m)));
  return ordered.map((m, i) => ({
    modeId: m.mode.id,
    rank: i + 1,
    by: m.typicalHeatMs === null ? "specification" : "own runs",
    why: reason(m, i, ordered.length),
  }));
}

function reason(m: ModeEvidence, i: number, of: number): string {
  const { readout, compression, mbps, fpsNum, fpsDen } = m.mode;
  const fps = Math.round((fpsNum / fpsDen) * 100) / 100;
  const paper = `${readout}, ${fps} frames, ${compression}, ${mbps} Mbit/s`;
  const place = i === 0 ? "hottest" : i === of - 1 && of > 1 ? "coolest" : `rank ${i + 1} of ${of}`;
  const runs = m.n === 0 ? "no run yet" : `${m.n} counted ${m.n === 1 ? "run" : "runs"}`;
  if (m.typicalHeatMs !== null) return `${place}: ended by heat at about ${formatTick(m.typicalHeatMs)} in its own runs`;
  return m.n > 0 ? `${place} on paper (${paper}); ${runs}, no time to a heat shutdown yet` : `${place} on paper (${paper}); ${runs}`;
}
