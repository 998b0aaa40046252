// What a device says happened and nobody has marked yet: offered for one key, never taken over silently.

import type { DeviceEvent } from "@keep-rolling/contract/devices";
import type { EndCause, KnownKind, Mark, MarkBodies, RunFold } from "@keep-rolling/core/runs";
import { NEAR_MS, warningSaid, WARNING_PHASES } from "@keep-rolling/core/runs";

export interface Offer {
  event: DeviceEvent;
  words: string;
  kind: KnownKind;
  body: MarkBodies[KnownKind];
}

const ENDS: Readonly<Record<string, EndCause>> = {
  shutdown: "thermal shutdown",
  "battery empty": "battery empty",
  "card full": "card full",
  "clip limit": "clip limit",
};

interface EventOffer extends Pick<Offer, "words" | "kind" | "body"> {
  /** Somebody marked it already. */
  said: (fold: RunFold, atMs: number) => boolean;
}
const near = (a: number, b: number): boolean => Math.abs(a - b) <= NEAR_MS;
const EVENT_OFFERS: Readonly<Record<string, EventOffer>> = {
  refused: {
    words: "the camera is too hot and refuses to record",
    kind: "end",
    body: { cause: "thermal shutdown" },
    said: () => false,
  },
  "screen woke": {
    words: "the screen woke",
    kind: "condition",
    body: { change: "screen woke" },
    said: (fold, atMs) => fold.changes.some((c) => c.change === "screen woke" && near(c.atMs, atMs)),
  },
  "signal lost": {
    words: "the recorder lost the signal and stopped",
    kind: "gap",
    body: { cause: "signal lost", power: "on" },
    said: (fold, atMs) => fold.gaps.some((g) => near(g.fromMs, atMs) || (g.fromMs <= atMs && (g.toMs === null || g.toMs >= atMs))),
  },
  "signal back": {
    words: "the signal is back and the recorder records",
    kind: "resume",
    body: {},
    said: (fold, atMs) => !fold.gaps.some((g) => g.cause === "signal lost" && g.toMs === null && g.fromMs <= atMs),
  },
};

/** Oldest first. An event is answered by the mark that accepts it, or by a press that says the same. */
export function offersOf(fold: RunFold, marks: readonly Mark[], events: readonly DeviceEvent[], nowMs: number): Offer[] {
  if (fold.state !== "rolling" && fold.state !== "gap") return [];
  const accepted = new Set(marks.map((m) => m.accepts));
  const startMs = fold.startMs ?? 0;
  const open = events.filter((e) => !accepted.has(e.id) && e.atMs >= startMs && e.atMs <= nowMs);
  return open.flatMap((e) => offerOf(fold, e)).sort((a, b) => a.event.atMs - b.event.atMs);
}

function offerOf(fold: RunFold, event: DeviceEvent): Offer[] {
  const cause = ENDS[event.kind];
  if (cause !== undefined)
    return [
      {
        event,
        words: cause === "thermal shutdown" ? "the camera went off: heat shutdown" : `the camera says: ${cause}`,
        kind: "end",
        body: { cause },
      },
    ];
  const offer = EVENT_OFFERS[event.kind];
  if (offer !== undefined) return offer.said(fold, event.atMs) ? [] : [{ event, words: offer.words, kind: offer.kind, body: offer.body }];
  if (event.kind !== "warning") return [];
  const phase = WARNING_PHASES.find((p) => p === event.body.phase);
  if (phase === undefined || warningSaid(fold, phase, event.atMs)) return [];
  const minutesLeft = typeof event.body.minutesLeft === "number" ? { minutesLeft: event.body.minutesLeft } : {};
  const left = "minutesLeft" in minutesLeft ? `, ${minutesLeft.minutesLeft} min left` : "";
  return [{ event, words: `the camera shows: warning ${phase}${left}`, kind: "warning", body: { phase, ...minutesLeft } }];
}
