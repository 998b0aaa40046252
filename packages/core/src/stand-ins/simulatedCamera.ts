// The simulated camera: two nodes, a gauge of ten steps with hysteresis, a warning at a margin, shutdown at a threshold, a
// battery, a card and, for a recorder, a cable. It refuses to start when hot, and its screen wakes at a swap. A pure function of (seed, settings, schedule, bench-clock time): the same question has the same answer,
// which is what lets a stand-in resume after a kill and re-post the same facts.

import type { Random } from "../statistics/index.ts";
import { randomFrom } from "../statistics/index.ts";
import type { TwoNodeBody, TwoNodeInput, TwoNodeState } from "../heat/index.ts";
import { advance, steadyState } from "../heat/index.ts";

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
  /** Shell above ambient at the schedule's start; 0 for a cold start. */
  warmStartK: number;
  /** Chip above ambient then; absent: as the shell. */
  warmChipK?: number | undefined;
  /** The cable drops out once, so long after the start; null: it does not. */
  signalDrop: { afterSec: number; lengthSec: number } | null;
}
export type CameraActivity = "recording" | "idle" | "off";
/** What the tester does with the body: contiguous spans from the start; the last one is open. */
export interface ActivitySpan {
  fromMs: number;
  activity: CameraActivity;
  /** Where the tester changed the surroundings: from here on. Absent: as in the settings. */
  sun?: CameraSettings["sun"] | undefined;
  air?: CameraSettings["air"] | undefined;
  /** The tester's last word on the screen; it may have woken before. */
  screenLit?: boolean | undefined;
  /** What a swap put in before recording went on. */
  fresh?: "card" | "battery" | undefined;
}

export type CameraEvent =
  | { atMs: number; kind: "gauge"; step: number }
  | { atMs: number; kind: "warning"; phase: "shown" | "escalated" | "cleared"; minutesLeft?: number }
  | { atMs: number; kind: "shutdown" }
  | { atMs: number; kind: "battery empty" }
  | { atMs: number; kind: "card full" }
  | { atMs: number; kind: "clip limit" }
  | { atMs: number; kind: "refused" }
  | { atMs: number; kind: "screen woke" }
  | { atMs: number; kind: "signal lost" }
  | { atMs: number; kind: "signal back" };

export interface CameraMoment extends TwoNodeState {
  atMs: number;
  activity: CameraActivity;
  gauge: number;
  warning: boolean;
  batteryPct: number;
  freeGb: number;
  /** Set once the body ended the recording by itself. */
  ended: "shutdown" | "battery empty" | "card full" | "clip limit" | "refused" | null;
  /** When the clip in hand began. */
  clipFromMs: number;
  screenLit: boolean;
  /** Where the span in hand began: a span acts once. */
  spanFromMs: number;
  signal: boolean;
}

/** Resolution of the camera's own decisions; times of events lie on this grid from the start of the schedule. */
export const CAMERA_TICK_MS = 1000;
const HIGH_SETTING_K = 9;
const HYSTERESIS_STEPS = 0.5;
const SCREEN_W = 0.5;
const SUN_W = { none: 0, shade: 0.3, direct: 2 } as const;
const AIR_FACTOR = { still: 1, breeze: 0.86, fan: 0.66 } as const;
/** It will not begin again before it has cooled this many warning margins below the shutdown: some minutes. */
const REFUSES_MARGINS = 4;
const ROUNDING_GB = 1e-9;
/** Log standard deviation of chip power from day to day. */
const DAY_SCATTER = 0.028;

interface Rules {
  node: TwoNodeBody;
  /** The body in other air, by its name: made once. */
  nodes: Map<CameraSettings["air"], TwoNodeBody>;
  chipW: number;
  shutdownC: number;
  settings: CameraSettings;
  startMs: number;
}

function rulesOf(settings: CameraSettings, startMs = 0): Rules {
  const random: Random = randomFrom(settings.seed);
  const high = settings.powerOffSetting === "high" ? HIGH_SETTING_K : 0;
  return {
    settings,
    startMs,
    node: nodeIn(settings, settings.air),
    nodes: new Map(),
    chipW: settings.recordW * Math.exp(DAY_SCATTER * random.normal()),
    shutdownC: settings.powerOffSetting === "none" ? Number.POSITIVE_INFINITY : settings.body.shutdownC + high,
  };
}

function inputFor(r: Rules, activity: CameraActivity, screenLit: boolean, sun: CameraSettings["sun"]): TwoNodeInput {
  const s = r.settings;
  const screenW = screenLit && activity !== "off" ? SCREEN_W : 0;
  const chipW = activity === "recording" ? r.chipW : activity === "idle" ? s.body.idleW : 0;
  return { chipW, shellW: screenW + SUN_W[sun], ambientC: s.ambientC };
}

const nodeIn = (s: CameraSettings, air: CameraSettings["air"]): TwoNodeBody => ({
  ...s.body.node,
  shellToAirKPerW: s.body.node.shellToAirKPerW * AIR_FACTOR[air],
});

function inAir({ settings, nodes }: Rules, air: CameraSettings["air"]): TwoNodeBody {
  let node = nodes.get(air);
  if (node === undefined) nodes.set(air, (node = nodeIn(settings, air)));
  return node;
}

/** Where the shell settles in this place when the body is off, in C: above ambient in the sun. */
export function restingShellC(settings: CameraSettings): number {
  const rules = rulesOf(settings);
  return steadyState(rules.node, inputFor(rules, "off", false, settings.sun)).shellC;
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
  const moments: CameraMoment[] = [];
  const events: CameraEvent[] = [];
  play(settings, spans, untilMs, events, (moment, sinceMs) => {
    if (sinceMs % everyMs === 0) moments.push(moment);
  });
  return { moments, events };
}

/** Tells of every tick from the first span on, with the time since then. */
function play(
  settings: CameraSettings,
  spans: readonly ActivitySpan[],
  untilMs: number,
  events: CameraEvent[],
  tell: (moment: CameraMoment, sinceMs: number) => void,
): void {
  const first = spans[0];
  if (first === undefined || untilMs < first.fromMs) return;
  const rules = rulesOf(settings, first.fromMs);
  let moment = startMoment(rules, first.fromMs);
  if (moment.ended === "refused") events.push({ atMs: first.fromMs, kind: "refused" });
  tell(moment, 0);
  let i = 0;
  while (moment.atMs + CAMERA_TICK_MS <= untilMs) {
    const atMs = moment.atMs + CAMERA_TICK_MS;
    while ((spans[i + 1]?.fromMs ?? atMs) < atMs) i++;
    const span = spans[i] as ActivitySpan;
    moment = tick(rules, entered(moment, span, spans[i - 1], atMs, events), atMs, span, events);
    tell(moment, atMs - first.fromMs);
  }
}

/** What a new span does at once: a screen woken or darkened, a clip begun, a fresh card or battery. */
function entered(
  moment: CameraMoment,
  span: ActivitySpan,
  before: ActivitySpan | undefined,
  atMs: number,
  events: CameraEvent[],
): CameraMoment {
  if (span.fromMs <= moment.spanFromMs) return moment;
  const next = { ...moment, spanFromMs: span.fromMs, screenLit: span.screenLit ?? moment.screenLit };
  if (span.activity !== "recording" || before?.activity === "recording") return next;
  const wakes = !moment.screenLit && span.screenLit === undefined && moment.ended === null;
  if (wakes) events.push({ atMs, kind: "screen woke" });
  return { ...next, ...refreshed(moment, span), clipFromMs: span.fromMs, screenLit: wakes || next.screenLit };
}

/** A clip limit only ends a clip: pressed again, the body records on. So it does with a fresh card or battery. */
function refreshed(moment: CameraMoment, { fresh }: ActivitySpan): Partial<CameraMoment> {
  const over =
    moment.ended === "clip limit" ||
    (moment.ended === "card full" && fresh === "card") ||
    (moment.ended === "battery empty" && fresh === "battery");
  return {
    ...(over ? { ended: null } : {}),
    ...(fresh === "card" ? { freeGb: Number.POSITIVE_INFINITY } : {}),
    ...(fresh === "battery" ? { batteryPct: 100 } : {}),
  };
}

/** The camera at one moment: the last tick at or before `atMs`. Null before the schedule starts. */
export function cameraAt(settings: CameraSettings, spans: readonly ActivitySpan[], atMs: number): CameraMoment | null {
  let last: CameraMoment | null = null;
  play(settings, spans, atMs, [], (moment) => (last = moment));
  return last;
}

function startMoment(r: Rules, atMs: number): CameraMoment {
  const s = r.settings;
  const shellC = s.ambientC + s.warmStartK;
  const chipC = s.ambientC + (s.warmChipK ?? s.warmStartK);
  const refuses = chipC >= r.shutdownC - REFUSES_MARGINS * s.body.warningMarginC;
  return {
    atMs,
    activity: "recording",
    chipC,
    shellC,
    gauge: Math.max(0, Math.floor(gaugeOf(r, chipC))),
    warning: false,
    batteryPct: 100,
    freeGb: s.cardGb,
    ended: refuses ? "refused" : null,
    clipFromMs: atMs,
    screenLit: s.screenLit,
    spanFromMs: atMs,
    signal: true,
  };
}

/** Continuous gauge position: 0 at the body's zero, 10 at shutdown. */
function gaugeOf(r: Rules, chipC: number): number {
  const zero = r.settings.body.gaugeZeroC;
  return (10 * (chipC - zero)) / (r.settings.body.shutdownC + (r.settings.powerOffSetting === "high" ? HIGH_SETTING_K : 0) - zero);
}

function tick(r: Rules, from: CameraMoment, atMs: number, span: ActivitySpan, events: CameraEvent[]): CameraMoment {
  const dtSec = (atMs - from.atMs) / 1000;
  const activity = activityNow(from.ended, span.activity);
  const input = inputFor(r, activity, from.screenLit, span.sun ?? r.settings.sun);
  const node = span.air === undefined ? r.node : inAir(r, span.air);
  const heat = advance(node, from, input, dtSec);
  const { batteryPct, freeGb } = consume(r, from, activity, input, dtSec);
  // Field by field: a moment is made for every second of every run.
  const next: CameraMoment = {
    chipC: heat.chipC,
    shellC: heat.shellC,
    atMs,
    activity,
    gauge: from.gauge,
    warning: from.warning,
    batteryPct,
    freeGb,
    ended: from.ended,
    clipFromMs: from.clipFromMs,
    screenLit: from.screenLit,
    spanFromMs: from.spanFromMs,
    signal: from.signal,
  };
  next.signal = stepSignal(r, next, events);
  next.gauge = stepGauge(r, next, events);
  next.warning = stepWarning(r, from, next, events);
  next.ended = from.ended ?? endOf(r, next);
  if (next.ended !== null && from.ended === null) events.push({ atMs, kind: next.ended });
  return next;
}

/** A body that shut itself down stays off until the schedule ends; with a full card it idles until it is switched off. */
function activityNow(ended: CameraMoment["ended"], wanted: CameraActivity): CameraActivity {
  if (ended === null || wanted === "off") return wanted;
  return ended === "card full" || ended === "clip limit" ? "idle" : "off";
}

/** A cable that drops out is told once when it goes and once when it is back. */
function stepSignal(r: Rules, m: CameraMoment, events: CameraEvent[]): boolean {
  const drop = r.settings.signalDrop;
  if (drop === null || m.activity === "off") return m.signal;
  const sinceSec = (m.atMs - r.startMs) / 1000;
  const good = sinceSec < drop.afterSec || sinceSec >= drop.afterSec + drop.lengthSec;
  if (good !== m.signal) events.push({ atMs: m.atMs, kind: good ? "signal back" : "signal lost" });
  return good;
}

function consume(
  r: Rules,
  from: CameraMoment,
  activity: CameraActivity,
  input: TwoNodeInput,
  dtSec: number,
): { batteryPct: number; freeGb: number } {
  const s = r.settings;
  const drawW = activity === "off" || s.externalPower ? 0 : input.chipW + s.body.otherW + (from.screenLit ? SCREEN_W : 0);
  const batteryPct = Math.max(0, from.batteryPct - (100 * drawW * dtSec) / 3600 / s.body.batteryWh);
  const haveGb = Math.min(from.freeGb, s.cardGb);
  const freeGb = activity === "recording" && from.signal ? Math.max(0, haveGb - (s.mbps * dtSec) / 8000) : haveGb;
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
