// Test support: marks written by hand, ids and numbers counting up.

import type { Mark } from "@keep-rolling/core/runs";

let serial = 0;

/** A mark of one device at `atSec` seconds of bench time. */
export function mark(kind: string, atSec: number, body: object, more: object = {}): Mark {
  serial++;
  const atMs = Math.round(atSec * 1000);
  const envelope = {
    id: `m${serial}`,
    runId: "r",
    deviceId: "d",
    deviceSeq: serial,
    v: 1,
    atMs,
    madeAtMs: atMs,
    source: "pressed",
    deviceMs: 0,
  };
  return { ...envelope, offsetMs: 0, offsetErrMs: 0, kind, body, ...more } as Mark;
}
