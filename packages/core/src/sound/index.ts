export type { Microphone } from "./meter.ts";
export { ENVELOPE_HZ, loudnessOf, soundMeter } from "./meter.ts";
