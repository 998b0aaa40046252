export { embeddedJpeg } from "./fileKind.ts";
export { isPlainHalvedColour } from "./jpegColour.ts";
export { planeReducer } from "./reducePlanes.ts";
export type { ReadShot, ShotProblem } from "./readShot.ts";
export { readShot, rungsOf } from "./readShot.ts";
