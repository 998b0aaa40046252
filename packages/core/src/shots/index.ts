export { embeddedJpeg } from "./fileKind.ts";
export type { ReadShot, ShotProblem } from "./readShot.ts";
export { readShot, rungsOf } from "./readShot.ts";
