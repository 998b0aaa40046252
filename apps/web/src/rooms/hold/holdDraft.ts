// What is typed of a shutter-speed test, and what it makes.

import type { Kit } from "@keep-rolling/contract/kit";
import type { Reference } from "@keep-rolling/core/exposure";
import { cropByDiagonal, placeOfLabel } from "@keep-rolling/core/exposure";
import type { ExposureSpan, HoldPlan, SensorPixels } from "@keep-rolling/core/holds";
import { eachOf, LIGHTS, plannedVisits, STANCES, STEPS, USUALLY, usualSpans } from "@keep-rolling/core/holds";
import type { LightDraft } from "./lightDraft.ts";
import { emptyLight, lightOf, meteredIn } from "./lightDraft.ts";
import { numberIn } from "./typed.ts";
import { dialWords } from "./words.ts";

export interface HoldDraft {
  place: string;
  unitId: string;
  lensName: string;
  focalMm: string;
  equivalentMm: string;
  /** Typed by hand: the body's sensor never writes over it. */
  equivalentTyped: boolean;
  stance: (typeof STANCES)[number];
  by: string;
  state: string;
  reference: Reference;
  claimStops: string;
  /** Labels of the dial; empty: not shot. */
  off: { fastest: string; slowest: string };
  on: { fastest: string; slowest: string };
  shotsEach: string;
  /** Index of the step: one stop, half, a third. */
  step: 0 | 1 | 2;
  order: HoldPlan["order"];
  seed: number;
  judged: HoldPlan["judged"];
  /** Of a hundred. */
  share: string;
  light: HoldPlan["light"];
  subjectMoves: boolean;
  metered: LightDraft;
  /** Of the pictures, across. */
  pixelsWide: string;
  /** By the kit, of the body chosen. */
  sensorMm: { width: number; height: number } | null;
}

export const emptyHold = (): HoldDraft => ({
  place: "",
  unitId: "",
  lensName: "",
  focalMm: "",
  equivalentMm: "",
  equivalentTyped: false,
  stance: STANCES[0],
  by: "",
  state: "",
  reference: "1/equivalent",
  claimStops: "",
  off: { fastest: "", slowest: "" },
  on: { fastest: "", slowest: "" },
  shotsEach: "5",
  step: 0,
  order: USUALLY.order,
  seed: crypto.getRandomValues(new Uint32Array(1))[0] ?? 1,
  judged: USUALLY.judged,
  share: String(100 * USUALLY.share),
  light: USUALLY.light,
  subjectMoves: USUALLY.subjectMoves,
  metered: emptyLight(),
  pixelsWide: "",
  sensorMm: null,
});

/** A plan as it would have been typed. */
export const draftOfPlan = (plan: HoldPlan, place: string, unitId: string): HoldDraft => ({
  place,
  unitId,
  lensName: plan.lensName,
  focalMm: String(plan.focalMm),
  equivalentMm: plan.equivalentMm === null ? "" : String(plan.equivalentMm),
  equivalentTyped: plan.equivalentMm !== null,
  stance: plan.stance,
  by: plan.by,
  state: plan.state,
  reference: plan.reference,
  claimStops: plan.claimStops === null ? "" : String(plan.claimStops),
  off: labelsOf(plan.spans.off),
  on: labelsOf(plan.spans.on),
  shotsEach: String(plan.shotsEach),
  step: STEPS.findIndex((v) => v === plan.stepStops) as HoldDraft["step"],
  order: plan.order,
  seed: plan.seed,
  judged: plan.judged,
  share: String(Math.round(100 * plan.share)),
  light: plan.light,
  subjectMoves: plan.subjectMoves,
  metered: lightOf(plan),
  pixelsWide: plan.sensor === null ? "" : String(plan.sensor.pixelsWide),
  sensorMm: plan.sensor === null ? null : { width: plan.sensor.widthMm, height: plan.sensor.heightMm },
});
const labelsOf = (span: ExposureSpan | null) =>
  span === null ? { fastest: "", slowest: "" } : { fastest: dialWords(span.fastest), slowest: dialWords(span.slowest) };

/** With another body or focal length: sensor and equivalent by the kit, where it knows them and nobody typed another equivalent. */
export function withLens(kit: Kit, d: HoldDraft, more: Partial<Pick<HoldDraft, "unitId" | "focalMm">>): HoldDraft {
  const next = { ...d, ...more };
  const sensorMm = sensorOf(kit, next.unitId) ?? (next.unitId === d.unitId ? d.sensorMm : null);
  const known = { ...next, sensorMm };
  // What the kit gave for the old lens is no equivalent of the new one, though a plan kept does not say who typed it.
  const byHand = d.equivalentTyped && d.equivalentMm !== equivalentOf(sensorOf(kit, d.unitId) ?? d.sensorMm, d.focalMm);
  return byHand ? known : { ...known, equivalentMm: equivalentOf(sensorMm, next.focalMm) };
}

function sensorOf(kit: Kit, unitId: string): HoldDraft["sensorMm"] {
  const unit = kit.units.find((u) => u.id === unitId);
  const model = kit.models.find((m) => m.id === unit?.modelId);
  return model?.sensorWidthMm == null || model.sensorHeightMm == null ? null : { width: model.sensorWidthMm, height: model.sensorHeightMm };
}
function equivalentOf(sensor: HoldDraft["sensorMm"], focal: string): string {
  const focalMm = numberIn(focal);
  if (focalMm === null || sensor === null) return "";
  return String(Math.round(focalMm * cropByDiagonal({ widthMm: sensor.width, heightMm: sensor.height })));
}
function sensorIn({ sensorMm, pixelsWide }: HoldDraft): SensorPixels | null {
  const pixels = numberIn(pixelsWide);
  return sensorMm === null || pixels === null ? null : { widthMm: sensorMm.width, heightMm: sensorMm.height, pixelsWide: pixels };
}

/** The usual times for this lens, as labels. */
export function withUsualTimes(d: HoldDraft): HoldDraft {
  const focalMm = numberIn(d.focalMm);
  if (focalMm === null || focalMm <= 0) return d;
  const spans = usualSpans({ focalMm, equivalentMm: numberIn(d.equivalentMm), sensor: sensorIn(d) }, d.reference);
  return { ...d, off: labelsOf(spans.off), on: labelsOf(spans.on) };
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
  const share = numberIn(d.share);
  if (share === null || share < 50 || share > 95) errors.push("Of 100 shots, 50 to 95 are to be kept at the dependable time.");
  const pixels = numberIn(d.pixelsWide);
  if (d.pixelsWide.trim() !== "" && (pixels === null || !Number.isInteger(pixels) || pixels < 100 || pixels > 100_000))
    errors.push("Pixels across are a whole number, 100 to 100,000, or empty.");
  const metered = meteredIn(d.metered, errors);
  const adaptive = d.order === "adaptive";
  const off = spanOf(adaptive ? { ...d.off, slowest: d.off.fastest } : d.off, "off", errors);
  const on = spanOf(adaptive ? { ...d.on, slowest: d.on.fastest } : d.on, "on", errors);
  if (off === null && on === null && errors.length === 0) errors.push("Choose at which times to shoot, off, on or both.");
  if (errors.length > 0 || focalMm === null || shotsEach === null || share === null) return { ok: false, errors };
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
    stepStops: STEPS[d.step],
    shotsEach,
    order: d.order,
    seed: d.seed,
    // Which time comes next is known only once the last one is judged.
    judged: adaptive ? "at once" : d.judged,
    share: share / 100,
    light: LIGHTS.find((l) => l === d.light) ?? "not said",
    subjectMoves: d.subjectMoves,
    metered,
    brightness: d.metered.brightness,
    sensor: sensorIn(d),
  };
  return { ok: true, plan, shots: plannedVisits(plan).length * eachOf(plan) };
}

function spanOf({ fastest, slowest }: { fastest: string; slowest: string }, setting: string, errors: string[]): ExposureSpan | null {
  if (fastest.trim() === "" && slowest.trim() === "") return null;
  const [a, b] = [placeOfLabel(fastest, "third"), placeOfLabel(slowest, "third")];
  if (a === null || b === null) errors.push(`With it ${setting}: both times as on the dial, such as 1/60 and 1/4.`);
  else if (a > b) errors.push(`With it ${setting}: ${fastest} is slower than ${slowest}; the fastest comes first.`);
  else return { fastest: a, slowest: b };
  return null;
}
