export { clockAt, nextSegment, rateAt } from "./benchClock.ts";
export type { ClockAnchor, ClockOffset, ClockSample, Parting } from "./deviceClock.ts";
export { TOGETHER, clocksParted, estimateOffset, followParting, offsetAt } from "./deviceClock.ts";
