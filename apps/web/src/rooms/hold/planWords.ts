// What is said of a plan before the first shot: what to set, what would spoil it, what testers forget.

import type { ToSet } from "@keep-rolling/core/exposure";
import { fNumberLabel, isoLabel, SEEN_STOPS } from "@keep-rolling/core/exposure";
import type { HoldPlan } from "@keep-rolling/core/holds";
import { plannedVisits, planWarnings } from "@keep-rolling/core/holds";
import { dialWords } from "./words.ts";

const stopsWords = (v: number): string => `${Number(v.toFixed(1))} ${Math.abs(v) === 1 ? "stop" : "stops"}`;

/** "ISO 800, f/4, filter of 3 stops". */
export function toSetWords({ iso, fNumber, filters, tooBright }: ToSet): string {
  const glass =
    filters.length === 0
      ? []
      : [`${filters.length === 1 ? "filter" : "filters"} of ${filters.map((f) => Number(f.toFixed(2))).join(" and ")} stops`];
  const off =
    Math.abs(tooBright) <= SEEN_STOPS ? [] : [`${stopsWords(Math.abs(tooBright))} too ${tooBright > 0 ? "bright" : "dark"} all the same`];
  return [`ISO ${isoLabel(iso)}`, `f/${fNumberLabel(fNumber)}`, ...glass, ...off].join(", ");
}

const timesWords = (xs: readonly number[]): string => xs.map(dialWords).join(", ");

/** Hours and minutes, up. */
function longWords(sec: number): string {
  const minutes = Math.ceil(sec / 60);
  return minutes < 60 ? `${minutes} minutes` : `${Math.floor(minutes / 60)} h ${minutes % 60} min`;
}

/** @param sharedSwitch the kit says that this lens has one switch with the body */
export function remindersOf(plan: HoldPlan, sharedSwitch = false): string[] {
  const xs = plannedVisits(plan).map((v) => v.x);
  const adaptive = plan.order === "adaptive";
  const { unequal, flicker, minutes, openSec } = planWarnings(plan);
  return [
    ...(plan.spans.off === null || plan.spans.on === null ? ["Only one of off and on: stops gained cannot be told."] : []),
    ...(plan.shotsEach < 3 && !adaptive ? ["Fewer than three shots at each time: a keep rate needs more."] : []),
    ...(xs.length > 0 && new Set(xs).size < 3 ? ["Fewer than three times: the limit lies somewhere between, and cannot be placed."] : []),
    ...(plan.equivalentMm === null && /equivalent/.test(plan.reference)
      ? ["The equivalent focal length is not known: no rule of thumb is drawn."]
      : []),
    ...(plan.reference === "one-pixel" && plan.sensor === null
      ? ["One pixel of blur needs the body's sensor (choose a body of the kit) and the pixels across: no rule is drawn."]
      : []),
    ...(plan.share === 0.8
      ? []
      : ["Only 8 of 10 has been proven by simulation; another share is read the same way, and less is known of how well."]),
    ...(xs.some((x) => x > 2) ? ["Times beyond 4 s are for a support; each shot costs its length."] : []),
    ...(minutes.length > 0
      ? [`${timesWords(minutes)} s: a minute and more each; the shutter alone is open for ${longWords(openSec)}. Plan few of these.`]
      : []),
    ...(unequal.length > 0
      ? [
          `The picture cannot be kept as bright at ${unequal.map((u) => `${dialWords(u.x)} s (${stopsWords(Math.abs(u.tooBright))} too ${u.tooBright > 0 ? "bright" : "dark"})`).join(", ")}: leave these times out, or change light, filters or limits.`,
        ]
      : []),
    ...(plan.brightness === "fixed"
      ? ["Sensitivity stays: faster pictures are darker, and darkness is easily taken for softness. Judge by edges."]
      : []),
    ...flickerWords(plan, flicker),
    ...(plan.subjectMoves
      ? ["What moves blurs by itself at slow times: the limit found is then its own, not the hands'. Choose something that stands still."]
      : []),
    ...(sharedSwitch
      ? ["This lens shares its switch with the body: off and on turn both. Look at the camera's screen each time it is changed."]
      : plan.spans.on === null
        ? []
        : ["Where the lens has a switch of its own, it may decide for the body too: look at the camera's screen each time it is changed."]),
    ...(plan.metered === null
      ? ["Keep the picture as bright at every time, by sensitivity, aperture or a filter; and judge on something that stands still."]
      : []),
  ];
}

function flickerWords({ light, spans }: HoldPlan, flicker: readonly { x: number; stops: number }[]): string[] {
  if (light === "not said") {
    const fast = [spans.off, spans.on].some((s) => s !== null && s.fastest < -4.5);
    return fast
      ? ["Lamps on the mains flicker 100 or 120 times a second: say what lights the scene, or shoot fast times in daylight."]
      : [];
  }
  if (flicker.length === 0) return [];
  const worst = Math.max(...flicker.map((f) => f.stops));
  return [
    `Under these lamps pictures at ${timesWords(flicker.map((f) => f.x))} s may differ in brightness, at worst by ${worst > 4 ? "all of it" : stopsWords(worst)}: use daylight or lamps that do not flicker, or judge by edges alone.`,
  ];
}

/** What an adaptive test may be expected to know. Widths by the simulation of hold-threshold tests. */
export const ADAPTIVE_EXPECTED =
  "Each next time is the one that narrows the limit most, two shots at a time; a single one kept is repeated before it counts. After 25 shots of one setting a limit is usually known to 2 to 3.3 stops, after 40 to 1.4 to 2.7; it ends by itself below 0.7, which few reach, or at 60. End whenever you like: what is said holds for that.";
