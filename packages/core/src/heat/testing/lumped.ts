// One lumped body: T(t) = T_inf + (T_0 - T_inf) e^(-t/tau), T_inf = ambient + rise. Times and tau in one unit, whichever. "Never" is a reason,
// not a number. Truths for tests and check cases; the application fits and steps. Source: lumped-capacitance model (Incropera and DeWitt, ch. 5, from memory); checked against closed forms.

export interface LumpedBody {
  /** Rise above ambient at the plateau. */
  riseK: number;
  tau: number;
}

export type TimeTo = { ok: true; time: number } | { ok: false; reason: "never" };

function requireTau(tau: number): void {
  if (!(tau > 0)) throw new RangeError(`tau must be positive, got ${tau}`);
}

export function temperatureAt(body: LumpedBody, ambientC: number, startC: number, time: number): number {
  requireTau(body.tau);
  const plateau = ambientC + body.riseK;
  return plateau + (startC - plateau) * Math.exp(-time / body.tau);
}

/** Heating to a threshold: 0 from at or above it. */
export function timeToThreshold(body: LumpedBody, ambientC: number, startC: number, thresholdC: number): TimeTo {
  requireTau(body.tau);
  if (startC >= thresholdC) return { ok: true, time: 0 };
  const plateau = ambientC + body.riseK;
  if (thresholdC >= plateau) return { ok: false, reason: "never" };
  return { ok: true, time: -body.tau * Math.log((thresholdC - plateau) / (startC - plateau)) };
}

/** Cooling, off, to a target: 0 from at or below it. */
export function timeToCool(tau: number, ambientC: number, startC: number, targetC: number): TimeTo {
  requireTau(tau);
  if (startC <= targetC) return { ok: true, time: 0 };
  if (targetC <= ambientC) return { ok: false, reason: "never" };
  return { ok: true, time: tau * Math.log((startC - ambientC) / (targetC - ambientC)) };
}

/** Below this ambient it never reaches the threshold. */
export const criticalAmbientC = (body: LumpedBody, thresholdC: number): number => thresholdC - body.riseK;

/** How the time from a cold start to the threshold changes with ambient; never below the critical ambient. */
export function timePerKelvin(body: LumpedBody, ambientC: number, thresholdC: number): TimeTo {
  requireTau(body.tau);
  const room = body.riseK - (thresholdC - ambientC);
  return room > 0 ? { ok: true, time: -body.tau / room } : { ok: false, reason: "never" };
}

export interface DutyHeat {
  peakC: number;
  troughC: number;
}

/** Periodic heat of minutes on, minutes off, kept up for ever; heating and cooling may differ in tau. Closed form of the fixed point. */
export function dutyHeat(riseK: number, tauHeat: number, tauCool: number, ambientC: number, on: number, off: number): DutyHeat {
  requireTau(tauHeat);
  requireTau(tauCool);
  const [a, b] = [Math.exp(-on / tauHeat), Math.exp(-off / tauCool)];
  const peakC = ((ambientC + riseK) * (1 - a) + a * ambientC * (1 - b)) / (1 - a * b);
  return { peakC, troughC: ambientC + (peakC - ambientC) * b };
}
