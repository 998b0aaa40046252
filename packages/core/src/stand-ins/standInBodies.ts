// Settings of the simulated bodies that ship with the application: made-up parameters, chosen for plausible half hours to hours.

import type { ModeSnapshot } from "../kit/index.ts";
import { seedOf } from "../statistics/index.ts";
import type { CameraBody } from "./simulatedCamera.ts";

const BASE: CameraBody = {
  node: { chipJPerK: 40, shellJPerK: 300, chipToShellKPerW: 3, shellToAirKPerW: 4.5 },
  idleW: 1.6,
  otherW: 1.4,
  shutdownC: 68,
  warningMarginC: 4,
  gaugeZeroC: 30,
  batteryWh: 17,
};

/** Body to body: shell size, losses and battery differ by a few per cent, fixed by the unit's id. */
export function bodyOf(unitId: string): CameraBody {
  const factor = (what: string, spread: number): number => 1 + spread * ((seedOf(`${unitId}/${what}`) % 2001) / 1000 - 1);
  return {
    ...BASE,
    node: {
      ...BASE.node,
      shellJPerK: BASE.node.shellJPerK * factor("shell", 0.18),
      shellToAirKPerW: BASE.node.shellToAirKPerW * factor("loss", 0.05),
    },
    batteryWh: BASE.batteryWh * factor("battery", 0.12),
  };
}

const READOUT_W = { oversampled: 1.5, "pixel for pixel": 0.9, "line-skipped": 0.5, binned: 0.5 } as const;

/** Chip power of a mode: a base, the read-out, the pixel rate, the codec. Monotone in each; no real body behind it. */
export function recordWattsOf(mode: ModeSnapshot): number {
  const gigapixelsPerSec = (mode.widthPx * mode.heightPx * mode.fpsNum) / mode.fpsDen / 1e9;
  const codecW = mode.compression === "all-intra" ? 0.5 : 0.2;
  return 3.1 + READOUT_W[mode.readout] + 4.2 * gigapixelsPerSec + codecW + mode.mbps / 1000;
}

/** An early firmware of a made-up body that drove its processor harder; every other one is as the body is. */
export const firmwareFactor = (firmware: string): number => (firmware === "2.0" ? 1.07 : 1);
