export type { Microphone } from "./meter.ts";
export { soundMeter } from "./meter.ts";
