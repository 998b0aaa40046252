// What the walk pages say.

import { capital } from "@keep-rolling/core/format";
import type { ClipFlag, Measures } from "@keep-rolling/core/motion";
import type {
  ControlCheck,
  Forgotten,
  Locked,
  OddTake,
  Proposal,
  Reminder,
  SetupRow,
  Sync,
  WalkFinding,
  Whirr,
} from "@keep-rolling/core/walks";
import { percentWords } from "../../shared/walks/words.ts";
import type { NoSync } from "./useSync.ts";

const REMINDERS: Readonly<Record<Forgotten, (about: string) => string>> = {
  "no-moves": () => "No move is chosen.",
  "no-setups": () => "No setup is on the list.",
  "no-control": () => "No setup is the control. Without one nobody can say how much any setup helps.",
  "control-not-off": (name) => `"${name}" is the control, and something is on in it. A lens stabiliser left on is the usual one.`,
  "one-take": () => "One take each: no spread, so no way to tell a difference from chance. Three is usual.",
  "automatic-settings": (what) => `Automatic: ${what}. Takes may differ by that instead of by the setup.`,
  "settings-not-said": (what) => `Not said: ${what}.`,
  "slow-shutter": () => "The shutter is open for more than half the time of a frame: motion blur hides shake.",
  "shutter-not-said": () => "Shutter time (as 1/50) or frame rate is not known, so motion blur cannot be judged.",
  "unequal-crop": (what) =>
    `${what}: these cut into the picture, others do not. Shares of the width are compared as they are; the field kept stands beside.`,
  "bar-result": (what) => `${what}: a bar that carries two units is steadier than a hand. Its results are marked as such.`,
  "two-bodies": () => "Two bodies carried together are steadier than one in a hand: these are results of the pair.",
  "focal-not-said": () => "The focal length is not said. Every take must be at the same one.",
  "walker-not-said": () => "Who walks is not said; another walker is another test.",
  "walking-with-tripod": () => "A tripod is on the list of a walking move.",
};
export const reminderWords = ({ code, about }: Reminder): string => REMINDERS[code](about.join(", "));

const LOCKED_WORDS: Readonly<Record<Locked, string>> = {
  mode: "Recording mode",
  shutter: "Shutter",
  aperture: "Aperture",
  ISO: "ISO",
  ND: "ND filter",
  "white balance": "White balance",
  "focus distance": "Focus distance",
  sharpening: "Sharpening",
  "noise reduction": "Noise reduction",
};
export const lockedWords = (l: Locked): string => LOCKED_WORDS[l];

const FLAGS: Readonly<Record<ClipFlag, string>> = {
  "too-few-frames": "Too few frames to measure shake.",
  short: "Shorter than 3 s: numbers are rough.",
  "variable-rate": "The frame rate varies; the path was laid on an even one.",
  "low-texture": "Little to hold on to in the picture: less exact.",
  "not-followed": "Parts could not be followed at all.",
  parallax: "Near and far things move apart: shake may read up to a fifth too high, for any method.",
  "moving-subject": "A large part of the picture moves by itself; bending may read too high.",
  "beyond-search": "Movement at the edge of what is searched: shake may be more than it says.",
  "wobble-floor": "Bending at the floor of what compression shows by itself.",
  "no-wobble": "Bending could not be told.",
  panning: "Spans of panning are left out of shake.",
  jump: "The picture leapt in mid-walk.",
  "exposure-steps": "Exposure changed by more than 0.1 stop within two frames.",
  clipped: "Much of the picture is blown out.",
  dark: "Dark: noise adds to bending.",
  "small-picture": "A small picture: less exact.",
};
/** `told`: its shake could be told all the same. */
export const flagWords = (f: ClipFlag, told = true): string =>
  f === "not-followed" && !told ? "The picture could not be followed: of its way nothing is known." : FLAGS[f];

const NOTES: Readonly<Record<string, string>> = {
  interlaced: "Interlaced: combs read as shake up and down.",
  hdr: "Coded for a high-dynamic-range display: stops are not exact.",
  "cut-off": "The file ends before its index says.",
  "size-changed": "The picture's size changes in mid-clip; only the first part was measured.",
};
export const noteWords = (n: string): string => NOTES[n] ?? n;

const LEFT: Readonly<Record<NonNullable<Proposal["because"]>, string>> = {
  "no-time": "the file does not say when it was taken",
  "no-take-then": "no take was walked then",
  "between-takes": "it lies between two takes",
  "several-takes": "it runs through several takes",
  "take-has-clip": "its take has another clip",
  "card-not-said": "two bodies were carried, and it is not said from whose card it is",
  "no-take-free": "there is no take without a clip",
  "counts-differ": "there are not as many clips as takes, so their order says nothing",
  "lengths-differ": "in the order of their names a clip is far longer or shorter than its take",
};
export const leftWords = (because: NonNullable<Proposal["because"]>): string => LEFT[because];

const clockWords = (ms: number): string => `${Math.floor(ms / 60_000)}:${((ms % 60_000) / 1000).toFixed(1).padStart(4, "0")}`;
export const cutWords = (fromMs: number, toMs: number | null): string =>
  `${clockWords(fromMs)} to ${toMs === null ? "the end" : clockWords(toMs)}`;

const TROUBLES: Readonly<Record<string, string>> = {
  "no-clip": "is no MP4, MOV or WebM, whatever its name says",
  "no-picture": "holds sound or data, but no moving picture",
  "not-decoded": "cannot be decoded by this browser",
  "cut-off": "is cut off before its index: it was not closed, or not copied whole",
  "too-small": "is too small to be measured: at least 64 pixels a side are needed",
  "too-large": "is larger than 8192 pixels a side",
  unreadable: "cannot be decoded here",
  "no-frames": "gives not a single frame",
  "no-ffmpeg": "cannot be decoded by this browser, and the server's decoder is not installed yet: it comes a little after the first start",
  stuck: "gave nothing for a minute and was left",
};
export const troubleWords = (t: string): string => TROUBLES[t] ?? "could not be measured";

export const findingWords = ({ code, factIds }: WalkFinding): string => {
  const n = factIds.length;
  const WORDS: Readonly<Record<WalkFinding["code"], string>> = {
    "take-not-ended": "A take was not ended by a key; it counts to the start of the next.",
    "setup-gone": "A take names a setup or move that is no longer on the plan.",
    "end-of-no-take": "An end was pressed for a take that is not here.",
    "two-clips": "A take has more than one clip.",
    "take-without-clip": n === 1 ? "A take has no clip yet." : `${n} takes have no clip yet.`,
  };
  return WORDS[code];
};

/** A take walked faster, slower or in other light than the control. */
export function oddWords({ take, setup, paceHz, lightStops }: OddTake): string {
  const pace = Math.abs(paceHz ?? 0) > 0.15 ? `${signedWords(paceHz ?? 0, 2)} steps a second` : "";
  const light = Math.abs(lightStops) > 0.5 ? `${signedWords(lightStops, 1)} stops of light` : "";
  return `${capital(setup.name)}, take ${take.n}: ${[pace, light].filter((w) => w !== "").join(" and ")} against the control.`;
}
export const signedWords = (v: number, digits: number): string => `${v < 0 ? "−" : "+"}${Math.abs(v).toFixed(digits)}`;

export function controlWords(check: ControlCheck): string {
  if (check.ok) return check.says === "worst" ? "control shakiest, as it must be" : "";
  if (check.reason === "no control") return "no control";
  if (check.reason === "not measured") return "control not measured yet";
  if (check.reason === "not clear")
    return `the control is not clearly the shakiest: ${check.above.join(", ")} lies above it, which chance can do with so few takes`;
  return `the control is not the shakiest: ${check.worse.join(", ")} shook more in every take. Something else differed that day`;
}

/** Level of the quiet moments, against the control, and the tones that are the setup's own. */
export function whirrWords({ floorDb, overControlDb, tonesHz, takes }: Whirr): string {
  const level = `${signedWords(floorDb, 0)} dB in its quietest moments`;
  const against = overControlDb === null ? "" : `${signedWords(overControlDb, 1)} dB against the control`;
  const of =
    tonesHz === null
      ? ""
      : tonesHz.length === 0
        ? "no tone of its own heard"
        : `tones of its own at ${tonesHz.map((hz) => `${Math.round(hz)} Hz`).join(", ")}`;
  return [level, against, of, takes === 1 ? "one take only" : ""].filter((w) => w !== "").join(" · ");
}

/** What happened when in a take, in order; `startSec`: where it begins in its clip. Counted in frames, told in seconds. */
export function momentsOf({ dips, exposureSteps, jumps, pans, fps }: Measures, startSec: number): { atSec: number; words: string }[] {
  const at = (frame: number): number => startSec + frame / fps;
  const frames = (n: number): string => `${n} ${n === 1 ? "frame" : "frames"}`;
  const found = [
    ...dips.map((d) => ({
      atSec: at(d.startFrame),
      words: `${Math.round(100 * d.depthFrac)} % softer than around it for ${frames(d.endFrame - d.startFrame + 1)}, ${d.recoveryFrames === null ? "not back before the end" : `back ${frames(d.recoveryFrames)} after the softest`}`,
    })),
    ...exposureSteps.map((e) => ({ atSec: at(e.frame), words: `exposure ${signedWords(e.stops, 2)} stops` })),
    ...jumps.map((j) => ({ atSec: at(j), words: "the picture leapt" })),
    ...pans.map((p) => ({ atSec: at(p.startFrame), words: `panning until ${at(p.endFrame).toFixed(2)} s, left out of shake` })),
  ];
  return found.sort((a, b) => a.atSec - b.atSec);
}

/** How two bodies' clips of one walk lie to each other. */
export function syncWords(sync: Sync | NoSync): string {
  if (typeof sync === "string") return NO_SYNC[sync];
  const { lagSec, by, correlation } = sync;
  const when =
    Math.abs(lagSec) < 0.005
      ? "both begin together"
      : `its clip begins ${Math.abs(lagSec).toFixed(2)} s ${lagSec > 0 ? "later" : "earlier"}`;
  const how = by === "sound" ? "by sound" : by === "path" ? "by how both go up and down" : "by sound, then by how both go up and down";
  return `${when}, ${how} (${(Math.floor(100 * correlation) / 100).toFixed(2)} alike)`;
}

const NO_SYNC: Readonly<Record<NoSync, string>> = {
  "nothing alike": "neither sound nor path says how they lie to each other",
  "not measured": "how they lie to each other is told once both clips are measured here, each whole",
  "not read": "their paths could not be read just now; reload the page when the server answers",
};

const LITTLE = "less than half below the control";
const PARTS = ["", "", "half", "a third", "a quarter", "a fifth", "a sixth", "a seventh", "an eighth", "a ninth", "a tenth"];

/** What the rows say at once. No setup is called better than another here: that needs the spread of repeats. */
export function sentenceOf(rows: readonly SetupRow[]): string {
  const measured = rows.filter((r) => r.jitterFrac !== null);
  const [least] = measured;
  if (least === undefined)
    return rows.some((r) => r.leftOut.some((t) => t.measures !== null))
      ? "Every measured take of this move was left out."
      : "Nothing is measured for this move yet.";
  const control = measured.find((r) => r.isControl);
  const shown = percentWords(least.jitterFrac ?? 0);
  const shake = `${shown} % of the picture's width`;
  // What reads the same is named together.
  const tied = measured.filter((r) => percentWords(r.jitterFrac ?? 0) === shown);
  const names = tied.map((r) => r.setup.name).join(" and ");
  if (measured.length === 1) return `${capital(least.setup.name)}: shake ${shake}. There is nothing to compare it with yet.`;
  if (control === undefined || tied.includes(control)) return `Least shake so far: ${names}, ${shake}.`;
  // Rounded down: a setup is never made out to help more than it did.
  const times = (control.jitterFrac ?? 0) / Math.max(...tied.map((r) => r.jitterFrac ?? 1));
  const part =
    times >= 11 ? `1/${Math.floor(times)} of the control` : times >= 2 ? `${PARTS[Math.floor(times)] ?? "a tenth"} of the control` : LITTLE;
  return `Least shake so far: ${names}, ${shake}, ${part}.`;
}
