export { applyCorrections, isCorrection, rootOf } from "./corrections.ts";
export type { Fact, FactEnvelope, FactSource } from "./fact.ts";
export { FACT_SOURCES, isForeign } from "./fact.ts";
export { FACT_FINDING_CODES, sortFindings } from "./findings.ts";
export type { Corrigible, Draw, FactKind } from "./kind.ts";
export { OTHER_RANK, replaced } from "./kind.ts";
export { liveness } from "./liveness.ts";
export { distinctFacts, orderOf } from "./order.ts";
