// A stand-in plays one run: from the marks the tester made, the chance of the run's id, and the heat its body still carries.
// A pure function, so a stand-in asked again after a kill says the same.

import type { Mark, StartBody } from "../runs/index.ts";
import { foldRun } from "../runs/index.ts";
import { activitySpans } from "./activity.ts";
import type { CameraRun, CameraSettings } from "./simulatedCamera.ts";
import { runCamera } from "./simulatedCamera.ts";
import type { HeatLeft } from "./standInRun.ts";
import { residualHeatK, standInSettings } from "./standInRun.ts";

export interface StandInRun {
  runId: string;
  marks: readonly Mark[];
  /** The body's run before this one, whose heat it may still carry. */
  before: { runId: string; marks: readonly Mark[] } | null;
}
export interface Played {
  camera: CameraRun;
  settings: CameraSettings;
  /** Bench-clock time the tester pressed start. */
  fromMs: number;
}

/** After this long nothing is left of an earlier run's heat. */
const FORGET_MS = 4 * 3_600_000;
/** Work is linear in the simulated time: a run left open for days must not be simulated for days. */
export const STAND_IN_MOST_MS = 6 * 3_600_000;

/** Null before a start and for a void run. `untilMs`: bench clock; six hours from the start at most. */
export function playStandIn(run: StandInRun, untilMs: number): Played | null {
  const fold = foldRun(run.marks);
  const spans = activitySpans(run.marks);
  const fromMs = spans[0]?.fromMs;
  if (fold.setup === null || fromMs === undefined || fold.state === "void") return null;
  const settings = standInSettings(run.runId, fold.setup, heatLeftK(run.before, fold.setup, fromMs));
  return { camera: runCamera(settings, spans, Math.min(untilMs, fromMs + STAND_IN_MOST_MS)), settings, fromMs };
}

/** Null when nothing is known of the body before: then the start state's word counts. */
export function heatLeftK(before: StandInRun["before"], start: StartBody, atMs: number): HeatLeft | null {
  if (before === null) return null;
  const setup = foldRun(before.marks).setup;
  const spans = activitySpans(before.marks);
  const lastMs = spans.at(-1)?.fromMs;
  if (setup === null || lastMs === undefined || setup.unit.id !== start.unit.id) return null;
  const firstMs = spans[0]?.fromMs ?? lastMs;
  if (atMs < lastMs || atMs - lastMs > FORGET_MS || atMs - firstMs > 2 * STAND_IN_MOST_MS) return null;
  return residualHeatK(standInSettings(before.runId, setup), spans, atMs);
}
