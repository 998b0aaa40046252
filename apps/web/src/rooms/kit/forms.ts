// A row of the kit and its form: fresh rows, texts to values and back, errors to their fields. Rows from before a field existed are
// filled with what the planner would take.

import type { Kit } from "@keep-rolling/contract/kit";
import type { ItemKind } from "@keep-rolling/core/kit";
import { DEFAULT_SCHOOLS } from "@keep-rolling/core/planning";
import { frameRateWords, NO_TRAITS, parseFrameRate } from "@keep-rolling/core/kit";
import type { TemperatureUnit } from "@keep-rolling/core/format";
import {
  celsiusFromFahrenheit,
  echoDuration,
  fahrenheitFromCelsius,
  fahrenheitSpan,
  formatHms,
  parseDuration,
} from "@keep-rolling/core/format";
import { v7 as uuidv7 } from "uuid";
import type { Doc, Editable, FieldSpec } from "./fields.ts";
import { fieldsOf, isItemKind } from "./fields.ts";

const BLANK_SPEC: Readonly<Record<ItemKind, Doc>> = {
  lens: { stabiliser: "none" },
  card: {},
  battery: { chargeMin: null },
  "power supply": {},
  recorder: {},
  rig: { type: "tripod" },
  filter: { stops: 0 },
};

const BLANK: Readonly<Record<Editable, Doc>> = {
  items: { name: "", count: 1, fits: "", notes: "" },
  conditions: {
    name: "",
    ambientC: 21,
    toleranceC: 3,
    sun: "none",
    air: "still",
    screen: "lit",
    power: "internal",
    powerOffSetting: "normal",
  },
  protocols: {
    name: "",
    continuity: { poweredOff: "strict", bridgeBodyOnMs: 20_000 },
    checkpointSec: 300,
    checkpointAfterWarningSec: 60,
    onWarning: "run on",
  },
  models: { name: "", sensorWidthMm: 36, sensorHeightMm: 24, megapixels: 24 },
  units: { name: "", serialLabel: "", firmware: "", bench: "real", notes: "" },
  modes: {
    name: "",
    widthPx: 3840,
    heightPx: 2160,
    fpsNum: 25,
    fpsDen: 1,
    readout: "oversampled",
    readoutCrop: 1,
    codec: "H.265",
    compression: "long-GOP",
    bits: 10,
    mbps: 150,
    target: "slot 1",
    clipLimitSec: null,
  },
  figures: { kind: "rated", stated: "time", limitSec: 1800, ambientC: 23, conditions: "", source: "" },
};

const PARENT: Readonly<Partial<Record<Editable, string>>> = { units: "modelId", modes: "modelId", figures: "modeId" };

export function freshDoc(entity: Editable, parentId: string | null, kind: string | null): { id: string } & Doc {
  const parent = PARENT[entity];
  const itemSpec = isItemKind(kind) ? { spec: { kind, ...BLANK_SPEC[kind] } } : {};
  return { id: uuidv7(), archived: false, ...BLANK[entity], ...itemSpec, ...(parent === undefined ? {} : { [parent]: parentId ?? "" }) };
}

const NOTHING_SAID: Doc = Object.fromEntries(
  ["start", "compression", "sun", "air", "screen", "power", "powerOffSetting"].map((key) => [key, "not said"]),
);

/** A row with what it did not say yet filled in, as the planner reads it. */
export function filled(entity: Editable, doc: Doc): Doc {
  if (entity === "models") return { ...doc, traits: doc.traits ?? NO_TRAITS };
  if (entity === "modes") return { ...doc, rate: { fpsNum: doc.fpsNum, fpsDen: doc.fpsDen } };
  if (entity === "conditions") return { ...doc, settings: { finder: "not said", autofocus: "not said", ...(doc.settings as Doc | null) } };
  if (entity === "figures") return { ...doc, stated: doc.stated ?? "time", says: { ...NOTHING_SAID, ...(doc.says as Doc | null) } };
  return entity === "protocols" ? { ...doc, schools: doc.schools ?? DEFAULT_SCHOOLS } : doc;
}

const pathOf = (field: FieldSpec): readonly string[] => field.at ?? [field.key];

export function valueAt(doc: Doc, field: FieldSpec): unknown {
  return pathOf(field).reduce<unknown>(
    (value, step) => (typeof value === "object" && value !== null ? (value as Doc)[step] : undefined),
    doc,
  );
}

/** The document with every field's text read into its place. A fixed rest alone has minutes. */
export function readFields(entity: Editable, doc: Doc, typed: Readonly<Record<string, string>>, unit: TemperatureUnit): Doc {
  let next = filled(entity, doc);
  for (const field of fieldsOf(entity, doc))
    next = withValue(next, pathOf(field), fromText(field, typed[field.key] ?? "", unit, valueAt(next, field)));
  if (entity === "modes") {
    const { rate, ...mode } = next;
    return { ...mode, ...((rate as Doc | undefined) ?? { fpsNum: undefined, fpsDen: 1 }) };
  }
  const schools = next.schools as { coolDown?: { to: string } } | undefined;
  return schools?.coolDown?.to === "ambient" ? { ...next, schools: { ...schools, coolDown: { to: "ambient" } } } : next;
}

function withValue(doc: Doc, [step = "", ...rest]: readonly string[], value: unknown): Doc {
  const inner = doc[step];
  return {
    ...doc,
    [step]: rest.length === 0 ? value : withValue(typeof inner === "object" && inner !== null ? (inner as Doc) : {}, rest, value),
  };
}

/** Which field an error of the schema belongs to; a whole part that is wrong belongs to the last field within it. */
export function fieldOfPath(entity: Editable, doc: Doc, path: readonly PropertyKey[]): string {
  const wanted = path.map(String);
  const begins = (long: readonly string[], short: readonly string[]): boolean => short.every((step, i) => long[i] === step);
  const fields = fieldsOf(entity, doc);
  const found = fields.find((f) => begins(wanted, pathOf(f))) ?? fields.findLast((f) => begins(pathOf(f), wanted));
  return found?.key ?? wanted.join(".");
}

/** How a stored value stands in its text field. */
export function toText(field: FieldSpec, value: unknown, unit: TemperatureUnit): string {
  if (field.kind === "yes or no") return value === true ? "yes" : "no";
  if (field.kind === "one of a list") return Array.isArray(value) && value.includes(field.member) ? "yes" : "no";
  if (field.kind === "list") return Array.isArray(value) ? value.map((v) => (v === "" ? "-" : String(v))).join(", ") : "";
  if (value === null || value === undefined) return "";
  if (field.kind === "duration") return durationText(field, Number(value));
  if (field.kind === "frame rate") return rateText(value);
  if (field.kind === "temperature") return tenths(unit === "C" ? Number(value) : fahrenheitFromCelsius(Number(value)));
  if (field.kind === "temperature span") return tenths(unit === "C" ? Number(value) : fahrenheitSpan(Number(value)));
  return typeof value === "string" || typeof value === "number" ? String(value) : "";
}

const perOf = ({ per }: FieldSpec): number => per ?? 1000;
/** Long times as h:mm:ss, short ones in words; both are read back. */
const durationText = (field: FieldSpec, value: number): string =>
  field.per === undefined ? formatHms(value * 1000) : echoDuration(value * perOf(field));
/** Short times in two parts are minutes and seconds. */
const readDuration = (field: FieldSpec, text: string): ReturnType<typeof parseDuration> =>
  parseDuration(text, field.per === undefined ? "h:mm" : "m:ss");

function rateText(value: unknown): string {
  const { fpsNum, fpsDen } = value as { fpsNum: number; fpsDen: number };
  return frameRateWords(fpsNum, fpsDen);
}

const tenths = (v: number): string => String(Math.round(v * 10) / 10);

/** The value behind a text field; undefined when it cannot be read (the schema then says what is wrong). `before`: what is stored there. */
export function fromText(field: FieldSpec, text: string, unit: TemperatureUnit, before?: unknown): unknown {
  if (field.kind === "choice" && field.optional === true && text === "") return null;
  if (field.kind === "text" || field.kind === "long" || field.kind === "choice") return text;
  if (field.kind === "yes or no") return text === "yes";
  if (field.kind === "one of a list") {
    const others = (Array.isArray(before) ? (before as unknown[]) : []).filter((v) => v !== field.member);
    return text === "yes" ? [...others, field.member] : others;
  }
  if (field.kind === "list") return text.split(",").map((v) => (v.trim() === "-" ? "" : v.trim()));
  if (field.kind === "frame rate") return parseFrameRate(text) ?? undefined;
  if (text.trim() === "") return field.optional === true ? null : undefined;
  if (field.kind === "duration") {
    const reading = readDuration(field, text);
    return reading.ok ? Math.round((100 * reading.ms) / perOf(field)) / 100 : undefined;
  }
  const number = Number(text.replace(",", "."));
  if (!Number.isFinite(number)) return undefined;
  if (field.kind === "temperature" && unit === "F") return Math.round(celsiusFromFahrenheit(number) * 100) / 100;
  if (field.kind === "temperature span" && unit === "F") return Math.round((number / fahrenheitSpan(1)) * 100) / 100;
  return number;
}

/** A typed time is ambiguous, so it is echoed in words. */
export function echoOf(field: FieldSpec, text: string): string | undefined {
  if (field.kind !== "duration" || text.trim() === "") return undefined;
  const reading = readDuration(field, text);
  return reading.ok ? `reads as ${echoDuration(reading.ms)}` : "write it as 1:07 (hours and minutes), 0:45:00 or 45 min";
}

export function findRow(
  kit: Kit,
  entity: Editable,
  id: string,
): ({ id: string; rev: number; archived: boolean } & Record<string, unknown>) | null {
  const rows: readonly { id: string; rev: number; archived: boolean }[] = kit[entity];
  return (rows.find((r) => r.id === id) as ReturnType<typeof findRow>) ?? null;
}
