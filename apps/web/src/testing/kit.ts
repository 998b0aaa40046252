// Test support: one mode, one condition, one protocol, as plain as they can be.

import type { StartBody } from "@keep-rolling/core/runs";
import type { ConditionSnapshot, ModeSnapshot, ProtocolSnapshot } from "@keep-rolling/core/kit";

export const MODE: Omit<ModeSnapshot, "id"> = {
  name: "UHD",
  widthPx: 3840,
  heightPx: 2160,
  fpsNum: 25,
  fpsDen: 1,
  readout: "binned",
  readoutCrop: 1,
  codec: "H.265",
  compression: "long-GOP",
  bits: 10,
  mbps: 100,
  target: "slot 1",
  clipLimitSec: null,
};
export const CONDITION: Omit<ConditionSnapshot, "id"> = {
  name: "Room",
  ambientC: 22,
  toleranceC: 2,
  sun: "none",
  air: "still",
  screen: "lit",
  power: "internal",
  powerOffSetting: "normal",
};
export const PROTOCOL: Omit<ProtocolSnapshot, "id"> = {
  name: "Until it stops",
  continuity: { poweredOff: "strict", bridgeBodyOnMs: 20_000 },
  checkpointSec: 300,
  checkpointAfterWarningSec: 60,
  onWarning: "run on",
};

/** A cold start with them. */
export const START: StartBody = {
  runKind: "endurance",
  clockId: "real",
  unit: { id: "u1", name: "Body one", serialLabel: "001", firmware: "1.0", modelId: "m1", modelName: "Model", simulated: false },
  mode: { id: "mo1", ...MODE },
  condition: { id: "c1", ...CONDITION },
  protocol: { id: "p1", ...PROTOCOL },
  ambient: { valueC: 22, plusMinusC: 0.5, basis: "measured" },
  startState: { state: "cold", by: "gauge", value: 0 },
};
