// Words that stand beside marks, and whether they would meet.

import type { TemperatureUnit } from "@keep-rolling/core/format";
import { formatHms, formatTemperature, formatTick } from "@keep-rolling/core/format";
import type { Figure, FigureStated } from "@keep-rolling/core/kit";

/** What a ruler shows of a published time. */
export interface StatedTime {
  limitSec: number;
  ambientC: number | null;
  stated?: FigureStated | null | undefined;
}

/** "published 0:45 at 23.0 °C"; on a narrow ruler without the temperature, which the answer beside it says. */
export function ratedWords(rated: StatedTime, unit: TemperatureUnit, narrow = false): string {
  const at = rated.ambientC === null || narrow ? "" : ` at ${formatTemperature(rated.ambientC, unit)}`;
  return `published ${rated.stated === "more than" ? "more than " : ""}${formatTick(rated.limitSec * 1000)}${at}`;
}

/** "0:45:00", "more than 0:45:00" or "no limit stated". */
export const statedWords = ({ limitSec, stated }: Pick<Figure, "limitSec" | "stated">): string =>
  limitSec === null ? "no limit stated" : `${stated === "more than" ? "more than " : ""}${formatHms(limitSec * 1000)}`;

/** "another tester's 0:19 at 27.0 °C". */
export const outsideWords = (figure: StatedTime, unit: TemperatureUnit): string =>
  ratedWords(figure, unit).replace(/^published/, "another tester's");

/** Whether the words of a limit and a rating would meet: about 8 px a letter, on the sides they are drawn. */
export function labelsMeet(limit: { at: number; label: string }, rated: { at: number; label: string }, widthPx: number): boolean {
  const span = (at: number, label: string, left: boolean): [number, number] =>
    left ? [at - 7 - 8 * label.length, at - 7] : [at + 7, at + 7 + 8 * label.length];
  const a = span(limit.at, limit.label, limit.at >= 9 * limit.label.length);
  const b = span(rated.at, rated.label, rated.at + 9 * rated.label.length > widthPx);
  return a[0] < b[1] && b[0] < a[1];
}
