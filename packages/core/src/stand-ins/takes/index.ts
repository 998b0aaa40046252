export { madeOf } from "./madeOf.ts";
export { rendererOf } from "./render.ts";
export type { MadeTake } from "./take.ts";
export { PLAIN } from "./take.ts";
export { truePairs } from "./truth.ts";
