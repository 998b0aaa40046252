export { apexOf, filterOfDensity, filterOfFactor, filterOfStops } from "./apex.ts";
export { apertureStopsOf, cropByDiagonal, cropByWidth, ruleOfThumb } from "./focal.ts";
export type { Series } from "./series.ts";
export { nearestPlace, placeOfLabel, readSeconds, SERIES, seriesOf, stopsShorter } from "./series.ts";
