// From a start mark to the settings of the stand-in that plays the body: everything the start says, and chance by the run's id.

import { isLit } from "../kit/index.ts";
import { randomFrom, seedOf } from "../statistics/index.ts";
import type { StartBody } from "../runs/index.ts";
import type { ActivitySpan, CameraSettings } from "./simulatedCamera.ts";
import { cameraAt, restingShellC } from "./simulatedCamera.ts";
import { bodyOf, firmwareFactor, recordWattsOf } from "./standInBodies.ts";

/** Decimal gigabytes of the card in every stand-in. */
export const STAND_IN_CARD_GB = 128;

/** Above ambient at the start when the body is said to be warm and nothing before it is known, in K. */
const WARM_START_K = 9;

/** Heat a body still carries, in K above where it settles when off. */
export interface HeatLeft {
  shellK: number;
  chipK: number;
}

/** `left`: what the body carries at the start; null: as the start state says. */
export function standInSettings(runId: string, start: StartBody, left: HeatLeft | null = null): CameraSettings {
  const { condition, mode, unit, ambient, startState } = start;
  return {
    seed: seedOf(runId),
    body: bodyOf(unit.id),
    recordW: recordWattsOf(mode) * firmwareFactor(unit.firmware),
    mbps: mode.mbps,
    cardGb: STAND_IN_CARD_GB,
    ambientC: ambient.valueC,
    screenLit: isLit(condition.screen),
    sun: condition.sun,
    air: condition.air,
    powerOffSetting: condition.powerOffSetting,
    externalPower: condition.power === "dummy or mains" || condition.power === "USB",
    clipLimitSec: mode.clipLimitSec,
    warmStartK: left?.shellK ?? (startState.state === "warm" ? WARM_START_K : 0),
    warmChipK: left?.chipK,
    signalDrop: dropOf(runId, mode.target),
  };
}

/** A cable to a recorder drops out once, ten to twenty-five minutes after the start, for eight to twenty-five seconds. */
function dropOf(runId: string, target: StartBody["mode"]["target"]): CameraSettings["signalDrop"] {
  if (target !== "external recorder" && target !== "slot and recorder") return null;
  const random = randomFrom(seedOf(`${runId}/cable`));
  return { afterSec: random.int(600, 1500), lengthSec: random.int(8, 25) };
}

/** What is left at `atMs` of an earlier run, above where the body settles when off in that place; never below 0. */
export function residualHeatK(settings: CameraSettings, spans: readonly ActivitySpan[], atMs: number): HeatLeft {
  const moment = cameraAt(settings, spans, atMs);
  const restC = restingShellC(settings);
  return moment === null
    ? { shellK: 0, chipK: 0 }
    : { shellK: Math.max(0, moment.shellC - restC), chipK: Math.max(0, moment.chipC - restC) };
}
