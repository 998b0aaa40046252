// What counts as kept, by what the picture is for; and how far two judges agree.

import { cohenKappa, weightedKappa } from "../statistics/index.ts";
import type { HoldPicture, Sharpness } from "./pictures.ts";
import { SHARPNESS } from "./pictures.ts";
import type { HoldShot } from "./shots.ts";

export const USES = ["print", "half size", "screen"] as const;
export type Use = (typeof USES)[number];
/** The worst grade that is still kept, for each use. */
export type KeptFrom = Readonly<Record<Use, Exclude<Sharpness, "lost">>>;
export const USUALLY_KEPT: KeptFrom = { print: "sharp", "half size": "usable", screen: "soft" };

export const isKept = (sharpness: Sharpness, worst: Sharpness): boolean => SHARPNESS.indexOf(sharpness) <= SHARPNESS.indexOf(worst);

/** Counted pictures as shots, in the order they were taken, as this judge saw them. Without a setting or a grade nothing is told of a picture. */
export function shotsSeen(pictures: readonly HoldPicture[], by: string, worst: Sharpness): HoldShot[] {
  return pictures.flatMap((p, i): HoldShot[] => {
    const said = p.grades.get(by);
    if (!p.counts || p.setting === null || said === undefined) return [];
    return [{ id: p.id, atMs: i, setting: p.setting, x: p.x, grade: isKept(said.sharpness, worst) ? "kept" : "lost" }];
  });
}

export interface GradesAgreement {
  pictures: number;
  /** Share for which both said the same grade. */
  alike: number;
  /** Of the four grades, a step away counting less than two (linear weights). Null: one of them said the same of all, so chance explains it. */
  kappa: number | null;
  /** Of kept or not. */
  keptKappa: number | null;
}
/** Null without a picture both have graded. */
export function gradesAgreement(
  pictures: readonly HoldPicture[],
  [one, two]: readonly [string, string],
  worst: Sharpness,
): GradesAgreement | null {
  const both = pictures.flatMap((p) => {
    const [a, b] = [p.grades.get(one)?.sharpness, p.grades.get(two)?.sharpness];
    return p.counts && a !== undefined && b !== undefined ? [[a, b] as const] : [];
  });
  if (both.length === 0) return null;
  const kept = both.map(([a, b]) => [isKept(a, worst) ? 0 : 1, isKept(b, worst) ? 0 : 1] as const);
  const onKept = cohenKappa(tableOf(kept, 2));
  return {
    pictures: both.length,
    alike: both.filter(([a, b]) => a === b).length / both.length,
    kappa: weightedKappa(
      tableOf(
        both.map(([a, b]) => [SHARPNESS.indexOf(a), SHARPNESS.indexOf(b)] as const),
        SHARPNESS.length,
      ),
      "linear",
    ),
    keptKappa: onKept.ok ? onKept.kappa : null,
  };
}
function tableOf(pairs: readonly (readonly [number, number])[], size: number): number[][] {
  const table = Array.from({ length: size }, () => new Array<number>(size).fill(0));
  for (const [a, b] of pairs) (table[a] as number[])[b] = ((table[a] as number[])[b] ?? 0) + 1;
  return table;
}
