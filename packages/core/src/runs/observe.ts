// From a finished run to one observation for statistics: how long, and did the endpoint happen. Anything but the endpoint is
// right-censored: "at least this long". Times are recorded milliseconds; claims use lo.

import type { RunFold } from "./fold.ts";
import type { ContinuityRule } from "../kit/index.ts";
import { recordedAt, summarise } from "./summarise.ts";
import type { Interval } from "./summarise.ts";
import type { Gap } from "./timeline.ts";

export const ENDPOINTS = ["shutdown", "firstWarning", "batteryEmpty"] as const;
export type Endpoint = (typeof ENDPOINTS)[number];

export type ObservationBecause =
  | "thermal shutdown"
  | "first warning"
  | "battery empty"
  | "broken by a powered-off gap"
  | "broken by pauses beyond the rule"
  | "ended otherwise"
  | "end not said"
  | "ended before a warning";

export type Observation =
  | {
      ok: true;
      timeMs: Interval;
      event: 0 | 1;
      because: ObservationBecause;
      brokenAtGap: string | null;
      /** The endpoint came after the break, at this recorded time: a gap only cools, so unbroken it would have come no later. */
      noLaterMs: number | null;
      /** It may have come by then, for all that anybody said: the cause of the end is not known, or it was stopped because it was hot. */
      maybeByMs: number | null;
    }
  | { ok: false; reason: "no-start" | "void" | "not-ended" | "refused" };

/** Default school: strict for powered-off gaps, body-on gaps bridged up to 20 s in all. Common practice, no source. */
export const DEFAULT_RULE: ContinuityRule = { poweredOff: "strict", bridgeBodyOnMs: 20_000 };
export const LENIENT_RULE: ContinuityRule = { poweredOff: "lenient", bridgeBodyOnMs: Number.MAX_SAFE_INTEGER };

/** True when the body would not record at all: ended by heat with nothing recorded. A result, but never part of a cold cell. */
export function isRefusal(fold: RunFold): boolean {
  return fold.state === "ended" && fold.end?.cause === "thermal shutdown" && summarise(fold, 0).recordedMs.hi === 0;
}

/**
 * One run under one continuity rule. A run broken by the rule is censored at the start of the gap that broke it; a stricter
 * rule never lengthens the time. Uncertain ends give lo < hi; a break or a warning before the uncertain part is exact.
 */
export function observe(fold: RunFold, rule: ContinuityRule, endpoint: Endpoint): Observation {
  if (fold.state === "void") return { ok: false, reason: "void" };
  if (fold.startMs === null) return { ok: false, reason: "no-start" };
  if (fold.end === null) return { ok: false, reason: "not-ended" };
  if (isRefusal(fold)) return { ok: false, reason: "refused" };
  const gap = breakingGap(fold, rule);
  const stopMs = gap?.fromMs ?? fold.end.hiMs;
  const warnedMs = fold.warnings[0]?.shownMs;
  if (endpoint === "firstWarning" && warnedMs !== undefined && warnedMs <= stopMs) {
    return exactly(recordedAt(fold, warnedMs), 1, "first warning", null);
  }
  if (gap !== null) {
    const because = gap.power === "off" ? "broken by a powered-off gap" : "broken by pauses beyond the rule";
    return {
      ...exactly(recordedAt(fold, gap.fromMs), 0, because, gap.markId),
      noLaterMs: cameLater(fold, endpoint),
      maybeByMs: maybeBy(fold, endpoint),
    };
  }
  const timeMs = summarise(fold, 0).recordedMs;
  if (endpoint === "firstWarning")
    return { ok: true, timeMs, event: 0, because: "ended before a warning", brokenAtGap: null, noLaterMs: null, maybeByMs: null };
  const wanted = endpoint === "shutdown" ? "thermal shutdown" : "battery empty";
  const event = fold.end.cause === wanted ? 1 : 0;
  const because = event === 1 ? wanted : fold.end.cause === "unknown" ? "end not said" : "ended otherwise";
  return { ok: true, timeMs, event, because, brokenAtGap: null, noLaterMs: null, maybeByMs: event === 1 ? null : maybeBy(fold, endpoint) };
}

const exactly = (ms: number, event: 0 | 1, because: ObservationBecause, brokenAtGap: string | null): Observation & { ok: true } => ({
  ok: true,
  timeMs: { lo: ms, hi: ms },
  event,
  because,
  brokenAtGap,
  noLaterMs: null,
  maybeByMs: null,
});

/** Recorded ms by which the endpoint may have come unsaid; null: something else is known to have ended it. */
function maybeBy(fold: RunFold, endpoint: Endpoint): number | null {
  const { cause, becauseHot } = fold.end ?? {};
  const maybe = endpoint !== "firstWarning" && (cause === "unknown" || (endpoint === "shutdown" && becauseHot === true));
  return maybe ? summarise(fold, 0).recordedMs.hi : null;
}

/** Recorded ms at which heat did come after a break; null: it did not, or the battery was asked for, which a gap may have changed. */
function cameLater(fold: RunFold, endpoint: Endpoint): number | null {
  if (endpoint === "shutdown") return fold.end?.cause === "thermal shutdown" ? summarise(fold, 0).recordedMs.hi : null;
  const warnedMs = endpoint === "firstWarning" ? fold.warnings[0]?.shownMs : undefined;
  return warnedMs === undefined ? null : recordedAt(fold, warnedMs);
}

/** The first gap the rule does not bridge, or null. Body-on gaps count together; a gap still open at the end counts in full. */
export function breakingGap(fold: RunFold, rule: ContinuityRule): Gap | null {
  let bodyOnMs = 0;
  for (const gap of fold.gaps) {
    if (gap.power === "off" && rule.poweredOff === "strict") return gap;
    if (gap.power === "off") continue;
    bodyOnMs += (gap.toMs ?? gap.fromMs) - gap.fromMs;
    if (bodyOnMs > rule.bridgeBodyOnMs) return gap;
  }
  return null;
}
