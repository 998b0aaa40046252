export type { DurationReading } from "./duration.ts";
export { echoDuration, formatHms, formatSpan, formatTick, parseDuration } from "./duration.ts";
export { formatShareDown, roundDown } from "./rounding.ts";
export type { TemperatureUnit } from "./temperature.ts";
export { celsiusFromFahrenheit, fahrenheitFromCelsius, fahrenheitSpan, formatTemperature, formatTemperatureRange } from "./temperature.ts";
export { formatDay } from "./day.ts";
export { capital, listWords } from "./sentences.ts";
