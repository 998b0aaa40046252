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
  const { archived: _a, modelId: _m, ...modeSnapshot } = mode;
  const { archived: _b, ...conditionSnapshot } = condition;
  const { archived: _c, ...protocolSnapshot } = protocol;
  return {
    runKind: "endurance",
    clockId: "rehearsal",
    unit: {
      id: PRACTICE_UNIT_ID,
      name: unit.name,
      serialLabel: unit.serialLabel,
      firmware: unit.firmware,
      modelId: model.id,
      modelName: model.name,
      simulated: true,
    },
    mode: modeSnapshot,
    condition: conditionSnapshot,
    protocol: protocolSnapshot,
    ambient: { valueC: 21, plusMinusC: 0.5, basis: "measured" },
    startState: { state: "cold", by: "gauge", value: 0 },
    ...more,
  };
}
