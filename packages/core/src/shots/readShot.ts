// What a picture says of how it was taken: exposure, lens, sensitivity, time, which way is up, and whether it stabilised. Exif 2.32 by a library; where a
// camera leaves the plain tag empty, its APEX value is taken. Positions and serial numbers are never read out.

import exifReader from "exifreader";
import type { ExpandedTags } from "exifreader";
import type { Series } from "../exposure/index.ts";
import { nearestPlace, seriesOf } from "../exposure/index.ts";
import type { FileKind } from "./fileKind.ts";
import { embeddedJpeg, fileKind, headOfJpeg, isWhole, webpSize } from "./fileKind.ts";

/** "no-picture": neither JPEG, PNG, WebP, HEIF nor raw. "heic": what it says is read, its picture cannot be drawn here. */
export type ShotProblem = "no-picture" | "cut-off" | "unreadable" | "no-exif" | "no-exposure-time" | "raw-without-picture" | "heic";

export interface ReadShot {
  kind: FileKind | null;
  /** Maker and model, as written; which camera a shot is of. Empty: not said. */
  camera: string;
  exposureSec: number | null;
  focalMm: number | null;
  focalEquivalentMm: number | null;
  iso: number | null;
  fNumber: number | null;
  /** As the camera's clock said, with its offset where it is written: 2031-06-14T10:20:30.25+02:00. */
  takenAt: string | null;
  /** Exif's 1 to 8. */
  orientation: number;
  /** As stored, before turning. */
  widthPx: number | null;
  heightPx: number | null;
  stabiliser: "on" | "off" | null;
  problem: ShotProblem | null;
}

const NOTHING: ReadShot = {
  kind: null,
  camera: "",
  exposureSec: null,
  focalMm: null,
  focalEquivalentMm: null,
  iso: null,
  fNumber: null,
  takenAt: null,
  orientation: 1,
  widthPx: null,
  heightPx: null,
  stabiliser: null,
  problem: "no-picture",
};

/** Total: whatever the bytes are, a shot or its problem. */
export function readShot(bytes: Uint8Array): ReadShot {
  const kind = fileKind(bytes);
  if (kind === null) return NOTHING;
  const tags = tagsIn(bytes);
  const inside = kind === "raw" ? embeddedJpeg(bytes) : null;
  const drawn = inside === null ? null : tagsIn(inside);
  if (tags === null) return { ...NOTHING, kind, problem: kind === "heic" ? "heic" : isWhole(bytes, kind) ? "unreadable" : "cut-off" };
  const size = kind === "webp" ? webpSize(bytes) : null;
  const read = { ...NOTHING, kind, ...told(tags, drawn), ...(size === null ? {} : { widthPx: size.width, heightPx: size.height }) };
  return { ...read, problem: problemOf(bytes, kind, tags, read, inside !== null) };
}

function problemOf(
  bytes: Uint8Array,
  kind: FileKind,
  tags: ExpandedTags,
  read: Omit<ReadShot, "problem">,
  drawn: boolean,
): ShotProblem | null {
  if (!isWhole(bytes, kind)) return "cut-off";
  if (kind === "raw" && !drawn) return "raw-without-picture";
  if (kind === "heic") return "heic";
  if (tags.exif === undefined) return "no-exif";
  return read.exposureSec === null ? "no-exposure-time" : null;
}

function tagsIn(bytes: Uint8Array): ExpandedTags | null {
  try {
    const told = fileKind(bytes) === "jpeg" ? headOfJpeg(bytes) : bytes;
    // Of its own memory: a view into a larger one would be read from the beginning of that.
    return exifReader.load(new Uint8Array(told).buffer, { expanded: true });
  } catch {
    return null;
  }
}

type Tags = Readonly<Record<string, { value?: unknown; description?: unknown } | undefined>>;

function told(tags: ExpandedTags, drawn: ExpandedTags | null): Omit<ReadShot, "kind" | "problem"> {
  const exif = (tags.exif ?? {}) as unknown as Tags;
  const file = (drawn?.file ?? tags.file ?? {}) as unknown as Tags;
  const png = (tags.pngFile ?? {}) as unknown as Tags;
  const widthPx = positive(file["Image Width"] ?? png["Image Width"] ?? exif.PixelXDimension ?? exif.ImageWidth);
  const heightPx = positive(file["Image Height"] ?? png["Image Height"] ?? exif.PixelYDimension ?? exif.ImageLength);
  const focalMm = positive(exif.FocalLength);
  const orientation = positive(exif.Orientation) ?? 1;
  return {
    camera: [textOf(exif.Make), textOf(exif.Model)].filter((t) => t !== "").join(" "),
    exposureSec: positive(exif.ExposureTime) ?? powerOf(exif.ShutterSpeedValue, -1),
    focalMm,
    focalEquivalentMm: positive(exif.FocalLengthIn35mmFilm) ?? equivalentByPlane(exif, focalMm),
    iso: isoOf(exif),
    fNumber: positive(exif.FNumber) ?? powerOf(exif.ApertureValue, 0.5),
    takenAt: momentOf(exif),
    orientation: Number.isInteger(orientation) && orientation <= 8 ? orientation : 1,
    widthPx,
    heightPx,
    stabiliser: stabiliserIn(tags),
  };
}

/** A number, a fraction of two, or the first of a list; null unless finite. */
function numberOf(tag: Tags[string]): number | null {
  const value = tag?.value;
  const list = Array.isArray(value) ? (value as unknown[]) : [value];
  const [first, second] = list;
  const number = Array.isArray(first)
    ? fraction(first as unknown[])
    : list.length === 2 && typeof first === "number" && typeof second === "number"
      ? first / second
      : Number(first ?? Number.NaN);
  return Number.isFinite(number) ? number : null;
}
const fraction = ([a, b]: unknown[]): number => Number(a) / Number(b);
function positive(tag: Tags[string]): number | null {
  const value = numberOf(tag);
  return value !== null && value > 0 ? value : null;
}
function powerOf(tag: Tags[string], factor: number): number | null {
  const apex = numberOf(tag);
  return apex === null || Math.abs(apex) > 40 ? null : 2 ** (factor * apex);
}
function textOf(tag: Tags[string]): string {
  const value = Array.isArray(tag?.value) ? (tag.value as unknown[])[0] : tag?.value;
  return typeof value === "string" ? value.replace(/\0[\s\S]*$/, "").trim() : "";
}

/** The two-byte tag stops at 65,535: beyond it the longer ones count. */
function isoOf(exif: Tags): number | null {
  const short = positive(exif.ISOSpeedRatings ?? exif.PhotographicSensitivity);
  return short !== null && short < 65_535 ? short : (positive(exif.RecommendedExposureIndex) ?? positive(exif.ISOSpeed) ?? short);
}

function momentOf(exif: Tags): string | null {
  const parts = /^(\d{4}):(\d\d):(\d\d) (\d\d):(\d\d):(\d\d)/.exec(textOf(exif.DateTimeOriginal ?? exif.DateTime));
  if (parts === null || parts[1] === "0000" || parts[2] === "00") return null;
  const [, y, mo, d, h, mi, s] = parts;
  const sub = /^\d{1,6}$/.exec(textOf(exif.SubSecTimeOriginal))?.[0];
  const offset = /^[+-]\d\d:\d\d$/.exec(textOf(exif.OffsetTimeOriginal))?.[0] ?? "";
  return `${y}-${mo}-${d}T${h}:${mi}:${s}${sub === undefined ? "" : `.${sub}`}${offset}`;
}

const UNIT_MM: Readonly<Record<number, number>> = { 2: 25.4, 3: 10, 4: 1 };
/** From the pixels per unit on the sensor, where a camera writes them. */
function equivalentByPlane(exif: Tags, focalMm: number | null): number | null {
  const [x, y] = [positive(exif.FocalPlaneXResolution), positive(exif.FocalPlaneYResolution)];
  const unit = UNIT_MM[numberOf(exif.FocalPlaneResolutionUnit) ?? 2];
  const [w, h] = [positive(exif.PixelXDimension), positive(exif.PixelYDimension)];
  if (x === null || y === null || unit === undefined || w === null || h === null || focalMm === null) return null;
  const diagonal = Math.hypot((w / x) * unit, (h / y) * unit);
  return diagonal > 3 && diagonal < 100 ? (focalMm * Math.hypot(36, 24)) / diagonal : null;
}

const STABILISER = /stabili[sz]|vibration|shake ?reduction/i;
/** Of whatever a maker or an editor writes about it, on or off; null where nobody does. */
function stabiliserIn(tags: ExpandedTags): ReadShot["stabiliser"] {
  for (const group of Object.values(tags) as Tags[]) {
    if (typeof group !== "object") continue;
    for (const [name, tag] of Object.entries(group)) {
      if (!STABILISER.test(name) || typeof tag !== "object") continue;
      const said = `${textOf(tag)} ${typeof tag.description === "string" ? tag.description : ""}`;
      if (/\b(off|none|no|disabled|false)\b/i.test(said)) return "off";
      if (/\b(on|yes|enabled|true|mode)\b/i.test(said)) return "on";
      // Said by a number alone: a word beside one has been read above.
      const number = numberOf(tag) ?? (said.trim() === "" ? Number.NaN : Number(said.trim()));
      if (Number.isFinite(number)) return number === 0 ? "off" : "on";
    }
  }
  return null;
}

/** Exact seconds of each shot's place on its camera's dial; null where it has no time. Shots of one camera share a dial. */
export function rungsOf(shots: readonly ReadShot[]): (number | null)[] {
  const dials = new Map<string, Series>();
  for (const camera of new Set(shots.map((s) => s.camera)))
    dials.set(camera, seriesOf(shots.flatMap((s) => (s.camera === camera && s.exposureSec !== null ? [Math.log2(s.exposureSec)] : []))));
  return shots.map((s) => (s.exposureSec === null ? null : 2 ** nearestPlace(Math.log2(s.exposureSec), dials.get(s.camera) ?? "third")));
}
