// What is typed of a shutter-speed test, and what it makes.

import type { Kit } from "@keep-rolling/contract/kit";
import type { Reference } from "@keep-rolling/core/exposure";
import { cropByDiagonal, placeOfLabel } from "@keep-rolling/core/exposure";
import type { ExposureSpan, HoldPlan } from "@keep-rolling/core/holds";
import { plannedVisits, STANCES, usualSpans } from "@keep-rolling/core/holds";
import { dialWords } from "./words.ts";

export interface HoldDraft {
  place: string;
  unitId: string;
  lensName: string;
  focalMm: string;
  equivalentMm: string;
  stance: (typeof STANCES)[number];
  by: string;
  state: string;
  reference: Reference;
  claimStops: string;
  /** Labels of the dial; empty: not shot. */
  off: { fastest: string; slowest: string };
  on: { fastest: string; slowest: string };
  shotsEach: string;
}

export const emptyHold = (): HoldDraft => ({
  place: "",
  unitId: "",
  lensName: "",
  focalMm: "",
  equivalentMm: "",
  stance: STANCES[0],
  by: "",
  state: "",
  reference: "1/equivalent",
  claimStops: "",
  off: { fastest: "", slowest: "" },
  on: { fastest: "", slowest: "" },
  shotsEach: "5",
});

const numberIn = (text: string): number | null => {
  const value = Number(text.trim().replace(",", "."));
  return text.trim() === "" || !Number.isFinite(value) ? null : value;
};

/** By the body's sensor, where the kit knows it. */
export function equivalentOf(kit: Kit, unitId: string, focal: string): string {
  const unit = kit.units.find((u) => u.id === unitId);
  const model = kit.models.find((m) => m.id === unit?.modelId);
  const focalMm = numberIn(focal);
  if (focalMm === null || model?.sensorWidthMm == null || model.sensorHeightMm == null) return "";
  return String(Math.round(focalMm * cropByDiagonal({ widthMm: model.sensorWidthMm, heightMm: model.sensorHeightMm })));
}

/** The usual times for this lens, as labels. */
export function withUsualTimes(d: HoldDraft): HoldDraft {
  const focalMm = numberIn(d.focalMm);
  if (focalMm === null || focalMm <= 0) return d;
  const spans = usualSpans({ focalMm, equivalentMm: numberIn(d.equivalentMm) }, d.reference);
  const labels = (span: ExposureSpan | null) =>
    span === null ? { fastest: "", slowest: "" } : { fastest: dialWords(span.fastest), slowest: dialWords(span.slowest) };
  return { ...d, off: labels(spans.off), on: labels(spans.on) };
}

export type MadeHold = { ok: true; plan: HoldPlan; shots: number } | { ok: false; errors: string[] };

export function plannedHold(d: HoldDraft): MadeHold {
  const errors: string[] = [];
  const focalMm = numberIn(d.focalMm);
  if (d.lensName.trim() === "") errors.push("Say which lens.");
  if (focalMm === null || focalMm <= 0 || focalMm > 5000) errors.push("The focal length is a number of millimetres, above 0.");
  const equivalentMm = numberIn(d.equivalentMm);
  if (d.equivalentMm.trim() !== "" && (equivalentMm === null || equivalentMm <= 0 || equivalentMm > 20_000))
    errors.push("The equivalent focal length is a number of millimetres, or empty.");
  const claimStops = numberIn(d.claimStops);
  if (d.claimStops.trim() !== "" && (claimStops === null || claimStops <= 0 || claimStops > 12))
    errors.push("The maker's stops are a number up to 12, or empty.");
  const shotsEach = numberIn(d.shotsEach);
  if (shotsEach === null || !Number.isInteger(shotsEach) || shotsEach < 1 || shotsEach > 20) errors.push("Shots at each time: 1 to 20.");
  const off = spanOf(d.off, "off", errors);
  const on = spanOf(d.on, "on", errors);
  if (off === null && on === null && errors.length === 0) errors.push("Choose at which times to shoot, off, on or both.");
  if (errors.length > 0 || focalMm === null || shotsEach === null) return { ok: false, errors };
  const plan: HoldPlan = {
    lensName: d.lensName.trim(),
    focalMm,
    equivalentMm,
    stance: d.stance,
    by: d.by.trim(),
    state: d.state.trim(),
    reference: d.reference,
    claimStops,
    spans: { off, on },
    stepStops: 1,
    shotsEach,
  };
  return { ok: true, plan, shots: plannedVisits(plan).length * shotsEach };
}

function spanOf({ fastest, slowest }: { fastest: string; slowest: string }, setting: string, errors: string[]): ExposureSpan | null {
  if (fastest.trim() === "" && slowest.trim() === "") return null;
  const [a, b] = [placeOfLabel(fastest, "third"), placeOfLabel(slowest, "third")];
  if (a === null || b === null) errors.push(`With it ${setting}: both times as on the dial, such as 1/60 and 1/4.`);
  else if (a > b) errors.push(`With it ${setting}: ${fastest} is slower than ${slowest}; the fastest comes first.`);
  else return { fastest: a, slowest: b };
  return null;
}

/** What testers forget, said beforehand. */
export function remindersOf(plan: HoldPlan): string[] {
  const xs = plannedVisits(plan).map((v) => v.x);
  return [
    ...(plan.spans.off === null || plan.spans.on === null ? ["Only one of off and on: stops gained cannot be told."] : []),
    ...(plan.shotsEach < 3 ? ["Fewer than three shots at each time: a keep rate needs more."] : []),
    ...(xs.length > 0 && new Set(xs).size < 3 ? ["Fewer than three times: the limit lies somewhere between, and cannot be placed."] : []),
    ...(plan.equivalentMm === null && /equivalent/.test(plan.reference)
      ? ["The equivalent focal length is not known: no rule of thumb is drawn."]
      : []),
    ...(xs.some((x) => x > 2) ? ["Times beyond 4 s are for a support; each shot costs its length."] : []),
    ...(xs.some((x) => x < -5.5 && x > -9.5)
      ? ["Lamps on the mains flicker 100 or 120 times a second: shoot fast times in daylight, or light differs from shot to shot."]
      : []),
    "Keep the picture as bright at every time, by sensitivity, aperture or a filter; and judge on something that stands still.",
  ];
}
