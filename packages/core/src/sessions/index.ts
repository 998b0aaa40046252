export type { SessionFact } from "./fact.ts";
export { SESSION_VERSION } from "./fact.ts";
export type { SessionFold } from "./fold.ts";
export { foldSession, SESSION_FOLD_VERSION } from "./fold.ts";
export { SESSION_KINDS } from "./kinds/begin.ts";
export type { SessionBodies, SessionFactKind } from "./kinds/kinds.ts";
export { SESSION_FACT_KINDS, SESSION_FACTS } from "./kinds/kinds.ts";
export type { BeginBody } from "./kinds/begin.ts";
