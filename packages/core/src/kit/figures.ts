// Published times: the maker's rating, or another tester's. A figure may be a time, more than a time, or the word that there is no limit.

import type { ConditionSnapshot, ModeSnapshot } from "./snapshots.ts";

export const FIGURE_KINDS = ["rated", "outside"] as const;
export const FIGURE_STATED = ["time", "more than", "no limit"] as const;
export type FigureStated = (typeof FIGURE_STATED)[number];

/** A published time with what is known of its conditions; what was not said is absent. */
export interface Figure {
  id: string;
  modeId: string;
  kind: (typeof FIGURE_KINDS)[number];
  ambientC: number | null;
  /** Seconds; null exactly where no limit is stated. */
  limitSec: number | null;
  /** Absent: a time. */
  stated?: FigureStated | null | undefined;
  says?: FigureSays | null | undefined;
}
type Said<T> = T | "not said" | undefined;
interface FigureSays {
  start?: Said<"cold" | "warm">;
  compression?: Said<ModeSnapshot["compression"]>;
  sun?: Said<ConditionSnapshot["sun"]>;
  air?: Said<ConditionSnapshot["air"]>;
  screen?: Said<ConditionSnapshot["screen"]>;
  power?: Said<ConditionSnapshot["power"]>;
  powerOffSetting?: Said<ConditionSnapshot["powerOffSetting"]>;
}
/** What a figure says of one setting; undefined: nothing. */
export const saidOf = <T extends string>(value: Said<T>): T | undefined => (value === "not said" ? undefined : value);

export type WithTime<F extends { limitSec: number | null }> = F & { limitSec: number };
/** It names a time, which a ruler can show. */
export const namesTime = <F extends { limitSec: number | null }>(figure: F): figure is WithTime<F> => figure.limitSec !== null;

type Listed = Pick<Figure, "modeId" | "kind" | "limitSec"> & { archived: boolean };
/** The maker's time for a mode, as rulers show it beside its runs; null: none in use names one. */
export const ratedOf = <F extends Listed>(figures: readonly F[], modeId: string): WithTime<F> | null =>
  figures.filter(namesTime).find((f) => f.modeId === modeId && f.kind === "rated" && !f.archived) ?? null;
