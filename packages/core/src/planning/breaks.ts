// The tester's breaks by heat index: hours of the day as forecast or measured, the level of each, and the shade that follows.

import type { HeatLevel } from "../heat/index.ts";
import { breakRuleOf, heatIndexC, heatLevelOf } from "../heat/index.ts";
import type { Span } from "./spans.ts";

export interface WeatherSpan extends Span {
  tempC: number;
  humidityPct: number;
  /** Full sun on the tester: up to 15 °F more, counted in full. */
  sun: boolean;
}
export interface HeatOfDay extends Span {
  indexC: number;
  level: HeatLevel;
}

export const heatOfDay = (weather: readonly WeatherSpan[]): HeatOfDay[] =>
  weather.map(({ fromMs, toMs, tempC, humidityPct, sun }) => {
    const indexC = heatIndexC(tempC, humidityPct, sun);
    return { fromMs, toMs, indexC, level: heatLevelOf(indexC) };
  });

/** Work, then shade, from the start of each stretch of weather; at extreme danger the whole stretch is a break. */
export function breaksOf(weather: readonly WeatherSpan[]): Span[] {
  return heatOfDay(weather).flatMap((h) => {
    const rule = breakRuleOf(h.level);
    if (rule === null) return [];
    if (rule === "no work") return [{ fromMs: h.fromMs, toMs: h.toMs }];
    const breaks: Span[] = [];
    for (let ms = h.fromMs + rule.workMin * 60_000; ms < h.toMs; ms += (rule.workMin + rule.breakMin) * 60_000)
      breaks.push({ fromMs: ms, toMs: Math.min(h.toMs, ms + rule.breakMin * 60_000) });
    return breaks;
  });
}
