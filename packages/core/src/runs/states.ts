// States, not ticks: the warning as it stands, what the camera says is left against what was truly left, and the surroundings as they
// changed while it ran.

import { isLit } from "../kit/index.ts";
import type { RunFold } from "./fold.ts";
import { isForeign } from "./mark.ts";
import type { ConditionSnapshot, ContinuityRule } from "../kit/index.ts";
import { observe } from "./observe.ts";
import type { Endpoint, Observation } from "./observe.ts";
import { recordedAt } from "./summarise.ts";
import type { ConditionChange } from "./vocabulary.ts";

export interface CountdownCheck {
  markId: string;
  atMs: number;
  saidMs: number;
  /** Recorded ms from then to the shutdown; "at least" this long unless `exact`. */
  leftMs: number;
  /** Heat ended it, at a time that is known. */
  exact: boolean;
}

/** Every time the camera said how long it has left (a warning's minutes, a reading's seconds), beside what was left. In order of time. */
export function checkCountdowns(fold: RunFold, nowMs: number): CountdownCheck[] {
  const untilMs = fold.end?.loMs ?? nowMs;
  const exact = fold.end?.cause === "thermal shutdown" && fold.end.loMs === fold.end.hiMs;
  return saidLeft(fold)
    .filter((s) => s.atMs <= untilMs)
    .map((s) => ({ ...s, leftMs: recordedAt(fold, untilMs) - recordedAt(fold, s.atMs), exact }));
}

function saidLeft(fold: RunFold): { markId: string; atMs: number; saidMs: number }[] {
  return fold.effective.flatMap((m) => {
    if (isForeign(m)) return [];
    const min = m.kind === "warning" && m.body.phase !== "cleared" ? m.body.minutesLeft : undefined;
    const sec = m.kind === "reading" ? m.body.countdownSec : undefined;
    const saidMs = min === undefined ? (sec === undefined ? null : sec * 1000) : min * 60_000;
    return saidMs === null ? [] : [{ markId: m.id, atMs: m.atMs, saidMs }];
  });
}

/** Whether fan, sun, screen and place were as at the start when it ended, as answered last; null: nobody was asked. */
export function asAtTheStart(fold: RunFold): boolean | null {
  const said = fold.checks.findLast((m) => m.body.item === "as at the start" && m.body.result !== "not tried");
  return said === undefined ? null : said.body.result === "yes";
}

export interface WarningNow {
  level: "shown" | "escalated";
  sinceMs: number;
  /** What is left by the camera's last word, less what has been recorded since; negative: it runs on beyond it. Null: it said nothing. */
  saidLeftMs: number | null;
}

/** The warning as it stands; null without one, or once it has cleared. */
export function warningNow(fold: RunFold, nowMs: number): WarningNow | null {
  const open = fold.warnings.findLast((w) => w.clearedMs === null);
  if (open === undefined) return null;
  const said = checkCountdowns(fold, nowMs).findLast((c) => c.atMs >= open.shownMs);
  const escalatedMs = open.escalatedMs[0];
  return {
    level: escalatedMs === undefined ? "shown" : "escalated",
    sinceMs: escalatedMs ?? open.shownMs,
    saidLeftMs: said === undefined ? null : said.saidMs - said.leftMs,
  };
}

type Surroundings = Pick<ConditionSnapshot, "screen" | "sun" | "air">;
export interface ConditionSpan extends Surroundings {
  fromMs: number;
  /** Null: until now, or the run's end. */
  toMs: number | null;
}

const CHANGED: Readonly<Partial<Record<ConditionChange, (said: Surroundings) => Partial<Surroundings>>>> = {
  "screen woke": () => ({ screen: "lit" }),
  "screen dark": () => ({ screen: "dark" }),
  "sun came": () => ({ sun: "direct" }),
  "sun gone": (said) => ({ sun: said.sun === "direct" ? "shade" : said.sun }),
  "fan on": () => ({ air: "fan" }),
  "fan off": (said) => ({ air: said.air === "fan" ? "still" : said.air }),
};

/** Screen, sun and air over the run: as said at the start, then as the condition marks changed them. Empty without a start. */
export function conditionSpans(fold: RunFold): ConditionSpan[] {
  if (fold.setup === null || fold.startMs === null) return [];
  const { screen, sun, air } = fold.setup.condition;
  const said = { screen, sun, air };
  const spans: ConditionSpan[] = [{ fromMs: fold.startMs, toMs: null, ...said }];
  for (const { atMs, change } of fold.changes) {
    const last = spans.at(-1) as ConditionSpan;
    const { fromMs: _f, toMs: _t, ...before } = last;
    const next = { ...before, ...CHANGED[change]?.(said) };
    if (next.screen === before.screen && next.sun === before.sun && next.air === before.air) continue;
    last.toMs = atMs;
    spans.push({ fromMs: atMs, toMs: null, ...next });
  }
  return spans;
}

const lit = isLit;

/** Share of the recorded time under another screen, sun or air than the condition says; 0 to 1. */
export function otherConditionShare(fold: RunFold): number {
  const spans = conditionSpans(fold);
  const [said] = spans;
  const endMs = fold.end?.loMs;
  if (said === undefined || endMs === undefined) return 0;
  const whole = recordedAt(fold, endMs);
  const other = spans.filter((s) => lit(s.screen) !== lit(said.screen) || s.sun !== said.sun || s.air !== said.air);
  const ms = other.reduce(
    (sum, s) => sum + recordedAt(fold, Math.min(s.toMs ?? endMs, endMs)) - recordedAt(fold, Math.min(s.fromMs, endMs)),
    0,
  );
  return whole <= 0 ? 0 : ms / whole;
}

export interface GapReading {
  rule: ContinuityRule;
  seen: Observation;
}

/** The other school of reading gaps: strict where the rule is lenient, lenient where it is strict. */
export const otherRule = (rule: ContinuityRule): ContinuityRule =>
  rule.poweredOff === "strict"
    ? { poweredOff: "lenient", bridgeBodyOnMs: Number.MAX_SAFE_INTEGER }
    : { poweredOff: "strict", bridgeBodyOnMs: 20_000 };

/** One run read by its own rule and by the other school's; `differ` when the choice changes what it says. */
export function bothReadings(fold: RunFold, endpoint: Endpoint): { own: GapReading; other: GapReading; differ: boolean } | null {
  const rule = fold.setup?.protocol.continuity;
  if (rule === undefined) return null;
  const read = (r: ContinuityRule): GapReading => ({ rule: r, seen: observe(fold, r, endpoint) });
  const [own, other] = [read(rule), read(otherRule(rule))];
  return { own, other, differ: JSON.stringify(own.seen) !== JSON.stringify(other.seen) };
}
