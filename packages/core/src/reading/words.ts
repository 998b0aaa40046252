// The findings in plain words. Shares of cost are rounded to whole per cent outwards; limits down; nothing here computes.

import type { TemperatureUnit } from "../format/index.ts";
import { fahrenheitSpan, formatDay, formatHms, formatShareDown, formatTick, listWords } from "../format/index.ts";
import type { Change } from "./beforeAfter.ts";
import type { Cause } from "./causes.ts";
import type { Cost, Difference, Range } from "./differences.ts";
import type { Effect, EffectsResult, Factor } from "./effects.ts";
import type { CellLimit } from "./limit.ts";
import type { Levelling, LevellingRefusal } from "./levelling.ts";
import type { RatingCheck } from "./rating.ts";
import type { Unsaid } from "./records.ts";
import type { RecoveryResult } from "./recovery.ts";
import type { Belief } from "./warnings.ts";

/** Outwards to whole numbers; what stands on one up to binary noise stays. */
const down = (v: number): number => Math.floor(v + 1e-9);
const up = (v: number): number => Math.ceil(v - 1e-9);

export const hms = (sec: number): string => formatHms(Math.floor(sec) * 1000);
const minutes = (sec: number): string => `${Math.ceil(sec / 60)} min`;

const several = (n: number, one: string, many = `${one}s`): string => `${n} ${n === 1 ? one : many}`;
const share = (v: number): string => `${(100 * v).toFixed(1)} %`;

/** "on days like 11 June 2026 and 12 June 2026"; from three days on a claim is for new days too. */
export function daysWords(limit: Pick<CellLimit & { ok: true }, "scope" | "days">): string {
  if (limit.scope === "new days") return `on new days too, from ${several(limit.days.length, "day")}`;
  return limit.days.length === 0 ? "on days like these" : `on days like ${limit.days.map(formatDay).join(" and ")}`;
}

/** What was computed, in one sentence, with what is taken for granted. */
export function methodWords(limit: Extract<CellLimit, { from: object }>): string {
  const { from } = limit;
  const basis = `${several(from.shutdowns, "end")} in ${several(from.runs, "run")} of ${from.cells === 1 ? "this mode and condition" : `${from.cells} modes and conditions`}`;
  const days =
    limit.scope === "new days"
      ? "Runs of one day are taken as alike, so it speaks for new days."
      : "With fewer than three days it says nothing of other days.";
  return `One estimate from ${basis}: how widely runs scatter is learnt from all of them, each mode and condition keeps a middle of its own, and of five laws of how runs end (lognormal, Weibull, and a body nearing its highest heat with three time constants) the lowest counts. Scatter of these runs ${share(limit.scatter)}. ${days} In simulation what is claimed at 90 % covered 88 % to 99 % whole and at least 84 % in the worst case (docs/methods/dependable-limit.md).`;
}

/** Why nothing may be claimed yet, and what would change that, in runs and days. */
export function missingWords(limit: CellLimit & { ok: false }): string {
  switch (limit.because) {
    case "no-shutdown":
      return "No counted run here is known to have reached the end asked for: let one run to its end, or record the shortest run as it is.";
    case "single-run":
      return "Only one run reached its shortest end: 1 more run, at best on another day.";
    case "too-few-elsewhere":
      return "One end here, and other modes and conditions do not tell enough of how this body scatters: 1 more end here, or 6 ends in 2 others.";
    case "scatters-widely":
      return `These runs scatter by ${share(limit.scatter)}, more than runs of one kind do: find what differs (see Why runs differ), or make five that reach the end.`;
  }
}

/** "if it scatters like the others: at least 0:25:57"; a lesser line, no claim. */
export const likeOthersWords = (limit: CellLimit & { ok: false }): string | null =>
  !("likeOthersMs" in limit) || limit.likeOthersMs === null
    ? null
    : `If it scatters like the unit's other runs: at least ${formatHms(limit.likeOthersMs)}. One run does not show that it does, so nothing is claimed.`;

/** What stands beside a claim and weakens it. */
export function cautionWords(limit: CellLimit & { ok: true }, ownRuns: number): string[] {
  const said: string[] = [];
  if (ownRuns < 3 && limit.from.cells > 1)
    said.push("Two runs here lean on how the unit's other runs scatter: a third is the next to make.");
  if (limit.unlikeTheRest)
    said.push("These runs most likely scatter more than twice as widely as the unit's others: look for what differs.");
  if (limit.scope === "tested days") {
    const more = 3 - Math.max(1, limit.days.length);
    said.push(`It speaks of days like those tested: runs on ${several(more, "more day")} and it speaks for new days.`);
  }
  return said;
}

const CAUSE_WORDS: Readonly<Record<Cause, string>> = {
  "direct sun": "direct sun",
  breeze: "a breeze",
  fan: "a fan",
  "screen lit": "a lit screen",
  "outside power": "outside power",
  "high power-off setting": "the high power-off setting",
  "autofocus hunting": "hunting autofocus",
  "newer firmware": "the newer firmware",
  pauses: "a pause",
  "start heat": "each tenth of a shutdown's heat left in it at the start",
  ambient: "each degree of ambient",
};
export const causeWords = (cause: Cause): string => CAUSE_WORDS[cause];

/** "costs 24 %, between 12 and 34" or "gains 18 %, between 4 and 35"; "no effect can be told, between −5 % and +12 %". */
export function factorWords({ mid, lo, hi }: Factor): string {
  const cost = (f: number): number => 100 * (1 - f);
  if (hi < 1) return `costs ${Math.round(cost(mid))} %, between ${down(cost(hi))} and ${up(cost(lo))}`;
  if (lo > 1) return `gains ${Math.round(-cost(mid))} %, between ${down(-cost(lo))} and ${up(-cost(hi))}`;
  return `no effect can be told, between ${signed(-up(cost(lo)))} and ${signed(up(-cost(hi)))}`;
}
const signed = (v: number): string => `${v < 0 ? "−" : "+"}${Math.abs(v)} %`;

export function effectWords({ cause, together, factor }: Effect): string {
  const with_ = together.length === 0 ? "" : `, together with ${together.map(causeWords).join(" and ")},`;
  return `${causeWords(cause)}${with_}${factor.lo <= 1 && factor.hi >= 1 ? ":" : ""} ${factorWords(factor)}`;
}
const minutesBetween = ({ lo, hi }: Range): string => {
  const [a, b] = [Math.floor(lo / 60 + 1e-9), Math.ceil(hi / 60 - 1e-9)];
  return a === b ? `${a} min` : `${a} to ${b} min`;
};

/** One cost: "started with 70 % heat left: 28 to 41 min, by this body's recoveries". */
export function costWords({ what, amount, sec, from, weak }: Cost, unit: TemperatureUnit = "C"): string {
  const named =
    what === "start heat"
      ? `started with ${Math.round(100 * amount)} % heat left`
      : what === "ambient"
        ? `${Math.abs(unit === "C" ? amount : fahrenheitSpan(amount)).toFixed(0)} °${unit} ${amount > 0 ? "warmer" : "cooler"}`
        : causeWords(what);
  if (sec === null) return `${named}: what that does is not known here`;
  const by = from === "recoveries" ? "by this body's recoveries" : from === "the body's law" ? "by the body's law" : `by ${from}`;
  if (sec.lo < -30 && sec.hi > 30)
    return `${named}: no cost can be told (${Math.floor(sec.lo / 60)} to ${Math.ceil(sec.hi / 60)} min), ${by}`.replace("(-", "(−");
  const took = sec.hi <= 0 ? `gave ${minutesBetween({ lo: -sec.hi, hi: -sec.lo })}` : `took ${minutesBetween(sec)}`;
  return `${named}: ${took}, ${by}${weak ? ", from usual values" : ""}`;
}

/** What the named causes leave of a difference. */
export function leftWords({ left, explained, costs }: Difference): string {
  if (costs.length === 0 && explained) return "nothing that was recorded differs, and runs of one kind scatter so much";
  if (explained) return "nothing is left unexplained";
  const [lo, hi] = [Math.floor(Math.abs(left.lo) / 60), Math.ceil(Math.abs(left.hi) / 60)];
  return left.lo > 0
    ? `${lo === hi ? lo : `${lo} to ${hi}`} min are left unexplained: look for what was not recorded`
    : "together these causes would have taken more: one of them is overstated here";
}

export function effectsRefusal(e: EffectsResult & { ok: false }): string {
  switch (e.reason) {
    case "too-few-runs":
      return `${e.runs} runs are too few to tell causes apart: there must be two more shutdowns than causes and modes.`;
    case "nothing-varies":
      if (e.unbounded !== undefined && e.unbounded.length > 0)
        return `No run ${listWords(e.unbounded.map((u) => `${u.value ? "with" : "without"} ${causeWords(u.cause)}`))} ended by heat unbroken, so no effect can be given; in nothing else that was recorded do the runs left differ.`;
      if (e.runs === 0) return "No run of this unit is known to have reached the end asked for, so nothing is known of how they differ.";
      if (e.runs === 1) return "There is one run to go by; a second one would show whether they differ.";
      return "Nothing that was recorded differs between these runs, or it always came with one mode.";
    case "no-fit":
      return "No fit exists: a cause may separate the runs that ended by heat from those that did not.";
  }
}

const UNSAID: Readonly<Record<Unsaid, string>> = {
  "start state not known": "runs whose start state was not recorded: measure it, or note the hours since it was last on",
  "warning not recorded":
    "runs of which nobody recorded whether a warning came, such as those entered late: add it to the run if you know, and it counts",
  "end not said": "nobody said what ended some: it may have been heat, and the reading that claims less is taken; say it on the run",
  "stopped because hot": "some were stopped because the body was hot: heat was near, and no method repairs that; let a run go to its end",
  "ambient guessed": "the ambient was not measured in some, but guessed, taken over from the run before, or not recorded: measure it",
  pauses: "some were paused: a powered-off gap cools",
  "ambient spread": "the room was not the same",
  "start heat": "by our estimate some still carried heat at the start",
};
export const unsaidWords = (u: Unsaid): string => UNSAID[u];

const NOT_TOLD: Readonly<Record<LevellingRefusal, string>> = {
  "surroundings-changed": "Cannot tell: fan, sun, screen, power or place changed while it ran, or was not as at the start when it ended.",
  "too-few-readings": "Cannot tell: fewer than three readings of the gauge after the first minutes.",
  "too-short": "Cannot tell: shorter than the body's time constant, it says how fast it rose, not where it leads.",
  "gauge-fell": "Cannot tell: the gauge fell; something changed around it.",
  "not-one-rise": "Cannot tell: the readings do not follow one rise; something changed around it.",
  "shutdown-level-not-known": "This body has not shut down yet with readings, so nobody knows at which step it does.",
};

/** Of the gauge's steps; times and limits rounded against us. `asAtTheStart`: answered at the end of the run. */
export function levellingWords(l: Levelling, asAtTheStart: boolean | null = null): string {
  if (!l.ok) return NOT_TOLD[l.reason];
  switch (l.verdict) {
    case "levels off":
      return `Levels off below shutdown: plateau at most step ${(Math.ceil(l.upper * 10) / 10).toFixed(1)} (90 % sure)${asAtTheStart === true ? "; fan, sun, screen and place were as at the start" : ", if nothing around it changed"}.`;
    case "still climbing":
      return `Still climbing: shutdown between ${formatTick(l.rangeSec.lo * 1000)} and ${formatTick(Math.ceil(l.rangeSec.hi / 60) * 60_000)} (8 of 10), if nothing changes.`;
    case "cannot tell":
      if (l.tells === null)
        return "Cannot tell: the plateau lies about at shutdown, and readings will not tell within two hours; let it run to its end, or run it in a room three degrees warmer.";
      return `Cannot tell yet: ${l.tells.mostly ? `about ${l.tells.afterMin} more minutes would tell` : `${l.tells.afterMin} more minutes would tell in about half the cases`}.`;
  }
}

export function recoveryWords(fit: RecoveryResult): string {
  if (fit.ok)
    return `${minutes(fit.rest80Sec)} of rest give back four fifths of the cold time; rely on ${minutes(fit.rest80Safe)} (slow end of the range).`;
  switch (fit.reason) {
    case "too-few-recoveries":
      return fit.n === 0
        ? "No recovery run yet: after a shutdown rest, start the same mode again, and see."
        : "One recovery run: a second after another rest shows how it comes back.";
    case "one-rest":
      return "All recoveries came after the same rest: try another.";
    case "no-cold-time":
      return "No cold time to hold recoveries against: let a run from cold end by heat without a gap here first.";
    case "cold-time-open":
      return "The cold time to hold recoveries against is not known: too many runs here were cut off. Let another from cold end by heat.";
  }
}

/** `confidence`: that with which the belief was read. */
export function beliefWords(b: Belief, confidence: number): string {
  const sure = `${formatShareDown(confidence)} sure`;
  if (!b.ok) return "No minutes left are on record in a run that ended by heat.";
  const runs = b.runs === 1 ? "1 run" : `${b.runs} runs`;
  switch (b.verdict) {
    case "keeps its word":
      return `In all ${runs} at least as many minutes were left as shown: at least ${formatShareDown(b.keptShare)} of runs keep it, ${sure}.`;
    case "promises too much":
      return `Do not believe it: in ${b.runs - b.kept} of ${runs} fewer minutes were left than shown, once only ${formatShareDown(b.worstRatio)} of them.`;
    case "cannot tell":
      return `It was kept in ${runs}, too few to rely on (at least ${formatShareDown(b.keptShare)} of runs, ${sure}).`;
  }
}

/** `confidence`: that with which the check was made. */
export function ratingWords(c: RatingCheck, confidence: number): string {
  const sure = `${formatShareDown(confidence)} sure`;
  const n = c.outlasted.length + c.fellShort.length;
  const k = c.maybeShort.length;
  const maybe =
    k === 0
      ? ""
      : ` ${k === 1 ? "One other" : `${k} others`} heat may have ended before it, for all that was said: counted against the share.`;
  switch (c.verdict) {
    case "holds":
      return `It holds: ${c.outlasted.length} of ${n} runs that can speak outlasted it, ${c.provedBy === "limit" ? "and the dependable limit lies beyond it" : `and that alone is at least ${formatShareDown(c.atLeast ?? 0)} of runs, ${sure}`}.${maybe}`;
    case "not contradicted":
      return `Not contradicted: ${n === 1 ? "the one run" : `all ${n} runs`} that can speak outlasted it; that is at least ${formatShareDown(c.atLeast ?? 0)} of runs, ${sure}, and not yet a proof.${maybe}`;
    case "falls short":
      return `It does not hold: ${c.fellShort.length} of ${n} runs that can speak ended by heat before it; at most ${Math.ceil(100 * (c.atMost ?? 1))} % of runs reach it, ${sure}.`;
    case "cannot tell":
      return n === 0
        ? "No run can speak about it yet: in surroundings like its own none outlasted it, and none is known to have ended by heat before it."
        : `Cannot tell: ${c.fellShort.length} of ${n} runs that can speak ended before it, too few to judge.`;
    case "no limit stated":
      if (n === 0 && c.silent.length === 0) return "The maker states no limit. No run of yours counts here yet.";
      return n === 0
        ? "The maker states no limit, and no run of yours is known to have ended by heat in surroundings like its own."
        : `The maker states no limit; ${n === 1 ? "one run" : `${n} runs`} ended by heat all the same, in surroundings like its own.`;
  }
}

export function changeWords(c: Change): string {
  if (!c.ok)
    return c.reason === "no-fit"
      ? "No fit exists."
      : `Too few runs ended by heat: two on either side are the least (now ${c.n.before} and ${c.n.after} runs).`;
  const percent = (f: number): string => signed(Math.round(100 * (f - 1)));
  // Several pairs looked at together: each interval is wider, so that all hold together.
  const interval = c.confidence > 0.9 + 1e-9 ? `${formatShareDown(c.confidence)} interval (90 % for all pairs together)` : "90 % interval";
  const range = `${signed(down(100 * (c.ratio.lo - 1)))} to ${signed(up(100 * (c.ratio.hi - 1)))}`;
  switch (c.verdict) {
    case "longer":
      return `Lasts longer: ${percent(c.ratio.mid)}, ${interval} ${range}.`;
    case "shorter":
      return `Lasts shorter: ${percent(c.ratio.mid)}, ${interval} ${range}.`;
    case "same within the margin":
      return `The same within ${Math.round(100 * c.margin)} %: ${percent(c.ratio.mid)}, ${interval} ${range}.`;
    case "cannot tell yet":
      return `Cannot tell yet: ${percent(c.ratio.mid)}, ${interval} ${range}. More runs on both sides narrow it.`;
  }
}
