// Facts of sessions for tests.

import type { SessionFact } from "../index.ts";

let serial = 0;

/** Pressed on one device, each with the next number; not from the server. */
export const factOf = (kind: string, atMs: number, body: object, more: object = {}): SessionFact =>
  ({
    id: `f${String(++serial).padStart(4, "0")}`,
    sessionId: "s",
    deviceId: "d",
    deviceSeq: serial,
    v: 1,
    kind,
    atMs,
    madeAtMs: atMs,
    source: "pressed",
    deviceMs: atMs,
    offsetMs: 0,
    offsetErrMs: 1,
    body,
    ...more,
  }) as SessionFact;
