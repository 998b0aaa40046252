// A new body on one page: model, body, recording modes from presets and the times published for them, as one kit file that is taken whole or not at all.

import type { KitBundle } from "@keep-rolling/contract/kit";
import { parseDuration } from "@keep-rolling/core/format";
import { MODE_PRESETS, parseFrameRate, presetMode } from "@keep-rolling/core/kit";
import { v7 as uuidv7 } from "uuid";
import { z } from "zod";

const text = (most: number) => z.string().trim().max(most, `At most ${most} characters.`);
const figure = (what: string, least: number, most: number) =>
  z
    .string()
    .trim()
    .refine((v) => Number(v.replace(",", ".")) >= least && Number(v.replace(",", ".")) <= most, what);

export const publishedText = z
  .string()
  .trim()
  .refine((v) => v === "" || readPublished(v) !== null, "A time such as 40 min, more than 2 h, or no limit.");

const mode = z.object({
  id: z.string(),
  figureId: z.string(),
  preset: z.string(),
  name: text(120).min(1, "Name it as the camera's menu does."),
  rate: z.string().refine((v) => parseFrameRate(v) !== null, "A frame rate, e.g. 25 or 29.97."),
  mbps: figure("Mbit/s, above zero.", 0.1, 50_000),
  clipLimit: z.string().refine((v) => v.trim() === "" || (parseDuration(v).ok && v.trim() !== "0"), "A time such as 29:59, or empty."),
  published: publishedText,
});
export const bodySchema = z
  .object({
    ids: z.object({ model: z.string(), unit: z.string() }),
    /** An existing model's id; "": a new one. */
    modelId: z.string(),
    model: text(120),
    sensor: z.string(),
    sensorWidth: z.string(),
    sensorHeight: z.string(),
    megapixels: z.string(),
    name: text(120).min(1, "Name this body, e.g. by its place."),
    firmware: text(40).min(1, "Say which firmware is on it; every run records it."),
    serial: text(80),
    publishedAt: z.string().refine((v) => v.trim() === "" || Number.isFinite(Number(v.replace(",", "."))), "A temperature, or empty."),
    publishedWhere: text(2000),
    publishedConditions: text(2000),
    modes: z.array(mode),
  })
  .superRefine((b, ctx) => {
    if (b.modelId !== "") return;
    const need = (path: keyof typeof b, ok: boolean, message: string): void => {
      if (!ok) ctx.addIssue({ code: "custom", path: [path], message });
    };
    need("model", b.model !== "", "Name the model.");
    need("megapixels", between(b.megapixels, 0.1, 1000), "Million pixels, as its maker says.");
    need("sensorWidth", b.sensor !== OTHER || between(b.sensorWidth, 1, 100), "Millimetres, 1 to 100.");
    need("sensorHeight", b.sensor !== OTHER || between(b.sensorHeight, 1, 100), "Millimetres, 1 to 100.");
    need("modes", b.modes.length > 0, "Add at least one recording mode.");
  });
export type Body = z.infer<typeof bodySchema>;
export type BodyMode = Body["modes"][number];

const numberOf = (v: string): number => Number(v.trim().replace(",", "."));
const between = (v: string, least: number, most: number): boolean => v.trim() !== "" && numberOf(v) >= least && numberOf(v) <= most;

export const OTHER = "other";
/** Sensor sizes by their usual names; nominal millimetres, common practice. */
export const SENSORS: readonly (readonly [string, string, number, number])[] = [
  ["full", "full frame, 36 × 24 mm", 36, 24],
  ["super35", "Super 35 or APS, 23.6 × 15.7 mm", 23.6, 15.7],
  ["four thirds", "four thirds, 17.3 × 13 mm", 17.3, 13],
  ["one inch", "one inch, 13.2 × 8.8 mm", 13.2, 8.8],
];

export function freshMode(preset: string): BodyMode {
  const found = MODE_PRESETS.find((p) => p.name === preset) ?? MODE_PRESETS[0];
  return {
    id: uuidv7(),
    figureId: uuidv7(),
    preset: found?.name ?? "",
    name: found?.name ?? "",
    rate: found?.rate ?? "",
    mbps: String(found?.mbps ?? ""),
    clipLimit: "",
    published: "",
  };
}

/** Ids from the first moment on, so that a second press after a lost answer changes nothing. */
export const freshBody = (): Body => ({
  ids: { model: uuidv7(), unit: uuidv7() },
  modelId: "",
  model: "",
  sensor: "full",
  sensorWidth: "",
  sensorHeight: "",
  megapixels: "",
  name: "",
  firmware: "",
  serial: "",
  publishedAt: "",
  publishedWhere: "",
  publishedConditions: "",
  modes: [],
});

export type Published = { stated: "time" | "more than"; limitSec: number } | { stated: "no limit"; limitSec: null };

/** "40 min", "more than 2 h", "> 1:30", "no limit", "unlimited"; null when it is none of these. */
export function readPublished(words: string): Published | null {
  const clean = words.trim().toLowerCase();
  if (/^(no limit( stated)?|unlimited|none)$/.test(clean)) return { stated: "no limit", limitSec: null };
  const more = /^(more than|over|at least|>|≥)\s*(.+)$/.exec(clean);
  const reading = parseDuration(more?.[2] ?? clean);
  if (!reading.ok || reading.ms < 1000) return null;
  return { stated: more === null ? "time" : "more than", limitSec: Math.round(reading.ms / 1000) };
}

export function bundleOf(b: Body, publishedAtC: number | null): KitBundle {
  const modelId = b.modelId === "" ? b.ids.model : b.modelId;
  const sensor = SENSORS.find(([key]) => key === b.sensor);
  const model = {
    id: modelId,
    archived: false,
    name: b.model,
    sensorWidthMm: sensor?.[2] ?? numberOf(b.sensorWidth),
    sensorHeightMm: sensor?.[3] ?? numberOf(b.sensorHeight),
    megapixels: numberOf(b.megapixels),
  };
  const unit = {
    id: b.ids.unit,
    archived: false,
    modelId,
    name: b.name,
    serialLabel: b.serial,
    firmware: b.firmware,
    notes: "",
    bench: "real" as const,
  };
  const published = b.modes.flatMap((m) => {
    const read = m.published === "" ? null : readPublished(m.published);
    return read === null
      ? []
      : [
          {
            id: m.figureId,
            archived: false,
            modeId: m.id,
            kind: "rated" as const,
            ambientC: publishedAtC,
            conditions: b.publishedConditions,
            source: b.publishedWhere,
            ...read,
          },
        ];
  });
  const none = { items: [], conditions: [], protocols: [] };
  const kit = {
    models: b.modelId === "" ? [model] : [],
    units: [unit],
    modes: b.modes.map((m) => modeOf(m, modelId)),
    figures: published,
    ...none,
  };
  return { format: "keep-rolling-kit", formatVersion: 1, kit };
}

function modeOf(m: BodyMode, modelId: string): KitBundle["kit"]["modes"][number] {
  const preset = MODE_PRESETS.find((p) => p.name === m.preset) ?? MODE_PRESETS[0];
  if (preset === undefined) throw new RangeError("no preset of a mode is known");
  const clip = parseDuration(m.clipLimit);
  return {
    id: m.id,
    archived: false,
    modelId,
    ...presetMode(preset),
    name: m.name,
    ...(parseFrameRate(m.rate) ?? {}),
    mbps: numberOf(m.mbps),
    clipLimitSec: clip.ok ? Math.round(clip.ms / 1000) : null,
  };
}
