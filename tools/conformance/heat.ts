// Heat: the lumped body, two nodes, fits of a log, duty cycles, heat index.

import type { TwoNodeBody } from "@keep-rolling/core/heat";
import { advance, fitPlateau, fitRise, heatIndexF, steadyState } from "@keep-rolling/core/heat";
import type { TimeTo } from "@keep-rolling/core/heat/testing";
import {
  criticalAmbientC,
  dutyHeat,
  secondsToChip,
  temperatureAt,
  timeConstantsSec,
  timePerKelvin,
  timeToCool,
  timeToThreshold,
} from "@keep-rolling/core/heat/testing";
import { celsiusFromFahrenheit } from "@keep-rolling/core/format";
import type { Answer, Case } from "./compare.ts";
import { readInputs, UnknownInput } from "./inputs.ts";

const given = (values: Record<string, unknown>): Answer => ({ reason: null, values });
const refused = (reason: string, values: Record<string, unknown>): Answer => ({ reason, values });
/** "Never" is a closed reason in the core; cases write it as infinite. */
const orNever = (t: TimeTo): number => (t.ok ? t.time : Number.POSITIVE_INFINITY);

export function lumped(c: Case): Answer {
  const input = readInputs(c.inputs, ["ambient", "dT", "tau", "threshold", "start"]);
  const body = { riseK: input.number("dT"), tau: input.number("tau") };
  const [ambient, start, threshold] = [input.number("ambient"), input.number("start"), input.number("threshold")];
  const times = (c.expected.T_at as { t: number[] } | undefined)?.t ?? [];
  return given({
    T_at: { t: times, T: times.map((t) => temperatureAt(body, ambient, start, t)) },
    time_to_threshold: orNever(timeToThreshold(body, ambient, start, threshold)),
    critical_ambient: criticalAmbientC(body, threshold),
    initial_rate_per_min: (ambient + body.riseK - start) / body.tau,
  });
}

export function cooling(c: Case): Answer {
  const input = readInputs(c.inputs, ["ambient", "tau", "start", "target"]);
  return given({ time: orNever(timeToCool(input.number("tau"), input.number("ambient"), input.number("start"), input.number("target"))) });
}

export function twoNode(c: Case): Answer {
  const input = readInputs(c.inputs, ["C1", "C2", "R12", "R2", "P", "Q", "Ta", "start", "times_s", "threshold_node1", "units"]);
  const body: TwoNodeBody = {
    chipJPerK: input.number("C1"),
    shellJPerK: input.number("C2"),
    chipToShellKPerW: input.number("R12"),
    shellToAirKPerW: input.number("R2"),
  };
  const power = { chipW: input.number("P"), shellW: input.number("Q"), ambientC: input.number("Ta") };
  const [chipC = 0, shellC = 0] = input.numbers("start");
  const at = input.numbers("times_s").map((t) => advance(body, { chipC, shellC }, power, t));
  const steady = steadyState(body, power);
  const tau = timeConstantsSec(body);
  const reached = secondsToChip(body, { chipC, shellC }, power, input.number("threshold_node1"));
  return given({
    T1: at.map((s) => s.chipC),
    T2: at.map((s) => s.shellC),
    steady: [steady.chipC, steady.shellC],
    tau_fast: tau.fastSec,
    tau_slow: tau.slowSec,
    time_node1_to_threshold: reached.ok ? reached.sec : Number.POSITIVE_INFINITY,
  });
}

export function byAmbient(c: Case): Answer {
  const input = readInputs(c.inputs, ["dT", "tau", "threshold", "ambients"]);
  const body = { riseK: input.number("dT"), tau: input.number("tau") };
  const threshold = input.number("threshold");
  const ambients = input.numbers("ambients");
  return given({
    time: ambients.map((a) => orNever(timeToThreshold(body, a, a, threshold))),
    critical_ambient: criticalAmbientC(body, threshold),
    dtime_dambient: ambients.map((a) => orNever(timePerKelvin(body, a, threshold))),
  });
}

export function duty(c: Case): Answer {
  const input = readInputs(c.inputs, ["ambient", "dT", "tau_heat", "tau_cool", "on_min", "off_min"]);
  const heat = dutyHeat(
    input.number("dT"),
    input.number("tau_heat"),
    input.number("tau_cool"),
    input.number("ambient"),
    input.number("on_min"),
    input.number("off_min"),
  );
  return given({ peak: heat.peakC, trough: heat.troughC });
}

export function logFit(c: Case): Answer {
  const input = readInputs(c.inputs, ["t", "T", "ambient", "fitted"]);
  const log = { time: input.numbers("t"), tempC: input.numbers("T") };
  const which = input.text("fitted");
  if (which !== "dT,tau" && which !== "Tinf,T0,tau") throw new UnknownInput(`a fit of ${which} is not known here`);
  const fit = which === "dT,tau" ? fitRise(log, input.number("ambient")) : fitPlateau(log);
  if (!fit.ok) return refused(fit.reason, { estimable: false });
  const names = which.split(",");
  const last = names.length - 1;
  const correlated = (i: number, j: number): number => (fit.covariance[i]?.[j] ?? 0) / ((fit.se[i] ?? 1) * (fit.se[j] ?? 1));
  return given({
    ...Object.fromEntries(names.flatMap((name, i) => [[name, fit.values[i]] as const, [`se_${name}`, fit.se[i]] as const])),
    estimable: true,
    rss: fit.rss,
    sigma: fit.sigma,
    corr_last_two: correlated(last - 1, last),
    corr_first_last: correlated(0, last),
  });
}

export function heatIndex(c: Case): Answer {
  const input = readInputs(c.inputs, ["cells", "unit", "T_F", "RH"]);
  const cells = input.has("cells")
    ? (input.list("cells") as [number, number][])
    : [[input.number("T_F"), input.number("RH")] as [number, number]];
  const index = cells.map(([t, rh]) => heatIndexF(t, rh));
  const [first = Number.NaN] = index;
  return given({
    heat_index_F: input.has("cells") ? index : first,
    heat_index_C: celsiusFromFahrenheit(first),
    branch: input.has("cells") ? index.map(() => "") : "",
  });
}
