export type { TimeTo } from "./lumped.ts";
export { criticalAmbientC, dutyHeat, temperatureAt, timePerKelvin, timeToCool, timeToThreshold } from "./lumped.ts";
export { secondsToChip, timeConstantsSec } from "./twoNodeTimes.ts";
