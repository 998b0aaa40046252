// The card of a simulated camera: the clips a run has left on it, with the camera's own clock, its own way of stamping, and a last file cut
// off where the power went. A pure function of the run, so that it says the same at every look.

import type { ActivitySpan } from "./simulatedCamera.ts";
import type { StandInRun } from "./standInPlay.ts";
import { activitySpans } from "./activity.ts";
import { playStandIn } from "./standInPlay.ts";
import { randomFrom, seedOf } from "../statistics/index.ts";
import { foldRun } from "../runs/index.ts";
import type { ModeSnapshot } from "../kit/index.ts";
import type { ClipConvention } from "../clips/index.ts";
import type { ClipSpec } from "./writeClip.ts";

export interface CameraHabits extends ClipConvention {
  /** Bench minus camera, ms: its clock is set by hand and off by up to two minutes. */
  offsetMs: number;
}
export interface StandInClip {
  name: string;
  spec: ClipSpec;
  /** Camera time of the last write. */
  modifiedMs: number;
}

/** A new file is begun after this many bytes. */
const FILE_BYTES = 32e9;
const OFFSET_MOST_SEC = 120;
/** A shutdown by heat cuts every third last file off. */
const CUT_BY_HEAT = 3;

/** Fixed by the unit. Its clock counts as UTC. */
export function standInHabits(unitId: string): CameraHabits {
  const random = randomFrom(seedOf(`${unitId}/clips`));
  return {
    stamp: random.next() < 0.5 ? "start" : "close",
    zone: "UTC",
    offsetMs: 1000 * random.int(-OFFSET_MOST_SEC, OFFSET_MOST_SEC) + 437,
  };
}

/** Closed files only: the one being written at `untilMs` is not on the list. Empty for a run that is no stand-in's. */
export function standInClips(run: StandInRun, untilMs: number): StandInClip[] {
  const fold = foldRun(run.marks);
  const played = playStandIn(run, untilMs);
  if (played === null || fold.setup === null || fold.setup.runKind === "idle") return [];
  const { mode, unit } = fold.setup;
  const habits = standInHabits(unit.id);
  const stops = played.camera.events.flatMap((e) => (STOPS.includes(e.kind) ? [{ atMs: e.atMs, kind: e.kind }] : []));
  const drops =
    mode.target === "external recorder" ? played.camera.events.filter((e) => e.kind.startsWith("signal")).map((e) => e.atMs) : [];
  const shots = intervals(activitySpans(run.marks), stops, drops, untilMs);
  const first = 1 + (seedOf(`${run.runId}/card`) % 900);
  return shots
    .flatMap((s) => filesOf(s, mode))
    .filter((f) => f.frames > 0)
    .map((f, i, all) => ({
      name: `clip-${String(first + i).padStart(4, "0")}.mp4`,
      spec: specOf(f, mode, habits, i === all.length - 1 && isCut(run.runId, f.stop)),
      modifiedMs: f.toMs - habits.offsetMs + 1000,
    }));
}

const STOPS: readonly string[] = ["shutdown", "battery empty", "card full", "clip limit", "refused"];

interface Shot {
  fromMs: number;
  toMs: number;
  /** What ended it, if not the tester. */
  stop: string | null;
}

/** Closed stretches of recording: the tester's spans, cut where the camera stopped by itself and while the cable was out. */
function intervals(
  spans: readonly ActivitySpan[],
  stops: readonly { atMs: number; kind: string }[],
  drops: readonly number[],
  untilMs: number,
): Shot[] {
  const joined = spans.filter((s, i) => s.activity !== spans[i - 1]?.activity);
  return joined.flatMap((span, i) => {
    if (span.activity !== "recording") return [];
    const nextMs = joined[i + 1]?.fromMs;
    const stop = stops.find((s) => s.atMs >= span.fromMs && s.atMs <= (nextMs ?? untilMs));
    const toMs = stop?.atMs ?? nextMs;
    return toMs === undefined ? [] : withoutDrops({ fromMs: span.fromMs, toMs, stop: stop?.kind ?? null }, drops);
  });
}

function withoutDrops(shot: Shot, drops: readonly number[]): Shot[] {
  const [lost, back] = drops;
  if (lost === undefined || lost <= shot.fromMs || lost >= shot.toMs) return [shot];
  const rest = back === undefined || back >= shot.toMs ? [] : [{ ...shot, fromMs: back }];
  return [{ fromMs: shot.fromMs, toMs: lost, stop: null }, ...rest];
}

interface FilePart extends Shot {
  frames: number;
}

const framesIn = (ms: number, { fpsNum, fpsDen }: ModeSnapshot): number => Math.round((ms * fpsNum) / fpsDen / 1000);

/** Files of one stretch: full ones follow each other without a gap. */
function filesOf(shot: Shot, mode: ModeSnapshot): FilePart[] {
  const most = Math.floor(FILE_BYTES / sampleBytesOf(mode));
  const frames = framesIn(shot.toMs - shot.fromMs, mode);
  const frameMs = (1000 * mode.fpsDen) / mode.fpsNum;
  return Array.from({ length: Math.ceil(frames / most) }, (_, i): FilePart => {
    const count = Math.min(most, frames - i * most);
    const fromMs = shot.fromMs + i * most * frameMs;
    return { fromMs, toMs: fromMs + count * frameMs, frames: count, stop: (i + 1) * most >= frames ? shot.stop : null };
  });
}

const sampleBytesOf = ({ mbps, fpsNum, fpsDen }: ModeSnapshot): number => Math.max(1, Math.round((mbps * 125_000 * fpsDen) / fpsNum));

function isCut(runId: string, stop: string | null): boolean {
  return stop === "battery empty" || (stop === "shutdown" && seedOf(`${runId}/cut`) % CUT_BY_HEAT === 0);
}

function specOf(file: FilePart, mode: ModeSnapshot, habits: CameraHabits, cutOff: boolean): ClipSpec {
  const startMs = file.fromMs - habits.offsetMs;
  const stampMs = habits.stamp === "start" ? startMs : file.toMs - habits.offsetMs;
  const dayMs = ((startMs % 86_400_000) + 86_400_000) % 86_400_000;
  return {
    createdMs: Math.floor(stampMs / 1000) * 1000,
    frames: file.frames,
    fpsNum: mode.fpsNum,
    fpsDen: mode.fpsDen,
    widthPx: mode.widthPx,
    heightPx: mode.heightPx,
    fourcc: /264|avc/i.test(mode.codec) ? "avc1" : "hvc1",
    sampleBytes: sampleBytesOf(mode),
    timeCodeFrame: Math.floor((dayMs * mode.fpsNum) / mode.fpsDen / 1000),
    dropFrame: false,
    cutOff,
  };
}
