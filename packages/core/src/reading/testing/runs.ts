// Test support: made cold runs of one body, a day apart, ended by heat unless said.

import type { CandidateRun } from "../../cells/index.ts";
import { DEFAULT_LEVELS } from "../../cells/index.ts";
import type { Mark, MarkBodies, StartBody } from "../../runs/index.ts";
import { foldRun } from "../../runs/index.ts";
import { end, mark, START, start } from "../../runs/testing/marks.ts";
import type { UnitQuestion } from "../shared.ts";

/** The usual question about a unit. */
export const asked = (candidates: readonly CandidateRun[], more: Partial<UnitQuestion> = {}): UnitQuestion => ({
  candidates,
  endpoint: "shutdown",
  levels: DEFAULT_LEVELS,
  tauMin: 30,
  figures: [],
  cardSec: {},
  zone: "UTC",
  ...more,
});

export interface Made {
  sec: number;
  ambientC?: number;
  setup?: Partial<StartBody>;
  cause?: MarkBodies["end"]["cause"];
  /** Pressed between start and end, seconds since the start. */
  between?: readonly ((at: (sec: number) => number) => Mark)[];
  /** Day of the run; the next free one without. */
  atSec?: number;
  struck?: string;
}

let day = 0;
export function made(runId: string, m: Made): CandidateRun {
  const from = m.atSec ?? ++day * 86_400;
  const ambient = m.ambientC ?? START.ambient.valueC;
  const setup: Partial<StartBody> = {
    condition: { ...START.condition, ambientC: Math.round(ambient), toleranceC: 3 },
    ambient: { ...START.ambient, valueC: ambient },
    ...m.setup,
  };
  const marks = [
    start(from, setup),
    ...(m.between ?? []).map((b) => b((sec) => from + sec)),
    m.sec === 0 ? end(from, "thermal shutdown") : end(from + m.sec, m.cause),
  ];
  return { runId, fold: foldRun(marks.map((x) => ({ ...x, runId }))), struck: m.struck ?? null };
}

export const gaugeAt =
  (sec: number, gauge: number) =>
  (at: (s: number) => number): Mark =>
    mark("reading", at(sec), { gauge });
export const MODE_B: StartBody["mode"] = { ...START.mode, id: "mo2", name: "UHD 50", fpsNum: 50 };
export const SUN: StartBody["condition"] = { ...START.condition, id: "c2", name: "Sun", sun: "direct", ambientC: 30, toleranceC: 3 };
