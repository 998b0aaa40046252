// What each kind of kit is made of: fields, their words and units, and a fresh row. One form is drawn from this for all.

import type { Kit, KitEntity } from "@keep-rolling/contract";
import { COMPRESSIONS, READOUTS, TARGETS } from "@keep-rolling/core/runs";
import type { TemperatureUnit } from "@keep-rolling/core/units";
import { celsiusFromFahrenheit, echoDuration, fahrenheitFromCelsius, formatHms, parseDuration } from "@keep-rolling/core/units";
import { v7 as uuidv7 } from "uuid";

export const EDITABLE = ["models", "units", "modes", "figures"] as const;
export type Editable = (typeof EDITABLE)[number];
export const ONE: Readonly<Record<KitEntity, string>> = {
  models: "model",
  units: "unit",
  modes: "recording mode",
  figures: "rated figure",
  conditions: "condition",
  protocols: "protocol",
  items: "thing",
  plans: "plan",
  days: "day",
};

export interface FieldSpec {
  key: string;
  label: string;
  unit?: string;
  hint?: string;
  kind: "text" | "long" | "number" | "choice" | "duration" | "temperature";
  options?: readonly (readonly [string, string])[];
  optional?: boolean;
}

const same = (values: readonly string[]): (readonly [string, string])[] => values.map((v) => [v, v]);

export const FIELDS: Readonly<Record<Editable, readonly FieldSpec[]>> = {
  models: [
    { key: "name", label: "Model name", kind: "text" },
    { key: "sensorWidthMm", label: "Sensor width", unit: "mm", kind: "number" },
    { key: "sensorHeightMm", label: "Sensor height", unit: "mm", kind: "number" },
    { key: "megapixels", label: "Pixels", unit: "million", kind: "number" },
  ],
  units: [
    { key: "name", label: "Name of this body", kind: "text" },
    { key: "serialLabel", label: "Serial label", kind: "text", hint: "What tells it from another of the same model.", optional: true },
    { key: "firmware", label: "Firmware", kind: "text", hint: "Goes into every run. A limit measured on another one asks for a re-test." },
    {
      key: "bench",
      label: "It is",
      kind: "choice",
      options: [
        ["real", "a real camera"],
        ["rehearsal", "a stand-in to rehearse with"],
      ],
    },
    { key: "notes", label: "Notes", kind: "long", optional: true },
  ],
  modes: [
    { key: "name", label: "Name of the mode", kind: "text" },
    { key: "widthPx", label: "Width", unit: "px", kind: "number" },
    { key: "heightPx", label: "Height", unit: "px", kind: "number" },
    { key: "fpsNum", label: "Frames", unit: "per second, numerator", kind: "number", hint: "29.97 is 30000 over 1001." },
    { key: "fpsDen", label: "Frames", unit: "denominator", kind: "number" },
    { key: "readout", label: "Read-out", kind: "choice", options: same(READOUTS) },
    { key: "readoutCrop", label: "Read-out crop", unit: "factor, 1 for none", kind: "number" },
    { key: "codec", label: "Codec", kind: "text" },
    { key: "compression", label: "Compression", kind: "choice", options: same(COMPRESSIONS) },
    { key: "bits", label: "Bit depth", kind: "number" },
    { key: "mbps", label: "Bitrate", unit: "Mbit/s", kind: "number" },
    { key: "target", label: "Recorded to", kind: "choice", options: same(TARGETS) },
    { key: "clipLimitSec", label: "Clip limit", kind: "duration", hint: "Empty: no limit.", optional: true },
  ],
  figures: [
    {
      key: "kind",
      label: "Whose figure",
      kind: "choice",
      options: [
        ["rated", "the maker's (rated)"],
        ["outside", "another tester's"],
      ],
    },
    { key: "limitSec", label: "Time", kind: "duration" },
    { key: "ambientC", label: "At an ambient of", kind: "temperature", optional: true },
    { key: "conditions", label: "Under which conditions", kind: "long", optional: true },
    { key: "source", label: "Where it is published", kind: "text", optional: true },
  ],
};

const BLANK: Readonly<Record<Editable, Record<string, unknown>>> = {
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
  figures: { kind: "rated", limitSec: 1800, ambientC: 23, conditions: "", source: "" },
};

const PARENT: Readonly<Partial<Record<Editable, string>>> = { units: "modelId", modes: "modelId", figures: "modeId" };

export function freshDoc(entity: Editable, parentId: string | null): { id: string } & Record<string, unknown> {
  const parent = PARENT[entity];
  return { id: uuidv7(), archived: false, ...BLANK[entity], ...(parent === undefined ? {} : { [parent]: parentId ?? "" }) };
}

/** How a stored value stands in its text field. */
export function toText(field: FieldSpec, value: unknown, unit: TemperatureUnit): string {
  if (value === null || value === undefined) return "";
  if (field.kind === "duration") return formatHms(Number(value) * 1000);
  if (field.kind === "temperature")
    return String(unit === "C" ? Number(value) : Math.round(fahrenheitFromCelsius(Number(value)) * 10) / 10);
  return typeof value === "string" || typeof value === "number" ? String(value) : "";
}

/** The value behind a text field; undefined when it cannot be read (the schema then says what is wrong). */
export function fromText(field: FieldSpec, text: string, unit: TemperatureUnit): unknown {
  if (field.kind === "text" || field.kind === "long" || field.kind === "choice") return text;
  if (text.trim() === "") return field.optional === true ? null : undefined;
  if (field.kind === "duration") {
    const reading = parseDuration(text);
    return reading.ok ? Math.round(reading.ms / 1000) : undefined;
  }
  const number = Number(text.replace(",", "."));
  if (!Number.isFinite(number)) return undefined;
  return field.kind === "temperature" && unit === "F" ? Math.round(celsiusFromFahrenheit(number) * 100) / 100 : number;
}

/** A typed time is ambiguous, so it is echoed in words. */
export function echoOf(field: FieldSpec, text: string): string | undefined {
  if (field.kind !== "duration" || text.trim() === "") return undefined;
  const reading = parseDuration(text);
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
