import type { ConditionSnapshot, ContinuityRule, ModeSnapshot, ProtocolSnapshot, UnitSnapshot } from "../../kit/index.ts";
import { formatTemperature } from "../../format/index.ts";
import { replaced } from "../../facts/index.ts";
import { use } from "../timeline.ts";
import type { Ambient, GapPower, RunKind, StartState } from "../vocabulary.ts";
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
    ambient: replaced("ambient", ({ valueC }, unit) => `ambient ${formatTemperature(valueC, unit)}`),
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
