// What the Hold room says. Times are printed at the next faster place of the dial: a claim is never rounded towards the hands.

import type { Reference } from "@keep-rolling/core/exposure";
import { labelAt } from "@keep-rolling/core/exposure";
import type { Grade, HeldBack, HoldPlan, HoldRead, SettingRead } from "@keep-rolling/core/holds";
import type { Gain, HoldClaim, HoldRefusal } from "@keep-rolling/core/statistics";

/** A time on the dial, as it was shot. */
export const dialWords = (x: number): string => labelAt(x, "third");
/** A time found, at the next faster third of a stop. */
export const claimWords = (x: number): string => `${labelAt(Math.floor(3 * x + 1e-6) / 3, "third")} s`;
/** The other side of an interval, at the next slower third. */
export const slowerWords = (x: number): string => `${labelAt(Math.ceil(3 * x - 1e-6) / 3, "third")} s`;

const GRADE_WORDS: Readonly<Record<Grade, string>> = { kept: "kept", lost: "lost", bad: "bad, not counted", taken: "taken" };
export const gradeWords = (g: Grade): string => GRADE_WORDS[g];

/** "8 of 10"; what is no tenth, of a hundred. */
export function shareWords(share: number): string {
  const tenths = Math.round(100 * share) / 10;
  return Number.isInteger(tenths) ? `${tenths} of 10` : `${Math.round(100 * share)} of 100`;
}

const REFERENCE_WORDS: Readonly<Record<Reference, string>> = {
  "1/equivalent": "1 / equivalent focal length",
  "1/actual": "1 / actual focal length",
  "1/twice-equivalent": "1 / twice the equivalent focal length",
  "1/twice-actual": "1 / twice the actual focal length",
  "one-pixel": "one pixel of blur on this sensor",
  off: "these hands with it off",
};
export const referenceWords = (r: Reference): string => REFERENCE_WORDS[r];

const REFUSALS: Readonly<Record<HoldRefusal, string>> = {
  "no-shots": "nothing shot yet",
  "one-rung": "shots at one time only: at two times and more a limit can be looked for",
  "too-few-shots": "fewer than eight shots: too few to say anything",
  "none-kept": "no dependable time found: nothing was kept",
  rising: "kept more often at slower times: check order, focus and light; no limit from these shots",
  "ladder-starts-too-slow": "even the fastest time is not sure enough: add faster ones",
  "outside-the-ladder": "no shots near that time",
};

const counts = ({ ladder }: SettingRead): string => {
  const [kept, shots] = [ladder.reduce((s, v) => s + v.kept, 0), ladder.reduce((s, v) => s + v.shots, 0)];
  return `${kept} of ${shots} kept`;
};

/** One setting in one sentence. */
export function settingWords(s: SettingRead): string {
  const head = `With it ${s.setting}`;
  const { claim } = s;
  if (claim.reason === "one-rung" && s.alone !== null) return `${head}: ${aloneWords(s.alone)}`;
  if (claim.claim === null) {
    const high = claim.interval?.high;
    const bound =
      high == null
        ? ""
        : ` The limit is faster than ${slowerWords(high)}.${claim.reason === "none-kept" ? " Start three stops faster." : ""}`;
    return `${head}: ${REFUSALS[claim.reason ?? "no-shots"]} (${counts(s)}).${bound}`;
  }
  const time = claimWords(claim.claim);
  if (claim.flags.includes("faster-than-any-shot"))
    return `${head}: by the curve ${time} or faster, and nothing that fast was shot: provisional, shoot a faster time.`;
  if (claim.flags.includes("at-least") && claim.interval?.high === null)
    return `${head}: at least ${time}. No limit was found on the slow side.`;
  return `${head}, dependable at ${time} or faster in sessions like this one: at least ${shareWords(s.share)} kept, 90 % sure.`;
}

const percentDown = (share: number): number => Math.floor(100 * share + 1e-9);
const percentUp = (share: number): number => Math.ceil(100 * share - 1e-9);
function aloneWords({ x, kept, shots, lower, upper }: NonNullable<SettingRead["alone"]>): string {
  const rate = `between ${percentDown(lower)} and ${percentUp(upper)} %`;
  return `${kept} of ${shots} kept at ${dialWords(x)} s. One exposure time says nothing of others: ${rate} are kept at it (exact limits, 90 % sure, if shots were independent).`;
}

/** One place of the table: the time, and what is to be known with it. */
export function cellWords(claim: HoldClaim): { time: string; note: string } {
  if (claim.claim === null) return { time: "", note: REFUSALS[claim.reason ?? "no-shots"] };
  const time = claimWords(claim.claim);
  if (claim.flags.includes("faster-than-any-shot")) return { time, note: "by the curve: provisional, shoot a faster time" };
  return { time, note: claim.interval?.high === null ? "at least: no limit found on the slow side" : "" };
}

/** For whom a claim speaks, by how many sessions it stands on. */
export function sessionsWords(n: number): string {
  if (n === 1) return "one session: like that day";
  return n === 2 ? "two sessions: like these two; a third lets it speak for new ones" : `${n} sessions: speaks for new ones of these hands`;
}

/** In which order a test is shot. */
export function orderWords({ order, spans }: Pick<HoldPlan, "order" | "spans">): string {
  if (order === "adaptive") return "each time chosen by what was seen";
  if (order === "shuffled") return "shuffled";
  if (spans.off !== null && spans.on !== null) return "off and on in turn";
  return spans.off === null ? "with it on only" : "with it off only";
}

const HELD_BACK: Readonly<Record<HeldBack, string>> = {
  unfinished:
    "Not all planned shots are there: whoever stops may have stopped because of what was seen, so everything is held back a little more.",
  changed:
    "Times, number of shots or the share asked were changed once some were judged: they may have been chosen by what was seen, so everything is held back a little more.",
  "kept-changed":
    "What counts as kept was changed once pictures were graded: it may have been chosen by what was seen, so everything is held back a little more.",
  adaptive:
    "Each time was chosen by what was seen before it, and is read so: everything is held back a little more than with times fixed beforehand.",
};
export const heldBackWords = (why: HeldBack): string => HELD_BACK[why];

/** No arithmetic allows for what was hoped for: it is only told. */
export const inViewWords = (n: number, of: number): string =>
  `${n === of ? (n === 1 ? "The one grade was" : `All ${n} grades were`) : `${n} of ${of} grades ${n === 1 ? "was" : "were"}`} given or changed with time and setting in view, not blind: what was hoped for may have been seen, and nothing here allows for that.`;

/** What the interval leaves open, and what was not counted. */
export function doubtWords({ claim, share, jump }: SettingRead): string[] {
  const { interval } = claim;
  const range = interval === null ? [] : [limitWords(interval.low, interval.high, share)];
  return [
    ...range,
    ...(jump === null || interval === null ? [] : [jumpWords(jump)]),
    ...claim.lone.map((x) => `the single one kept at ${dialWords(x)} s is not counted until it is repeated`),
  ];
}

function jumpWords({ kept, lost }: NonNullable<SettingRead["jump"]>): string {
  const next = lost - kept > 0.34 ? "a time between them says more" : "more shots at both say more";
  return `everything was kept down to ${dialWords(kept)} s and nothing from ${dialWords(lost)} s on; such a jump does not fix the point: ${next}`;
}

function limitWords(low: number | null, high: number | null, share: number): string {
  const head = `the time at which ${shareWords(share)} are kept lies`;
  if (low === null && high === null) return "nothing limits that time on either side";
  if (low === null) return `${head} at ${slowerWords(high ?? 0)} or faster; no limit on the fast side (90 % sure)`;
  if (high === null) return `${head} at ${claimWords(low)} or slower; no limit on the slow side (90 % sure)`;
  return `${head} between ${claimWords(low)} and ${slowerWords(high)} (90 % sure)`;
}

/** Outward to a tenth of a stop. */
const low1 = (v: number): string => (Math.floor(10 * v + 1e-9) / 10).toFixed(1);
const high1 = (v: number): string => (Math.ceil(10 * v - 1e-9) / 10).toFixed(1);

export function gainWords(gain: Gain | null): string | null {
  if (gain === null) return null;
  if (!gain.ok) return `Stops gained cannot be told: ${gain.reason === "too-few-sessions" ? "too few sessions" : REFUSALS[gain.reason]}.`;
  const { low, high } = gain;
  if (low === null && high === null) return "Stops gained cannot be told from these shots.";
  if (low === null) {
    const most = high ?? 0;
    return most < 0
      ? `With it on, faster times are needed: by at least ${low1(-most)} stops; no limit on that side.`
      : `At most ${high1(most)} stops gained; whether it helps cannot be told.`;
  }
  if (high === null)
    return low > 0
      ? `At least ${low1(low)} stops gained; no limit on the high side.`
      : `Whether it helps cannot be told yet: from ${low1(low)} stops on; no limit on the high side.`;
  if (low <= 0 && high >= 0) return `Whether it helps cannot be told yet: between ${low1(low)} and ${high1(high)} stops.`;
  return high < 0
    ? `With it on, faster times are needed: by ${low1(-high)} to ${high1(-low)} stops.`
    : `It lets these hands be slower by ${low1(low)} to ${high1(high)} stops.`;
}

/** The maker's stops beside what was measured. */
export function makersWords({ claimStops }: Pick<HoldPlan, "claimStops">, gain: Gain | null): string | null {
  if (claimStops === null || gain === null || !gain.ok) return null;
  const { low, high } = gain;
  const says = `The maker claims ${claimStops} stops, counted here from these hands with it off`;
  if (high !== null && high < claimStops) return `${says}: not reached by these hands; a laboratory method is not hands.`;
  if (low !== null && low > claimStops) return `${says}: these hands gain more.`;
  return `${says}: these shots neither reach nor rule it out.`;
}

/** What to work with: one to two stops faster than the limit, or a burst at it. */
export function workWords(s: SettingRead): string | null {
  const { claim, there } = s;
  if (claim.claim === null || there === null || claim.flags.includes("faster-than-any-shot")) return null;
  const burst =
    there.burst === null
      ? "no burst helps at the limit itself"
      : there.burst === 1
        ? "one frame is enough there for 95 %"
        : `or take ${there.burst} frames in a burst at ${claimWords(claim.claim)} for 95 % to have one kept (frames of one burst are partly one frame)`;
  return `Work with it ${s.setting} at ${claimWords(claim.claim - 2)} to ${claimWords(claim.claim - 1)}; ${burst}.`;
}

/** The whole page for a screen reader, or a letter. */
export const rulerWords = (read: HoldRead): string =>
  read.settings
    .map((s) => `stabiliser ${s.setting}: ${s.times.map((t) => `${t.kept} of ${t.shots} kept at ${dialWords(t.x)} s`).join(", ")}`)
    .join("; ");
