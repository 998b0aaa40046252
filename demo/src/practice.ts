import { setupSnapshot } from "@keep-rolling/core/kit";
import type { StartBody } from "@keep-rolling/core/runs";
import { builtInKit, PRACTICE_UNIT_ID } from "./builtIn.ts";

/** The start of a practice run on the built-in kit: for tests, chaos and benchmarks. */
export function practiceStart(more: Partial<StartBody> = {}): StartBody {
  const [unit] = builtInKit.units;
  const [model] = builtInKit.models;
  const [mode] = builtInKit.modes;
  const [condition] = builtInKit.conditions;
  const [protocol] = builtInKit.protocols;
  if (!unit || !model || !mode || !condition || !protocol) throw new Error("the built-in kit is incomplete");
  return {
    runKind: "endurance",
    ...setupSnapshot({ unit: { ...unit, id: PRACTICE_UNIT_ID, bench: "rehearsal" }, model, mode, condition, protocol }),
    ambient: { valueC: 21, plusMinusC: 0.5, basis: "measured" },
    startState: { state: "cold", by: "gauge", value: 0 },
    ...more,
  };
}
