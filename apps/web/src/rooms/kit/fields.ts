// What each kind of kit is made of: fields with their words and units. One form is drawn from this for all. A field may lie deeper in the
// document (`at`).

import type { KitEntity } from "@keep-rolling/contract/kit";
import type { ItemKind } from "@keep-rolling/core/kit";
import { ITEM_KINDS, LENS_STABILISERS, RIG_KINDS } from "@keep-rolling/core/kit";
import {
  AIRS,
  AUTOFOCUS_LOADS,
  CHROMAS,
  COMPRESSIONS,
  FRAME_RATES,
  FINDERS,
  LOADS,
  POWER_OFF_SETTINGS,
  POWERS,
  READOUTS,
  SCREEN_WORDS,
  SCREENS,
  SUNS,
  TARGETS,
} from "@keep-rolling/core/kit";

export const EDITABLE = ["models", "units", "modes", "figures", "items", "conditions", "protocols"] as const;
export type Editable = (typeof EDITABLE)[number];
export const ONE: Readonly<Record<KitEntity, string>> = {
  models: "model",
  units: "unit",
  modes: "recording mode",
  figures: "published time",
  conditions: "condition",
  protocols: "protocol",
  items: "card, battery or lens",
  plans: "plan",
  days: "day",
};

/** What a figure may tell of its conditions; what it does not tell is named where figures differ. */
const SAYS: readonly (readonly [string, string, readonly string[]])[] = [
  ["start", "It says: start", ["cold", "warm"]],
  ["compression", "It says: compression", COMPRESSIONS],
  ["sun", "It says: sun", SUNS],
  ["air", "It says: air", AIRS],
  ["screen", "It says: screen", SCREENS],
  ["power", "It says: power", POWERS],
  ["powerOffSetting", "It says: automatic power-off", POWER_OFF_SETTINGS],
];

export interface FieldSpec {
  key: string;
  label: string;
  unit?: string;
  hint?: string;
  kind:
    | "text"
    | "long"
    | "frame rate"
    | "number"
    | "choice"
    | "duration"
    | "temperature"
    | "temperature span"
    | "list"
    | "yes or no"
    | "one of a list";
  options?: readonly (readonly [string, string])[];
  /** Usual answers; another may be typed. */
  list?: readonly string[];
  optional?: boolean;
  /** Where it lies in the document; its key unless said. */
  at?: readonly string[];
  /** Of a duration: what one of the stored unit is in ms; a second unless said. */
  per?: number;
  /** For "one of a list": which one. */
  member?: string;
}
export type Doc = Record<string, unknown>;

const same = (values: readonly string[]): (readonly [string, string])[] => values.map((v) => [v, v]);

const TRAITS: readonly FieldSpec[] = [
  {
    key: "mount",
    label: "Lens mount",
    kind: "text",
    at: ["traits", "mount"],
    hint: "Your own word; lenses fit by the same one.",
    optional: true,
  },
  {
    key: "slots",
    label: "Card slots",
    kind: "list",
    at: ["traits", "slots"],
    hint: "One word a slot, such as: wide, slim. A lone dash takes any card.",
  },
  {
    key: "batteryFits",
    label: "Battery",
    kind: "text",
    at: ["traits", "batteryFits"],
    hint: "Your own word; batteries fit by the same one.",
    optional: true,
  },
  { key: "sensorStabiliser", label: "Sensor-shift stabiliser", kind: "yes or no", at: ["traits", "sensorStabiliser"] },
  {
    key: "electronicStandard",
    label: "Electronic stabilisation, standard",
    kind: "one of a list",
    at: ["traits", "electronic"],
    member: "standard",
  },
  {
    key: "electronicStrong",
    label: "Electronic stabilisation, strong",
    kind: "one of a list",
    at: ["traits", "electronic"],
    member: "strong",
  },
  { key: "electronicNeedsOther", label: "Electronic needs lens or sensor on", kind: "yes or no", at: ["traits", "electronicNeedsOther"] },
];

const CONDITION: readonly FieldSpec[] = [
  { key: "name", label: "Name of the condition", kind: "text" },
  { key: "ambientC", label: "Ambient wanted", kind: "temperature" },
  { key: "toleranceC", label: "Within ±", kind: "temperature span", hint: "A run measured outside is listed apart." },
  { key: "sun", label: "Sun", kind: "choice", options: same(SUNS) },
  { key: "air", label: "Air", kind: "choice", options: same(AIRS) },
  { key: "screen", label: "Screen", kind: "choice", options: SCREENS.map((v) => [v, SCREEN_WORDS[v]]) },
  { key: "power", label: "Power", kind: "choice", options: same(POWERS) },
  { key: "powerOffSetting", label: "Automatic power-off temperature", kind: "choice", options: same(POWER_OFF_SETTINGS) },
  { key: "humidityPct", label: "Humidity", unit: "%", kind: "number", at: ["settings", "humidityPct"], optional: true },
  { key: "support", label: "Support", kind: "text", at: ["settings", "support"], hint: "Tripod, rig, in the hand.", optional: true },
  { key: "finder", label: "Finder", kind: "choice", options: same(FINDERS), at: ["settings", "finder"] },
  {
    key: "displayTimeoutSec",
    label: "Display time-out",
    kind: "duration",
    per: 1000,
    at: ["settings", "displayTimeoutSec"],
    optional: true,
  },
  { key: "autofocus", label: "Autofocus", kind: "choice", options: same(AUTOFOCUS_LOADS), at: ["settings", "autofocus"] },
  { key: "profile", label: "Picture profile", kind: "text", at: ["settings", "profile"], optional: true },
  { key: "sharpening", label: "In-camera sharpening", kind: "text", at: ["settings", "sharpening"], optional: true },
  { key: "noiseReduction", label: "In-camera noise reduction", kind: "text", at: ["settings", "noiseReduction"], optional: true },
];

const pair = (...pairs: (readonly [string, string])[]): readonly (readonly [string, string])[] => pairs;
const PROTOCOL: readonly FieldSpec[] = [
  { key: "name", label: "Name of the protocol", kind: "text" },
  { key: "load", label: "Load", kind: "choice", options: same(LOADS), at: ["schools", "load"] },
  {
    key: "poweredOff",
    label: "A powered-off gap",
    kind: "choice",
    options: pair(["strict", "ends the record"], ["lenient", "is ignored"]),
    at: ["continuity", "poweredOff"],
  },
  { key: "bridge", label: "Body-on gaps bridged, in all", kind: "duration", per: 1, at: ["continuity", "bridgeBodyOnMs"] },
  {
    key: "onWarning",
    label: "At a warning",
    kind: "choice",
    options: pair(["run on", "run on to the shutdown"], ["stop", "obey it and stop"]),
  },
  {
    key: "coolDown",
    label: "Cool-down",
    kind: "choice",
    options: pair(["ambient", "back to ambient"], ["rest", "a fixed rest"]),
    at: ["schools", "coolDown", "to"],
  },
  {
    key: "restMin",
    label: "The fixed rest",
    kind: "duration",
    per: 60_000,
    at: ["schools", "coolDown", "restMin"],
    hint: "Only for a fixed rest.",
    optional: true,
  },
  {
    key: "tauMin",
    label: "Time constant of the body",
    kind: "duration",
    per: 60_000,
    at: ["schools", "tauMin"],
    hint: "How slowly it cools. A default until a log fits it; printed with every plan.",
  },
  {
    key: "stopAfterMin",
    label: "The tester stops after",
    kind: "duration",
    per: 60_000,
    at: ["schools", "stopAfterMin"],
    hint: "Empty: never.",
    optional: true,
  },
  {
    key: "swaps",
    label: "Card swaps, body on",
    kind: "choice",
    options: pair(["none", "none planned"], ["as needed", "planned as needed"]),
    at: ["schools", "swaps"],
  },
  { key: "checkpointSec", label: "A checkpoint every", kind: "duration", per: 1000 },
  { key: "checkpointAfterWarningSec", label: "After the first warning every", kind: "duration", per: 1000 },
];

const FITS: FieldSpec = {
  key: "fits",
  label: "Fits",
  kind: "text",
  hint: "The word of the slot, mount or battery; empty: anything.",
  optional: true,
};
const spec = (key: string, label: string, more: Partial<FieldSpec> = {}): FieldSpec => ({
  key,
  label,
  kind: "number",
  at: ["spec", key],
  ...more,
});
const MEDIUM = [
  spec("capacityGb", "Capacity", { unit: "GB, decimal" }),
  spec("writeMBps", "Sustained write speed", {
    unit: "MB/s",
    hint: "Sustained, not the peak printed on it. Empty: not known.",
    optional: true,
  }),
];
const ITEM: Readonly<Record<ItemKind, readonly FieldSpec[]>> = {
  lens: [
    FITS,
    spec("focalMinMm", "Shortest focal length", { unit: "mm" }),
    spec("focalMaxMm", "Longest focal length", { unit: "mm" }),
    spec("stabiliser", "Stabiliser", { kind: "choice", options: same(LENS_STABILISERS) }),
  ],
  card: [FITS, ...MEDIUM],
  battery: [
    FITS,
    spec("wh", "Energy", { unit: "Wh" }),
    spec("chargeMin", "A full charge takes", { kind: "duration", per: 60_000, optional: true, hint: "Empty: not charged during the day." }),
  ],
  "power supply": [FITS, spec("watts", "Gives", { unit: "W" })],
  recorder: MEDIUM,
  rig: [spec("type", "Kind", { kind: "choice", options: same(RIG_KINDS) })],
  filter: [spec("diameterMm", "Diameter", { unit: "mm" }), spec("stops", "Neutral density", { unit: "stops, 0 for none" })],
};
export const isItemKind = (kind: string | null): kind is ItemKind => ITEM_KINDS.some((k) => k === kind);
const itemKind = (doc: Doc): ItemKind => {
  const kind = (doc.spec as { kind?: string } | undefined)?.kind ?? "";
  return isItemKind(kind) ? kind : "card";
};

export function fieldsOf(entity: Editable, doc: Doc): readonly FieldSpec[] {
  if (entity !== "items") return FIELDS[entity];
  const name: FieldSpec = { key: "name", label: `Name of the ${itemKind(doc)}`, kind: "text" };
  const count: FieldSpec = { key: "count", label: "How many equal ones", kind: "number" };
  return [name, count, ...ITEM[itemKind(doc)], { key: "notes", label: "Notes", kind: "long", optional: true }];
}
/** What one row of it is called. */
export const oneOf = (entity: Editable, doc: Doc): string => (entity === "items" ? itemKind(doc) : ONE[entity]);

const FIELDS: Readonly<Record<Exclude<Editable, "items">, readonly FieldSpec[]>> = {
  conditions: CONDITION,
  protocols: PROTOCOL,
  models: [
    { key: "name", label: "Model name", kind: "text" },
    { key: "sensorWidthMm", label: "Sensor width", unit: "mm", kind: "number" },
    { key: "sensorHeightMm", label: "Sensor height", unit: "mm", kind: "number" },
    { key: "megapixels", label: "Pixels", unit: "million", kind: "number" },
    ...TRAITS,
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
    {
      key: "fpsNum",
      label: "Frames",
      unit: "per second",
      kind: "frame rate",
      at: ["rate"],
      list: FRAME_RATES.map(([words]) => words),
      hint: "29.97, 50, or a ratio such as 30000/1001.",
    },
    { key: "readout", label: "Read-out", kind: "choice", options: same(READOUTS) },
    { key: "readoutCrop", label: "Read-out crop", unit: "factor, 1 for none", kind: "number" },
    { key: "codec", label: "Codec", kind: "text" },
    { key: "compression", label: "Compression", kind: "choice", options: same(COMPRESSIONS) },
    { key: "bits", label: "Bit depth", kind: "number" },
    { key: "chroma", label: "Chroma", kind: "choice", options: pair(["", "not said"], ...same(CHROMAS)), optional: true },
    { key: "mbps", label: "Bitrate", unit: "Mbit/s", kind: "number" },
    { key: "target", label: "Recorded to", kind: "choice", options: same(TARGETS) },
    { key: "clipLimitSec", label: "Clip limit", kind: "duration", hint: "Empty: no limit.", optional: true },
  ],
  figures: [
    {
      key: "kind",
      label: "Published by",
      kind: "choice",
      options: [
        ["rated", "its maker"],
        ["outside", "another tester"],
      ],
    },
    {
      key: "stated",
      label: "It says",
      kind: "choice",
      options: [
        ["time", "a time"],
        ["more than", "more than a time"],
        ["no limit", "no limit stated"],
      ],
    },
    { key: "limitSec", label: "Time", kind: "duration", hint: "Empty where no limit is stated.", optional: true },
    { key: "ambientC", label: "At an ambient of", kind: "temperature", optional: true },
    ...SAYS.map(
      ([key, label, words]): FieldSpec => ({
        key: `says${key}`,
        label,
        kind: "choice",
        options: same(["not said", ...words]),
        at: ["says", key],
      }),
    ),
    { key: "conditions", label: "Under which conditions", kind: "long", optional: true },
    { key: "source", label: "Where it is published", kind: "text", optional: true },
  ],
};
