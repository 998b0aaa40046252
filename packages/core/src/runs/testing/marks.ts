// Test support: short ways to write a log by hand, and random logs for the laws.

import fc from "fast-check";
import type { KnownKind, Mark, MarkBodies, MarkOf, StartBody } from "../mark.ts";
import { CONDITION_CHANGES, END_CAUSES, GAP_CAUSES, GAP_POWERS, TOUCHES, WARNING_PHASES } from "../vocabulary.ts";

export const START: StartBody = {
  runKind: "endurance",
  clockId: "real",
  unit: { id: "u1", name: "Body one", serialLabel: "001", firmware: "1.0", modelId: "m1", modelName: "Model", simulated: false },
  mode: {
    id: "mo1",
    name: "UHD 25",
    widthPx: 3840,
    heightPx: 2160,
    fpsNum: 25,
    fpsDen: 1,
    readout: "binned",
    readoutCrop: 1,
    codec: "H.265",
    compression: "long-GOP",
    bits: 10,
    mbps: 100,
    target: "slot 1",
    clipLimitSec: null,
  },
  condition: {
    id: "c1",
    name: "Room",
    ambientC: 22,
    toleranceC: 2,
    sun: "none",
    air: "still",
    screen: "lit",
    power: "internal",
    powerOffSetting: "normal",
  },
  protocol: {
    id: "p1",
    name: "Until it stops",
    continuity: { poweredOff: "strict", bridgeBodyOnMs: 20_000 },
    checkpointSec: 300,
    checkpointAfterWarningSec: 60,
    onWarning: "run on",
  },
  ambient: { valueC: 22, plusMinusC: 0.5, basis: "measured" },
  startState: { state: "cold", by: "gauge", value: 0 },
};

let serial = 0;

/** A mark at `atSec` seconds; id and sequence count up, device "d1" unless said. */
export function mark<K extends KnownKind>(kind: K, atSec: number, body: MarkBodies[K], more: Partial<Mark> = {}): MarkOf<K> {
  serial++;
  const atMs = Math.round(atSec * 1000);
  return {
    id: `m${String(serial).padStart(6, "0")}`,
    runId: "r1",
    deviceId: "d1",
    deviceSeq: serial,
    kind,
    v: 1,
    atMs,
    madeAtMs: atMs,
    source: "pressed",
    deviceMs: atMs,
    offsetMs: 0,
    offsetErrMs: 5,
    body,
    ...more,
  } as MarkOf<K>;
}

export const start = (atSec = 0, body: Partial<StartBody> = {}): Mark => mark("start", atSec, { ...START, ...body });
export const gap = (atSec: number, power: "on" | "off" = "on"): Mark => mark("gap", atSec, { cause: "card swap", power });
export const resume = (atSec: number): Mark => mark("resume", atSec, {});
export const end = (atSec: number, cause: MarkBodies["end"]["cause"] = "thermal shutdown"): Mark => mark("end", atSec, { cause });
export const warning = (atSec: number, phase: MarkBodies["warning"]["phase"] = "shown"): Mark => mark("warning", atSec, { phase });
export const undo = (target: Mark, atSec = 0): Mark => mark("undo", atSec, {}, { target: target.id });

const plainBody: Readonly<Record<string, fc.Arbitrary<unknown>>> = {
  gap: fc.record({ cause: fc.constantFrom(...GAP_CAUSES), power: fc.constantFrom(...GAP_POWERS) }),
  resume: fc.constant({}),
  split: fc.constant({}),
  reading: fc.record(
    { gauge: fc.integer({ min: -1, max: 12 }), ambientC: fc.double({ min: -60, max: 90, noNaN: true }) },
    { requiredKeys: [] },
  ),
  touch: fc.record({ feel: fc.constantFrom(...TOUCHES) }),
  warning: fc.record({ phase: fc.constantFrom(...WARNING_PHASES) }),
  condition: fc.record({ change: fc.constantFrom(...CONDITION_CHANGES) }),
  end: fc.record({
    cause: fc.constantFrom(...END_CAUSES),
    foundOff: fc.option(fc.record({ lastSeenMs: fc.integer({ min: 0, max: 100_000 }) }), { nil: undefined }),
  }),
  check: fc.constant({ item: "powers on", result: "yes" }),
  note: fc.constant({ text: "odd click" }),
  photo: fc.constant({}),
  start: fc.constant(START),
};

const correctionBody = fc.record(
  {
    atMs: fc.integer({ min: 0, max: 100_000 }),
    cause: fc.constantFrom(...END_CAUSES, ...GAP_CAUSES),
    power: fc.constantFrom(...GAP_POWERS),
    gauge: fc.integer({ min: 0, max: 10 }),
    lastSeenMs: fc.option(fc.integer({ min: 0, max: 100_000 })),
  },
  { requiredKeys: [] },
);

interface Draft {
  kind: string;
  atMs: number;
  late: number;
  device: number;
  body: unknown;
  pick: number;
  sees: boolean;
}

const draft: fc.Arbitrary<Draft> = fc
  .constantFrom(
    "gap",
    "resume",
    "gap",
    "resume",
    "split",
    "reading",
    "touch",
    "warning",
    "condition",
    "end",
    "check",
    "note",
    "photo",
    "start",
    "correction",
    "undo",
    "undo",
  )
  .chain((kind) =>
    fc.record({
      kind: fc.constant(kind),
      atMs: fc.integer({ min: 0, max: 100_000 }),
      late: fc.integer({ min: -3000, max: 5000 }),
      device: fc.integer({ min: 0, max: 2 }),
      body: kind === "correction" ? correctionBody : (plainBody[kind] ?? fc.constant({})),
      pick: fc.nat(),
      sees: fc.boolean(),
    }),
  );

/** Logs of up to 25 marks of three devices, with undo and correction chains whose targets are known already. */
export const randomLog: fc.Arbitrary<Mark[]> = fc.array(draft, { maxLength: 24 }).map((drafts) => {
  const log: Mark[] = [{ ...start(0), id: "a000", deviceSeq: 0, atMs: 500, madeAtMs: 500 }];
  drafts.forEach((d, i) => log.push(fromDraft(d, i, log)));
  return log;
});

function fromDraft(d: Draft, i: number, log: readonly Mark[]): Mark {
  const target = d.kind === "undo" || d.kind === "correction" ? log[d.pick % log.length] : undefined;
  const seen = d.kind === "correction" && d.sees ? log.findLast((m) => m.kind === "correction")?.id : undefined;
  return {
    id: `b${String((d.pick * 7 + i) % 1000).padStart(3, "0")}-${i}`,
    runId: "r1",
    deviceId: `d${d.device}`,
    deviceSeq: i + 1,
    kind: d.kind,
    v: 1,
    atMs: d.atMs,
    madeAtMs: d.atMs + d.late,
    source: "pressed",
    deviceMs: d.atMs,
    offsetMs: 0,
    offsetErrMs: 1,
    ...(target ? { target: target.id } : {}),
    ...(seen ? { replaces: seen } : {}),
    body: d.body,
  } as Mark;
}
