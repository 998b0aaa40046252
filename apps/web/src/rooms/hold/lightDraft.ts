// What was metered and what is in the bag, as it is typed.

import type { Metered } from "@keep-rolling/core/exposure";
import { fNumberLabel, isoLabel, placeOfLabel } from "@keep-rolling/core/exposure";
import type { HoldPlan } from "@keep-rolling/core/holds";
import { numberIn } from "./typed.ts";
import { dialWords } from "./words.ts";

export interface LightDraft {
  /** Empty: nothing was metered, and the rest does not count. */
  time: string;
  iso: string;
  fNumber: string;
  isoLeast: string;
  isoMost: string;
  fWidest: string;
  fNarrowest: string;
  /** Stops of each filter, in a row. */
  filters: string;
  brightness: HoldPlan["brightness"];
}
export const emptyLight = (): LightDraft => ({
  time: "",
  iso: "",
  fNumber: "",
  isoLeast: "100",
  isoMost: "6400",
  fWidest: "",
  fNarrowest: "16",
  filters: "",
  brightness: "equal",
});

export const lightOf = ({ metered: m, brightness }: Pick<HoldPlan, "metered" | "brightness">): LightDraft =>
  m === null
    ? { ...emptyLight(), brightness }
    : {
        time: dialWords(m.x),
        iso: isoLabel(m.iso),
        fNumber: fNumberLabel(m.fNumber),
        isoLeast: isoLabel(m.isoLeast),
        isoMost: isoLabel(m.isoMost),
        fWidest: fNumberLabel(m.fWidest),
        fNarrowest: fNumberLabel(m.fNarrowest),
        filters: m.filters.join(", "),
        brightness,
      };

/** Exact values of a dial in thirds: what is printed is rounded. */
const onThirds = (value: number, one: number): number => one * 2 ** (Math.round(3 * Math.log2(value / one)) / 3);
const isoIn = (text: string): number | null => positive(text, (v) => onThirds(v, 100));
const apertureIn = (text: string): number | null => positive(text, (v) => 2 ** (Math.round(6 * Math.log2(v)) / 6));
function positive(text: string, exact: (v: number) => number): number | null {
  const value = numberIn(text.replace(/^\s*f\s*\/?\s*/i, ""));
  return value === null || value <= 0 ? null : exact(value);
}

export function meteredIn(d: LightDraft, errors: string[]): Metered | null {
  if (d.time.trim() === "") return null;
  const x = placeOfLabel(d.time, "third");
  const [iso, isoLeast, isoMost] = [isoIn(d.iso), isoIn(d.isoLeast), isoIn(d.isoMost)];
  const fNumber = apertureIn(d.fNumber);
  const [fWidest, fNarrowest] = [d.fWidest.trim() === "" ? fNumber : apertureIn(d.fWidest), apertureIn(d.fNarrowest)];
  const filters = d.filters
    .split(/[;\s]+|,\s+/)
    .filter((t) => t !== "")
    .map(numberIn);
  if (x === null) errors.push("What was metered: the time as on the dial, such as 1/60; or empty.");
  if (iso === null || isoLeast === null || isoMost === null || !(isoLeast <= iso && iso <= isoMost))
    errors.push("Sensitivity: what was metered lies between the lowest and the highest to be used.");
  if (fNumber === null || fWidest === null || fNarrowest === null || !(fWidest <= fNumber && fNumber <= fNarrowest))
    errors.push("Aperture: what was metered lies between the widest and the narrowest to be used, such as 2.8, 4 and 16.");
  if (filters.some((f) => f === null || f <= 0 || f > 24) || filters.length > 10)
    errors.push("Filters: the stops each takes, such as 3, 6; up to ten of them.");
  if (x === null || iso === null || isoLeast === null || isoMost === null || fNumber === null || fWidest === null || fNarrowest === null)
    return null;
  return { x, iso, fNumber, isoLeast, isoMost, fWidest, fNarrowest, filters: filters.flatMap((f) => f ?? []) };
}
