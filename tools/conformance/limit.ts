// The dependable limit of cells, times in minutes on both sides.

import type { LimitRun } from "@keep-rolling/core/statistics";
import { lifeLimits } from "@keep-rolling/core/statistics";
import type { Answer, Case } from "./compare.ts";
import { readInputs, UnknownInput } from "./inputs.ts";

type LimitCaseRun = { kind: string; t?: number; lo?: number; hi?: number; day: number };

export function dependableLimit(c: Case): Answer {
  const input = readInputs(c.inputs, ["share", "confidence", "tau", "tauFactor", "cells"]);
  const given = c.inputs.cells as { name: string; runs: LimitCaseRun[] }[];
  const cells = given.map(({ name, runs }) => ({ key: name, runs: runs.map(limitRun) }));
  const limits = lifeLimits(cells, {
    share: input.number("share"),
    confidence: input.number("confidence"),
    tauSec: 60 * input.number("tau"),
    tauFactor: input.number("tauFactor"),
  });
  return {
    reason: null,
    values: {
      bounds: limits.map((l) => (l.ok ? l.boundSec / 60 : null)),
      scatter: limits.map((l) => (l.ok ? l.scatter : null)),
      claims: limits.map((l) => l.ok && l.refusal === null),
      type: limits.map((l) => (l.ok ? l.scope : "tested days")),
    },
  };
}

function limitRun({ kind, t = 0, lo = 0, hi = 0, day }: LimitCaseRun): LimitRun {
  if (kind === "interval") return { kind, loSec: 60 * lo, hiSec: 60 * hi, day: String(day) };
  if (kind !== "exact" && kind !== "censored") throw new UnknownInput(`a run of kind ${kind}`);
  return { kind, sec: 60 * t, day: String(day) };
}
