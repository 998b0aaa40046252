// The pictures of a test as its facts say: where each lies on the dial, with the stabiliser off or on, which do not fit, and what judges said of them.

import type { Fact } from "../facts/index.ts";
import { nearestPlace, seriesOf } from "../exposure/index.ts";
import type { HoldPlan, Setting } from "./plan.ts";

/** From best to worst. */
export const SHARPNESS = ["sharp", "usable", "soft", "lost"] as const;
export type Sharpness = (typeof SHARPNESS)[number];

/** Where a setting is known from. */
export const SETTING_SOURCES = ["picture", "card", "order", "hand"] as const;
export interface Cut {
  /** Middle of the square, as shares of the upright picture's width and height. */
  u: number;
  v: number;
  sha256: string;
}
export interface PictureBody {
  /** Of the original file, which is not kept: by it the file is known again. */
  sha256: string;
  name: string;
  camera: string;
  exposureSec: number;
  /** As the camera's clock said; null: not said. */
  takenAt: string | null;
  focalMm: number | null;
  iso: number | null;
  fNumber: number | null;
  /** Upright. */
  widthPx: number;
  heightPx: number;
  setting: Setting | null;
  settingBy: (typeof SETTING_SOURCES)[number] | null;
  preview: string;
  /** Side of every square, in pixels of the original. */
  sidePx: number;
  cuts: readonly Cut[];
  /** Null: as it fits. False: left out by hand; true: counted though it does not fit. */
  counted: boolean | null;
}
export type PictureFields = Partial<Pick<PictureBody, "setting" | "settingBy" | "cuts" | "counted">>;
export interface SharpnessBody {
  by: string;
  sharpness: Sharpness;
  /** Setting and time were not shown to the judge. */
  blind: boolean;
}

export type Misfit =
  | "another-focal-length"
  | "another-camera"
  | "camera-not-said"
  | "other-file-names"
  | "another-day"
  | "unplanned-time"
  | "bad-try";
export interface HoldPicture extends PictureBody {
  id: string;
  /** log2 of the exact seconds of its place on its camera's dial. */
  x: number;
  misfit: Misfit | null;
  /** Counts: it fits or was said to, and was not left out. */
  counts: boolean;
  /** By initials, in capitals: what each judge said last. */
  grades: ReadonlyMap<string, { sharpness: Sharpness; blind: boolean; factId: string }>;
}

type Of<Body> = Fact & { body: Body };
const SAME = 1e-6;
const DAY_MS = 12 * 3_600_000;
const OTHER_FOCAL = 0.06;

/** As clocks of cameras say it, without a zone: only differences within one camera are of use. */
export const takenMs = (takenAt: string | null): number | null => {
  if (takenAt === null) return null;
  const ms = Date.parse(`${takenAt.replace(/([+-]\d\d:\d\d)$/, "")}Z`);
  return Number.isFinite(ms) ? ms : null;
};

/** In the order they were taken: by the camera's clock where all say it, else by name as a card numbers them. */
export function inOrderTaken<P extends Pick<PictureBody, "takenAt" | "name">>(pictures: readonly P[]): P[] {
  const timed = pictures.every((p) => takenMs(p.takenAt) !== null);
  const byName = (a: P, b: P): number => a.name.localeCompare(b.name, "en", { numeric: true });
  return [...pictures].sort((a, b) => (timed ? (takenMs(a.takenAt) ?? 0) - (takenMs(b.takenAt) ?? 0) : 0) || byName(a, b));
}

/** @param planned exposures of the plan; empty: every exposure fits */
export function picturesOf(
  plan: Pick<HoldPlan, "focalMm"> & { planned: readonly number[] },
  pictures: readonly Of<PictureBody>[],
  grades: readonly Of<SharpnessBody>[],
): HoldPicture[] {
  const dials = new Map<string, ReturnType<typeof seriesOf>>();
  for (const camera of new Set(pictures.map((p) => p.body.camera)))
    dials.set(camera, seriesOf(pictures.filter((p) => p.body.camera === camera).map((p) => Math.log2(p.body.exposureSec))));
  // Those that do not say their camera are no camera of their own: where none says it, all fit.
  const main = mostOf(pictures.flatMap((p) => p.body.camera || []));
  const others = otherNames(pictures.filter((p) => p.body.camera === main).map((p) => p.body.name));
  const days = pictures.flatMap((p) => takenMs(p.body.takenAt) ?? []).sort((a, b) => a - b);
  const middle = days[days.length >> 1] ?? null;
  const seen = new Set<string>();
  const read = pictures.flatMap((fact): HoldPicture[] => {
    const { body } = fact;
    // The same file dropped on two devices is one shot.
    if (seen.has(body.sha256)) return [];
    seen.add(body.sha256);
    const x = nearestPlace(Math.log2(body.exposureSec), dials.get(body.camera) ?? "third");
    const misfit = misfitOf(body, x, { ...plan, main, others, middle });
    const said = grades.filter((g) => g.target === fact.id);
    return [
      {
        ...body,
        id: fact.id,
        x,
        misfit,
        counts: body.counted ?? misfit === null,
        grades: new Map(
          said.map(({ id, body: { by, sharpness, blind } }) => [by.trim().toUpperCase(), { sharpness, blind, factId: id }] as const),
        ),
      },
    ];
  });
  return inOrderTaken(read);
}

interface Fits {
  focalMm: number;
  planned: readonly number[];
  /** The camera that most of those that say it name; "": none says it. */
  main: string;
  /** How files of another body are named. */
  others: ReadonlySet<string>;
  middle: number | null;
}
function misfitOf(p: PictureBody, x: number, { focalMm, planned, main, others, middle }: Fits): Misfit | null {
  if (p.camera !== main) return p.camera === "" ? "camera-not-said" : "another-camera";
  if (others.has(prefixOf(p.name))) return "other-file-names";
  if (p.focalMm !== null && Math.abs(p.focalMm / focalMm - 1) > OTHER_FOCAL) return "another-focal-length";
  const at = takenMs(p.takenAt);
  if (at !== null && middle !== null && Math.abs(at - middle) > DAY_MS) return "another-day";
  if (planned.length > 0 && !planned.some((y) => Math.abs(y - x) < SAME)) return "unplanned-time";
  return null;
}
/** What a camera names its files with, before their number. */
const prefixOf = (name: string): string => name.replace(/\d+\D*$/, "").toLowerCase();
const LEAST_OF_A_BODY = 3;
/** Two bodies of one model name their files apart. Names given by hand have no such groups: nothing follows from them. */
function otherNames(names: readonly string[]): ReadonlySet<string> {
  const prefixes = names.map(prefixOf);
  const main = mostOf(prefixes);
  const groups = [...new Set(prefixes)].filter((one) => prefixes.filter((p) => p === one).length >= LEAST_OF_A_BODY);
  return new Set(groups.length < 2 ? [] : groups.filter((g) => g !== main));
}
function mostOf(names: readonly string[]): string {
  const counts = new Map<string, number>();
  for (const n of names) counts.set(n, (counts.get(n) ?? 0) + 1);
  return [...counts.entries()].reduce((best, e) => (e[1] > best[1] ? e : best), ["", 0] as [string, number])[0];
}

/** Judges, by how many counted pictures each has graded, most first; then by initials. */
export function judgesOf(pictures: readonly HoldPicture[]): { by: string; graded: number; left: number }[] {
  const counted = pictures.filter((p) => p.counts);
  const names = new Set(counted.flatMap((p) => [...p.grades.keys()]));
  return [...names]
    .map((by) => {
      const graded = counted.filter((p) => p.grades.has(by)).length;
      return { by, graded, left: counted.length - graded };
    })
    .sort((a, b) => b.graded - a.graded || (a.by < b.by ? -1 : 1));
}
