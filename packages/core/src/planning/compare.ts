// A plain comparison of two conditions or two protocols: "differs in: screen lit, not dark; ambient +9.0 °C".

import type { ConditionSnapshot, ProtocolSnapshot } from "../kit/index.ts";
import type { TemperatureUnit } from "../format/index.ts";
import { fahrenheitFromCelsius, fahrenheitSpan } from "../format/index.ts";
import { coolDownOf, schoolsOf } from "./schools.ts";

export interface Difference {
  what: string;
  a: string;
  b: string;
  /** In one phrase, read from a to b. */
  words: string;
}

const change = (what: string, a: string, b: string): Difference => ({ what, a, b, words: `${what} ${a} → ${b}` });

const tenths = (v: number): number => Math.round(v * 10) / 10;
const temperature = (c: number, unit: TemperatureUnit): string => `${tenths(unit === "C" ? c : fahrenheitFromCelsius(c))} °${unit}`;
const spanWords = (spanC: number, unit: TemperatureUnit): string => `${tenths(unit === "C" ? spanC : fahrenheitSpan(spanC))} °${unit}`;
const signed = (spanC: number, unit: TemperatureUnit): string => `${spanC < 0 ? "−" : "+"}${spanWords(Math.abs(spanC), unit)}`;

/** From a to b, in the order of the form; the name does not count. */
export function conditionDifferences(a: ConditionSnapshot, b: ConditionSnapshot, unit: TemperatureUnit = "C"): Difference[] {
  const plain = (["sun", "air", "screen", "power"] as const)
    .filter((key) => a[key] !== b[key])
    .map((key) => change(key, String(a[key]), String(b[key])));
  const all = [...plain];
  if (a.powerOffSetting !== b.powerOffSetting) all.push(change("automatic power-off", a.powerOffSetting, b.powerOffSetting));
  if (a.ambientC !== b.ambientC)
    all.push({
      what: "ambient",
      a: temperature(a.ambientC, unit),
      b: temperature(b.ambientC, unit),
      words: `ambient ${signed(b.ambientC - a.ambientC, unit)}`,
    });
  if (a.toleranceC !== b.toleranceC)
    all.push(change("tolerance", `± ${spanWords(a.toleranceC, unit)}`, `± ${spanWords(b.toleranceC, unit)}`));
  return [...all, ...settingsDifferences(a, b)];
}

const SETTING_WORDS = {
  humidityPct: "humidity",
  support: "support",
  finder: "finder",
  displayTimeoutSec: "display time-out",
  autofocus: "autofocus",
  profile: "profile",
  sharpening: "sharpening",
  noiseReduction: "noise reduction",
} as const;
type SettingKey = keyof typeof SETTING_WORDS;

/** The settings in words, in one place for forms, cards and comparisons; not said is "not said". */
export function settingWords(c: ConditionSnapshot): (readonly [string, string])[] {
  return (Object.keys(SETTING_WORDS) as SettingKey[]).map((key) => [SETTING_WORDS[key], settingOf(c, key)]);
}

function settingOf(c: ConditionSnapshot, key: SettingKey): string {
  const value = c.settings?.[key];
  if (value === null || value === undefined || value === "") return "not said";
  if (key === "humidityPct") return `${value} %`;
  return key === "displayTimeoutSec" ? `${value} s` : String(value);
}

function settingsDifferences(a: ConditionSnapshot, b: ConditionSnapshot): Difference[] {
  return (Object.keys(SETTING_WORDS) as SettingKey[])
    .filter((key) => settingOf(a, key) !== settingOf(b, key))
    .map((key) => change(SETTING_WORDS[key], settingOf(a, key), settingOf(b, key)));
}

/** What a protocol says, in words; the rows of its form, card and comparison. */
export function protocolWords(p: ProtocolSnapshot): (readonly [string, string])[] {
  const schools = schoolsOf(p);
  return [
    ["powered-off gaps", p.continuity.poweredOff === "strict" ? "end the record" : "ignored"],
    ["body-on gaps bridged", `up to ${Math.round(p.continuity.bridgeBodyOnMs / 1000)} s in all`],
    ["at a warning", p.onWarning],
    ["load", schools.load],
    ["cool-down", coolDownOf(schools)],
    ["stops at", schools.stopAfterMin === null ? "never" : `${schools.stopAfterMin} min`],
    ["card swaps", schools.swaps === "none" ? "none planned" : "planned as needed, body on"],
    ["time constant", `${schools.tauMin} min`],
    [
      "checkpoints",
      `every ${Math.round(p.checkpointSec / 60)} min, after a warning every ${Math.round(p.checkpointAfterWarningSec / 60)} min`,
    ],
  ];
}

export function protocolDifferences(a: ProtocolSnapshot, b: ProtocolSnapshot): Difference[] {
  const other = new Map(protocolWords(b));
  return protocolWords(a)
    .filter(([what, said]) => other.get(what) !== said)
    .map(([what, said]) => change(what, said, other.get(what) ?? ""));
}

/** "differs in: screen lit → dark, ambient +9 °C", or that nothing does. */
export const differsIn = (differences: readonly Difference[]): string =>
  differences.length === 0 ? "the same in everything that is recorded" : `differs in: ${differences.map((d) => d.words).join(", ")}`;
