import type { ConditionSnapshot, ContinuityRule, ModeSnapshot, ProtocolSnapshot, UnitSnapshot } from "../../kit/index.ts";
import { replaced } from "../../facts/index.ts";
import { use } from "../timeline.ts";
import type { Ambient, GapPower, RunKind, RunSettings, StartState } from "../vocabulary.ts";
import { RUN_SETTINGS } from "../vocabulary.ts";
import { ambientWords } from "../ambientWords.ts";
import { describeRule } from "../continuity.ts";
import type { MarkKind } from "./markKind.ts";
import { SAMPLE_START } from "./sampleStart.ts";

export interface StartBody {
  runKind: RunKind;
  clockId: string;
  unit: UnitSnapshot;
  mode: ModeSnapshot;
  condition: ConditionSnapshot;
  protocol: ProtocolSnapshot;
  ambient: Ambient;
  startState: StartState;
  parentRunId?: string | undefined;
  /** The block of a planned day it was started from. */
  slot?: SlotRef | undefined;
  /** For a duty run: what is repeated until something ends it. */
  duty?: DutyCycle | undefined;
  settings?: RunSettings | undefined;
  /** Entered from somebody's notes. */
  origin?: "notebook" | undefined;
}

/** Minutes recording, minutes not, with the body on or powered off meanwhile. */
export interface DutyCycle {
  onMin: number;
  offMin: number;
  power: GapPower;
}

/** A planned trial: the day's id and the slot's name within it. */
export interface SlotRef {
  dayId: string;
  slot: string;
}

export interface StartCorrection {
  /** Entered under the wrong body, mode or condition, or on another firmware than it ran. */
  unit?: UnitSnapshot | undefined;
  mode?: ModeSnapshot | undefined;
  condition?: ConditionSnapshot | undefined;
  settings?: RunSettings | undefined;
  /** The run whose shutdown this one recovers from or falls back after; null: none, so it is a run of its own. */
  follows?: { runId: string; as: "recovery" | "fallback" } | null | undefined;
  ambient?: Ambient | undefined;
  startState?: StartState | undefined;
  /** How this run's gaps are read, where that is not as its protocol said at the start. */
  continuity?: ContinuityRule | undefined;
}

export const start: MarkKind<StartBody, StartCorrection> = {
  rank: 0,
  aimed: false,
  place: "first",
  acts: ["time", "surroundings"],
  corrects: {
    unit: {
      // Runs of stand-ins and of real bodies never meet, not by a correction either.
      set: (body, unit) => (unit.simulated === body.unit.simulated ? { ...body, unit } : null),
      words: ({ name, firmware }) => `unit ${name}, firmware ${firmware}`,
    },
    mode: replaced("mode", ({ name }) => `mode ${name}`),
    condition: replaced("condition", ({ name }) => `condition ${name}`),
    settings: replaced("settings", (settings) => `settings: ${settingWords(settings)}`),
    follows: {
      set: ({ parentRunId: _, ...body }, follows) =>
        follows === null ? { ...body, runKind: "endurance" } : { ...body, runKind: follows.as, parentRunId: follows.runId },
      words: (follows) => (follows === null ? "no run before it" : `a ${follows.as} run`),
    },
    ambient: replaced("ambient", (ambient, unit) => `ambient ${ambientWords(ambient, unit)}`),
    startState: replaced("startState", ({ state }) => `start ${state}`),
    continuity: {
      set: (body, continuity) => ({ ...body, protocol: { ...body.protocol, continuity } }),
      words: (rule) => `gaps read: ${describeRule(rule)}`,
    },
  },
  words: ({ startState }) => `start, ${startState.state === "unknown" ? "start state not known" : startState.state}`,
  apply: (t, mark) => {
    t.startMs = mark.atMs;
    t.segments.push({ fromMs: mark.atMs, toMs: null });
    use(t, mark);
  },
  sample: () => SAMPLE_START,
};

const SETTING_WORDS: Readonly<Record<(typeof RUN_SETTINGS)[number], string>> = {
  iso: "ISO",
  shutter: "shutter",
  whiteBalance: "white balance",
  focus: "focus",
  profile: "profile",
  card: "card",
  battery: "battery",
};

/** "ISO 400, shutter 1/50"; what was not said is left out. */
export const settingWords = (settings: RunSettings): string =>
  RUN_SETTINGS.flatMap((key) =>
    settings[key] === undefined || settings[key] === "" ? [] : [`${SETTING_WORDS[key]} ${settings[key]}`],
  ).join(", ") || "none said";
