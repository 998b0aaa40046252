export { apexOf, filterOfDensity, filterOfFactor, filterOfStops } from "./apex.ts";
export type { Metered, ToSet } from "./equalExposure.ts";
export { equalExposure, fNumberLabel, isoLabel, SEEN_STOPS } from "./equalExposure.ts";
export { flickerStops } from "./flicker.ts";
export type { Reference } from "./focal.ts";
export { apertureStopsOf, cropByDiagonal, cropByWidth, onePixelRule, REFERENCES, ruleOfThumb } from "./focal.ts";
export type { Series } from "./series.ts";
export { labelAt, nearestPlace, placeOfLabel, readSeconds, SERIES, seriesOf, stopsShorter } from "./series.ts";
