// Stops by the places of a series, APEX, filters, equivalent focal lengths.

import {
  apertureStopsOf,
  apexOf,
  cropByDiagonal,
  cropByWidth,
  filterOfDensity,
  filterOfFactor,
  filterOfStops,
  nearestPlace,
  placeOfLabel,
  readSeconds,
  ruleOfThumb,
  SERIES,
  stopsShorter,
} from "@keep-rolling/core/exposure";
import type { Series } from "@keep-rolling/core/exposure";
import type { Answer, Case } from "./compare.ts";
import { readInputs, UnknownInput } from "./inputs.ts";

const given = (values: Record<string, unknown>): Answer => ({ reason: null, values });
const secondsOf = (label: string): number => readSeconds(label) ?? Number.NaN;

function seriesNamed(name: string): Series {
  const step: Readonly<Record<string, Series>> = { "1": "full", "1/2": "half", "1/3": "third" };
  const series = step[name] ?? SERIES.find((s) => s === name);
  if (series === undefined) throw new UnknownInput(`a series of ${name}`);
  return series;
}

export function exposureStops(c: Case): Answer {
  readInputs(c.inputs, ["from", "to", "series"]);
  const { from, to, series } = c.inputs as { from: string; to: string; series: string };
  return given({
    stops_shorter: stopsShorter(from, to, seriesNamed(series)),
    stops_from_nominal_values: Math.log2(secondsOf(from) / secondsOf(to)),
  });
}

export function exposureSeries(c: Case): Answer {
  readInputs(c.inputs, ["nominal", "step"]);
  const { nominal, step } = c.inputs as { nominal: string[]; step: string };
  const series = seriesNamed(step);
  const places = nominal.map((label) => placeOfLabel(label, series) ?? Number.NaN);
  const labels = nominal.map((label) => Math.log2(secondsOf(label)));
  return given({
    exact_seconds: places.map((x) => 2 ** x),
    log2_exact: places,
    max_abs_nominal_error_stops: Math.max(...places.map((x, i) => Math.abs(x - (labels[i] ?? Number.NaN)))),
    nearest_in_log2_identifies_index: places.map((x, i) => Math.abs(nearestPlace(labels[i] ?? Number.NaN, series) - x) < 1e-9),
  });
}

export function apex(c: Case): Answer {
  readInputs(c.inputs, ["f_number", "seconds", "iso"]);
  const { f_number, seconds, iso } = c.inputs as Record<string, number>;
  const a = apexOf({ fNumber: f_number ?? Number.NaN, seconds: seconds ?? Number.NaN, iso: iso ?? Number.NaN });
  return given({ Av: a.av, Tv: a.tv, Sv: a.sv, EV: a.ev, EV100: a.ev100, Bv: a.bv, lux_at_K250_C_incident_2p5x2EV: a.lux });
}

export function ndFilter(c: Case): Answer {
  readInputs(c.inputs, ["stops", "factor", "optical_density", "base_seconds"]);
  const { stops, factor, optical_density, base_seconds } = c.inputs as Record<string, number | undefined>;
  const filter =
    stops !== undefined
      ? filterOfStops(stops)
      : factor !== undefined
        ? filterOfFactor(factor)
        : filterOfDensity(optical_density ?? Number.NaN);
  return given({
    stops: filter.stops,
    factor: filter.factor,
    optical_density: filter.density,
    seconds_with_filter: (base_seconds ?? Number.NaN) * filter.factor,
  });
}

export function cropFactor(c: Case): Answer {
  readInputs(c.inputs, ["sensor_w_mm", "sensor_h_mm", "focal_mm"]);
  const {
    sensor_w_mm: widthMm = Number.NaN,
    sensor_h_mm: heightMm = Number.NaN,
    focal_mm = Number.NaN,
  } = c.inputs as Record<string, number>;
  const crop = cropByDiagonal({ widthMm, heightMm });
  const byWidth = cropByWidth({ widthMm, heightMm });
  const rule = ruleOfThumb("1/equivalent", { focalMm: focal_mm, equivalentMm: focal_mm * crop }) ?? Number.NaN;
  return given({
    crop_diagonal: crop,
    equivalent_focal_mm: focal_mm * crop,
    crop_width: byWidth,
    equivalent_focal_by_width_mm: focal_mm * byWidth,
    one_over_f_rule_seconds: 2 ** rule,
    log2_one_over_f_rule: rule,
    equivalent_aperture_stops: apertureStopsOf(crop),
  });
}

export function stabilisationStops(c: Case): Answer {
  readInputs(c.inputs, ["threshold_seconds", "equivalent_focal_mm"]);
  const { threshold_seconds = Number.NaN, equivalent_focal_mm = Number.NaN } = c.inputs as Record<string, number>;
  const rule = ruleOfThumb("1/equivalent", { focalMm: equivalent_focal_mm, equivalentMm: equivalent_focal_mm }) ?? Number.NaN;
  return given({ stops_over_one_over_f: Math.log2(threshold_seconds) - rule });
}
