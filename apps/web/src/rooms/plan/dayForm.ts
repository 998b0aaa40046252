// The form of a day: texts on one side, the document on the other. A new day starts from what is usual, so that little has to be typed.

import type { DayDoc, PlanDoc } from "@keep-rolling/contract/plan";
import type { Kit } from "@keep-rolling/contract/kit";
import { dayDoc } from "@keep-rolling/contract/plan";
import type { TemperatureUnit } from "@keep-rolling/core/format";
import { celsiusFromFahrenheit, fahrenheitFromCelsius } from "@keep-rolling/core/format";
import { v7 as uuidv7 } from "uuid";
import { clockOfMinute, dateOf, minuteOfText, nextDate } from "../../shared/day/frame.ts";

export interface SpanText {
  from: string;
  to: string;
}
export interface WeatherText extends SpanText {
  temp: string;
  humidity: string;
  sun: boolean;
}
export interface DayText {
  name: string;
  planId: string;
  date: string;
  zone: string;
  from: string;
  to: string;
  orderSchool: DayDoc["orderSchool"];
  seed: string;
  units: Record<string, boolean>;
  chargers: string;
  turnover: string;
  sun: SpanText[];
  weather: WeatherText[];
}

/** Units a plan has cells for. */
export const unitsOfPlan = (kit: Kit, plan: PlanDoc | undefined): Kit["units"] =>
  kit.units.filter((u) => !u.archived && plan?.cells.some((c) => c.unitId === u.id && c.skip === null));

/** Tomorrow by the plan's clock, nine to six, all units of the plan; sun and weather of the latest day of the plan. */
export function newDay(kit: Kit, plan: PlanDoc, clockNowMs: number, zone: string): DayDoc {
  const before = kit.days.filter((d) => d.planId === plan.id && !d.archived).sort((a, b) => (a.date < b.date ? 1 : -1))[0];
  return {
    id: uuidv7(),
    archived: false,
    name: "Test day",
    planId: plan.id,
    date: nextDate(dateOf(clockNowMs, before?.zone ?? zone)),
    zone: before?.zone ?? zone,
    fromMin: before?.fromMin ?? 540,
    toMin: before?.toMin ?? 1080,
    orderSchool: "balanced",
    seed: 1,
    units: unitsOfPlan(kit, plan).map((u) => u.id),
    sun: before?.sun ?? [],
    weather: before?.weather ?? [],
    chargers: before?.chargers ?? 1,
    turnoverMin: before?.turnoverMin ?? 15,
    choices: [],
  };
}

const tempText = (c: number, unit: TemperatureUnit): string => String(Math.round((unit === "C" ? c : fahrenheitFromCelsius(c)) * 10) / 10);
const spanText = (s: { fromMin: number; toMin: number }): SpanText => ({ from: clockOfMinute24(s.fromMin), to: clockOfMinute24(s.toMin) });
/** In forms a time past midnight is 25:10, which reads back. */
const clockOfMinute24 = (min: number): string =>
  min >= 1440 ? `${Math.floor(min / 60)}:${String(min % 60).padStart(2, "0")}` : clockOfMinute(min);

export function dayText(day: DayDoc, unit: TemperatureUnit): DayText {
  return {
    name: day.name,
    planId: day.planId,
    date: day.date,
    zone: day.zone,
    ...spanText(day),
    orderSchool: day.orderSchool,
    seed: String(day.seed),
    units: Object.fromEntries(day.units.map((id) => [id, true])),
    chargers: String(day.chargers),
    turnover: String(day.turnoverMin),
    sun: day.sun.map(spanText),
    weather: day.weather.map((w) => ({ ...spanText(w), temp: tempText(w.tempC, unit), humidity: String(w.humidityPct), sun: w.sun })),
  };
}

export type DayReading = { ok: true; doc: DayDoc } | { ok: false; errors: { path: string; message: string }[] };

const NO_TIME = "Write it as 9:15.";
const number = (text: string): number => (text.trim() === "" ? Number.NaN : Number(text.replace(",", ".")));

/** What was typed, read; or every field that cannot be, with a sentence. Rows left empty are no rows. */
export function readDay(day: DayDoc, text: DayText, unit: TemperatureUnit, known: readonly string[]): DayReading {
  const errors: { path: string; message: string }[] = [];
  const minute = (path: string, typed: string): number => {
    const min = minuteOfText(typed);
    if (min === null) errors.push({ path, message: NO_TIME });
    return min ?? 0;
  };
  const span = (path: string, s: SpanText) => ({ fromMin: minute(`${path}from`, s.from), toMin: minute(`${path}to`, s.to) });
  const filled = <T extends SpanText>(rows: readonly T[]): { row: T; i: number }[] =>
    rows.map((row, i) => ({ row, i })).filter(({ row }) => row.from.trim() !== "" || row.to.trim() !== "");
  const temp = (typed: string): number => (unit === "C" ? number(typed) : Math.round(celsiusFromFahrenheit(number(typed)) * 100) / 100);
  const doc = {
    ...day,
    name: text.name,
    planId: text.planId,
    date: text.date,
    zone: text.zone.trim(),
    ...span("", text),
    orderSchool: text.orderSchool,
    seed: number(text.seed),
    units: known.filter((id) => text.units[id] === true),
    chargers: number(text.chargers),
    turnoverMin: number(text.turnover),
    sun: filled(text.sun).map(({ row, i }) => span(`sun.${i}.`, row)),
    weather: filled(text.weather).map(({ row, i }) => ({
      ...span(`weather.${i}.`, row),
      tempC: temp(row.temp),
      humidityPct: number(row.humidity),
      sun: row.sun,
    })),
  };
  const parsed = dayDoc.safeParse(doc);
  if (!parsed.success)
    for (const issue of parsed.error.issues) errors.push({ path: fieldOf(issue.path.join(".")), message: issue.message });
  return parsed.success && errors.length === 0 ? { ok: true, doc: parsed.data } : { ok: false, errors };
}

const FIELD_OF: Readonly<Record<string, string>> = {
  fromMin: "from",
  toMin: "to",
  turnoverMin: "turnover",
  tempC: "temp",
  humidityPct: "humidity",
};
/** The field of the form that a path of the document stands in. */
export const fieldOf = (path: string): string =>
  path
    .split(".")
    .map((p) => FIELD_OF[p] ?? p)
    .join(".");
