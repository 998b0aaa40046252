// The simulated camera: two nodes, a gauge of ten steps with hysteresis, a warning at a margin, shutdown at a threshold, a
// battery and a card. A pure function of (seed, settings, schedule, bench-clock time): the same question has the same answer,
// which is what lets a stand-in resume after a kill and re-post the same facts.

import type { Random } from "../random/index.ts";
import { randomFrom } from "../random/index.ts";
import type { TwoNodeBody, TwoNodeInput, TwoNodeState } from "./twoNode.ts";
import { advance, steadyState } from "./twoNode.ts";

export interface CameraBody {
  node: TwoNodeBody;
  idleW: number;
  /** Draw that does not heat the chip: screen electronics, card, lens. */
  otherW: number;
  shutdownC: number;
  /** The warning shows this far below the shutdown, escalates at a third of it. */
  warningMarginC: number;
  /** Chip temperature at gauge 0. */
  gaugeZeroC: number;
  batteryWh: number;
}
export interface CameraSettings {
  seed: number;
  body: CameraBody;
  /** Chip power while recording this mode, before day-to-day scatter. */
  recordW: number;
  mbps: number;
  cardGb: number;
  ambientC: number;
  screenLit: boolean;
  sun: "none" | "shade" | "direct";
  air: "still" | "breeze" | "fan";
  powerOffSetting: "normal" | "high" | "none";
  externalPower: boolean;
  /** A clip may not be longer than this; null: no limit. */
  clipLimitSec: number | null;
  /** Shell and chip above ambient at the schedule's start; 0 for a cold start. */
  warmStartK: number;
}
export type CameraActivity = "recording" | "idle" | "off";
/** What the tester does with the body: contiguous spans from the start; the last one is open. */
export interface ActivitySpan {
  fromMs: number;
  activity: CameraActivity;
}

export type CameraEvent =
  | { atMs: number; kind: "gauge"; step: number }
  | { atMs: number; kind: "warning"; phase: "shown" | "escalated" | "cleared"; minutesLeft?: number }
  | { atMs: number; kind: "shutdown" }
  | { atMs: number; kind: "battery empty" }
  | { atMs: number; kind: "card full" }
  | { atMs: number; kind: "clip limit" };

export interface CameraMoment extends TwoNodeState {
  atMs: number;
  activity: CameraActivity;
  gauge: number;
  warning: boolean;
  batteryPct: number;
  freeGb: number;
  /** Set once the body ended the recording by itself. */
  ended: "shutdown" | "battery empty" | "card full" | "clip limit" | null;
  /** When the clip in hand began. */
  clipFromMs: number;
}

/** Resolution of the camera's own decisions; times of events lie on this grid from the start of the schedule. */
export const CAMERA_TICK_MS = 1000;
const HIGH_SETTING_K = 9;
const HYSTERESIS_STEPS = 0.5;
const SCREEN_W = 0.5;
const SUN_W = { none: 0, shade: 0.3, direct: 2 } as const;
const AIR_FACTOR = { still: 1, breeze: 0.86, fan: 0.66 } as const;
const ROUNDING_GB = 1e-9;
/** Log standard deviation of chip power from day to day. */
const DAY_SCATTER = 0.028;

interface Rules {
  node: TwoNodeBody;
  chipW: number;
  shutdownC: number;
  settings: CameraSettings;
}

function rulesOf(settings: CameraSettings): Rules {
  const random: Random = randomFrom(settings.seed);
  const { node } = settings.body;
  const high = settings.powerOffSetting === "high" ? HIGH_SETTING_K : 0;
  return {
    settings,
    node: { ...node, shellToAirKPerW: node.shellToAirKPerW * AIR_FACTOR[settings.air] },
    chipW: settings.recordW * Math.exp(DAY_SCATTER * random.normal()),
    shutdownC: settings.powerOffSetting === "none" ? Number.POSITIVE_INFINITY : settings.body.shutdownC + high,
  };
}

function inputFor(r: Rules, activity: CameraActivity): TwoNodeInput {
  const s = r.settings;
  const screenW = s.screenLit && activity !== "off" ? SCREEN_W : 0;
  const chipW = activity === "recording" ? r.chipW : activity === "idle" ? s.body.idleW : 0;
  return { chipW, shellW: screenW + SUN_W[s.sun], ambientC: s.ambientC };
}

/** Where the shell settles in this place when the body is off, in C: above ambient in the sun. */
export function restingShellC(settings: CameraSettings): number {
  const rules = rulesOf(settings);
  return steadyState(rules.node, inputFor(rules, "off")).shellC;
}

export interface CameraRun {
  moments: CameraMoment[];
  events: CameraEvent[];
}

/**
 * Runs the camera from the first span to `untilMs`, giving a moment every `everyMs` (a multiple of the tick) and all events up
 * to and including `untilMs`. Work is linear in the simulated time; three hours take a few milliseconds.
 */
export function runCamera(settings: CameraSettings, spans: readonly ActivitySpan[], untilMs: number, everyMs = CAMERA_TICK_MS): CameraRun {
  const first = spans[0];
  if (first === undefined || untilMs < first.fromMs) return { moments: [], events: [] };
  const rules = rulesOf(settings);
  let moment = startMoment(rules, first.fromMs);
  const out: CameraRun = { moments: [moment], events: [] };
  while (moment.atMs + CAMERA_TICK_MS <= untilMs) {
    const atMs = moment.atMs + CAMERA_TICK_MS;
    const span = spans.findLast((s) => s.fromMs < atMs) ?? first;
    moment = tick(rules, startedAgain(moment, span), atMs, span.activity, out.events);
    if ((atMs - first.fromMs) % everyMs === 0) out.moments.push(moment);
  }
  return out;
}

/** A clip limit only ends a clip: pressed again, the body records on. */
function startedAgain(moment: CameraMoment, span: ActivitySpan): CameraMoment {
  const again = span.activity === "recording" && span.fromMs > moment.clipFromMs;
  return again ? { ...moment, clipFromMs: span.fromMs, ended: moment.ended === "clip limit" ? null : moment.ended } : moment;
}

/** The camera at one moment: the last tick at or before `atMs`. Null before the schedule starts. */
export function cameraAt(settings: CameraSettings, spans: readonly ActivitySpan[], atMs: number): CameraMoment | null {
  return runCamera(settings, spans, atMs).moments.at(-1) ?? null;
}

function startMoment(r: Rules, atMs: number): CameraMoment {
  const s = r.settings;
  const chipC = s.ambientC + s.warmStartK;
  return {
    atMs,
    activity: "recording",
    chipC,
    shellC: chipC,
    gauge: Math.max(0, Math.floor(gaugeOf(r, chipC))),
    warning: false,
    batteryPct: 100,
    freeGb: s.cardGb,
    ended: null,
    clipFromMs: atMs,
  };
}

/** Continuous gauge position: 0 at the body's zero, 10 at shutdown. */
function gaugeOf(r: Rules, chipC: number): number {
  const zero = r.settings.body.gaugeZeroC;
  return (10 * (chipC - zero)) / (r.settings.body.shutdownC + (r.settings.powerOffSetting === "high" ? HIGH_SETTING_K : 0) - zero);
}

function tick(r: Rules, from: CameraMoment, atMs: number, wanted: CameraActivity, events: CameraEvent[]): CameraMoment {
  const dtSec = (atMs - from.atMs) / 1000;
  // A body that shut itself down stays off until the schedule ends; a body with a full card idles.
  const activity = from.ended === null ? wanted : from.ended === "card full" || from.ended === "clip limit" ? "idle" : "off";
  const input = inputFor(r, activity);
  const heat = advance(r.node, from, input, dtSec);
  const { batteryPct, freeGb } = consume(r, from, activity, input, dtSec);
  const next: CameraMoment = { ...from, ...heat, atMs, activity, batteryPct, freeGb };
  next.gauge = stepGauge(r, next, events);
  next.warning = stepWarning(r, from, next, events);
  next.ended = from.ended ?? endOf(r, next);
  if (next.ended !== null && from.ended === null) events.push({ atMs, kind: next.ended });
  return next;
}

function consume(
  r: Rules,
  from: CameraMoment,
  activity: CameraActivity,
  input: TwoNodeInput,
  dtSec: number,
): { batteryPct: number; freeGb: number } {
  const s = r.settings;
  const drawW = activity === "off" || s.externalPower ? 0 : input.chipW + s.body.otherW + (s.screenLit ? SCREEN_W : 0);
  const batteryPct = Math.max(0, from.batteryPct - (100 * drawW * dtSec) / 3600 / s.body.batteryWh);
  const freeGb = activity === "recording" ? Math.max(0, from.freeGb - (s.mbps * dtSec) / 8000) : from.freeGb;
  return { batteryPct, freeGb };
}

function stepGauge(r: Rules, m: CameraMoment, events: CameraEvent[]): number {
  if (m.activity === "off") return m.gauge;
  const position = Math.min(10, Math.max(0, gaugeOf(r, m.chipC)));
  const falls = position < m.gauge - HYSTERESIS_STEPS;
  const step = position >= m.gauge + 1 || falls ? Math.floor(position) : m.gauge;
  if (step !== m.gauge) events.push({ atMs: m.atMs, kind: "gauge", step });
  return step;
}

function stepWarning(r: Rules, from: CameraMoment, m: CameraMoment, events: CameraEvent[]): boolean {
  const belowC = r.shutdownC - m.chipC;
  const margin = r.settings.body.warningMarginC;
  if (m.activity === "off") return false;
  if (!from.warning && belowC <= margin) {
    events.push({ atMs: m.atMs, kind: "warning", phase: "shown", minutesLeft: Math.max(1, Math.round(belowC * 2)) });
    return true;
  }
  const escalatesC = margin / 3;
  if (from.warning && belowC <= escalatesC && r.shutdownC - from.chipC > escalatesC) {
    events.push({ atMs: m.atMs, kind: "warning", phase: "escalated" });
  }
  if (from.warning && belowC > margin * 1.5) {
    events.push({ atMs: m.atMs, kind: "warning", phase: "cleared" });
    return false;
  }
  return from.warning;
}

function endOf(r: Rules, m: CameraMoment): CameraMoment["ended"] {
  if (m.activity !== "off" && m.chipC >= r.shutdownC) return "shutdown";
  if (m.batteryPct <= 0) return "battery empty";
  if (m.activity !== "recording") return null;
  if (m.freeGb <= ROUNDING_GB) return "card full";
  const limitSec = r.settings.clipLimitSec;
  return limitSec !== null && m.atMs - m.clipFromMs >= limitSec * 1000 ? "clip limit" : null;
}
