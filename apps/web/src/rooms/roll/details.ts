// Which details a mark takes after it is stored: choices under number keys, or values to type. Each answer is a correction.

import type { CorrectionBody, Mark, MarkOf, ReadingValues } from "@keep-rolling/core/runs";
import { checkResultsFor, CONDITION_CHANGES, END_CAUSES, GAP_CAUSES, isForeign, TOUCHES, endWords } from "@keep-rolling/core/runs";
import type { TemperatureUnit } from "@keep-rolling/core/format";
import { celsiusFromFahrenheit } from "@keep-rolling/core/format";

export interface Choice {
  words: string;
  chosen: boolean;
  fields: CorrectionBody;
}

/** Number keys 1 to 9 and 0 pick in this order. Empty: this mark has nothing to choose. */
export function choicesOf(mark: Mark): { ask: string; choices: Choice[] }[] {
  if (isForeign(mark)) return [];
  switch (mark.kind) {
    case "gap": {
      const { cause, power } = mark.body;
      const causes = GAP_CAUSES.filter((c) => c !== "unknown" && (c !== "planned pause" || c === cause)).map((c) => ({
        words: c,
        chosen: c === cause,
        fields: { cause: c },
      }));
      const powers = (["on", "off"] as const).map((p) => ({
        words: p === "on" ? "body on" : "powered off",
        chosen: p === power,
        fields: { power: p },
      }));
      // A swap is asked first what matters to the record: its keys are 1 and 2 then.
      if (cause === "battery swap")
        return [
          { ask: "Was the body off?", choices: [...powers].reverse() },
          { ask: "Why did it stop?", choices: causes },
        ];
      return [{ ask: "Why did it stop?", choices: [...causes, ...powers] }];
    }
    case "warning":
      return [
        {
          ask: "The warning",
          choices: (["shown", "escalated", "cleared"] as const).map((p) => ({
            words: p,
            chosen: p === mark.body.phase,
            fields: { phase: p },
          })),
        },
      ];
    case "touch":
      return [
        {
          ask: "How does it feel?",
          choices: TOUCHES.filter((t) => t !== "not said").map((t) => ({ words: t, chosen: t === mark.body.feel, fields: { feel: t } })),
        },
      ];
    case "condition":
      return [
        {
          ask: "What changed?",
          choices: CONDITION_CHANGES.filter((c) => c !== "not said").map((c) => ({
            words: c,
            chosen: c === mark.body.change,
            fields: { change: c },
          })),
        },
      ];
    case "end":
      return [{ ask: "What ended it?", choices: endChoices(mark) }];
    case "check":
      return [
        {
          ask: mark.body.item,
          choices: checkResultsFor(mark.body.item).map((r) => ({ words: r, chosen: r === mark.body.result, fields: { result: r } })),
        },
      ];
    case "reading":
      return mark.body.gauge === undefined
        ? []
        : [{ ask: "Gauge", choices: GAUGE_ORDER.map((g) => ({ words: String(g), chosen: g === mark.body.gauge, fields: { gauge: g } })) }];
    case "start":
    case "resume":
    case "split":
    case "note":
    case "photo":
    case "correction":
    case "undo":
      return [];
  }
}

/** Key 1 is step 1, key 0 is step 10; step 0 has no key and comes last. */
const GAUGE_ORDER = [1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 0];

function endChoices(mark: MarkOf<"end">): Choice[] {
  const { cause, becauseHot } = mark.body;
  const causes: Choice[] = END_CAUSES.filter((c) => c !== "unknown").map((c) => ({
    words: endWords(c),
    chosen: c === cause && becauseHot !== true,
    fields: c === "tester stopped" ? { cause: c, becauseHot: false } : { cause: c },
  }));
  return [
    ...causes,
    {
      words: "tester stopped, because it was hot",
      chosen: cause === "tester stopped" && becauseHot === true,
      fields: { cause: "tester stopped", becauseHot: true },
    },
  ];
}

export interface ValueField {
  key: keyof ReadingValues | "minutesLeft" | "text" | "minutes";
  label: string;
  unit: string;
  min: number;
  max: number;
}

const READING_FIELDS: readonly ValueField[] = [
  { key: "gauge", label: "Gauge", unit: "0 to 10", min: 0, max: 10 },
  { key: "ambientC", label: "Ambient", unit: "°C", min: -40, max: 70 },
  { key: "shellC", label: "Surface", unit: "°C", min: -40, max: 110 },
  { key: "humidityPct", label: "Humidity", unit: "%", min: 0, max: 100 },
  { key: "batteryPct", label: "Battery", unit: "%", min: 0, max: 100 },
  { key: "freeGb", label: "Card free", unit: "GB", min: 0, max: 100_000 },
  { key: "countdownSec", label: "Camera says left", unit: "s", min: 0, max: 36_000 },
];

export function valuesOf(mark: Mark): readonly ValueField[] {
  if (isForeign(mark)) return [];
  if (mark.kind === "reading") return mark.body.gauge === undefined || Object.keys(mark.body).length > 1 ? READING_FIELDS : [];
  if (mark.kind === "gap" && mark.body.cause === "battery swap")
    return [{ key: "batteryPct", label: "Old battery showed", unit: "%", min: 0, max: 100 }];
  if (mark.kind === "warning") return [{ key: "minutesLeft", label: "Minutes left on the display", unit: "min", min: 0, max: 600 }];
  if (mark.kind === "check" && mark.body.item === "lighter mode")
    return [{ key: "minutes", label: "It lasted", unit: "min", min: 0, max: 1000 }];
  return [];
}

export type ValueReading = { ok: true; value: number } | { ok: false; sentence: string };

/** A typed value in °C; refused with a sentence before it becomes a mark: the form stops 400 °C. */
export function readValue(field: ValueField, typed: string, unit: TemperatureUnit): ValueReading {
  const number = Number(typed.trim().replace(",", "."));
  if (typed.trim() === "" || !Number.isFinite(number))
    return { ok: false, sentence: `${field.label}: "${typed}" is not a number. Nothing was stored.` };
  const value = field.unit === "°C" && unit === "F" ? celsiusFromFahrenheit(number) : number;
  if (value < field.min || value > field.max)
    return {
      ok: false,
      sentence: `${field.label} of ${typed.trim()} cannot be: ${field.min} to ${field.max} ${field.unit}. Nothing was stored.`,
    };
  return { ok: true, value: field.key === "gauge" ? Math.round(value) : Math.round(value * 100) / 100 };
}
