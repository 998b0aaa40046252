// From a start mark to the settings of the stand-in that plays the body: everything the start says, and chance by the run's id.

import { seedOf } from "../random/index.ts";
import type { StartBody } from "../runs/index.ts";
import type { ActivitySpan, CameraSettings } from "./simulatedCamera.ts";
import { cameraAt, restingShellC } from "./simulatedCamera.ts";
import { bodyOf, recordWattsOf } from "./standInBodies.ts";

/** Decimal gigabytes of the card in every stand-in. */
export const STAND_IN_CARD_GB = 128;

/** Above ambient at the start when the body is said to be warm and nothing before it is known, in K. */
const WARM_START_K = 9;

/** `warmStartK`: how far the shell is above ambient at the start, in K; null: as the start state says. */
export function standInSettings(runId: string, start: StartBody, warmStartK: number | null = null): CameraSettings {
  const { condition, mode, unit, ambient, startState } = start;
  return {
    seed: seedOf(runId),
    body: bodyOf(unit.id),
    recordW: recordWattsOf(mode),
    mbps: mode.mbps,
    cardGb: STAND_IN_CARD_GB,
    ambientC: ambient.valueC,
    screenLit: condition.screen === "lit" || condition.screen === "folded out",
    sun: condition.sun,
    air: condition.air,
    powerOffSetting: condition.powerOffSetting,
    externalPower: condition.power === "dummy or mains" || condition.power === "USB",
    clipLimitSec: mode.clipLimitSec,
    warmStartK: warmStartK ?? (startState.state === "warm" ? WARM_START_K : 0),
  };
}

/** Heat left in the shell at `atMs` after an earlier run, in K above where the body settles when off in that place; never below 0. */
export function residualHeatK(settings: CameraSettings, spans: readonly ActivitySpan[], atMs: number): number {
  const moment = cameraAt(settings, spans, atMs);
  return moment === null ? 0 : Math.max(0, moment.shellC - restingShellC(settings));
}
