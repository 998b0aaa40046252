export type { ReadShot } from "./readShot.ts";
export { readShot, rungsOf } from "./readShot.ts";
