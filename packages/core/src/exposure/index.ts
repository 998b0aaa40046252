export { apexOf, filterOfDensity, filterOfFactor, filterOfStops } from "./apex.ts";
export type { Reference } from "./focal.ts";
export { apertureStopsOf, cropByDiagonal, cropByWidth, REFERENCES, ruleOfThumb } from "./focal.ts";
export type { Series } from "./series.ts";
export { labelAt, nearestPlace, placeOfLabel, readSeconds, SERIES, seriesOf, stopsShorter } from "./series.ts";
