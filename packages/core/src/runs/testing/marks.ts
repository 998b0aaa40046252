// Test support: short ways to write a log by hand, and random logs for the laws.

import fc from "fast-check";
import type { Draw } from "../../facts/index.ts";
import { randomFrom } from "../../statistics/index.ts";
import type { KnownKind, MarkBodies, MarkKinds } from "../kinds/kinds.ts";
import { KINDS } from "../kinds/kinds.ts";
import { SAMPLE_START } from "../kinds/sampleStart.ts";
import type { StartBody } from "../kinds/start.ts";
import type { Mark, MarkOf } from "../mark.ts";

export const START: StartBody = SAMPLE_START;

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

/** Draws of a kind's generator from a seed. */
function drawFrom(seed: number): Draw {
  const random = randomFrom(seed);
  return {
    oneOf: <T>(words: readonly T[]) => words[random.int(0, words.length - 1)] as T,
    int: (min, max) => random.int(min, max),
    number: (min, max) => min + (max - min) * random.next(),
    maybe: () => random.next() < 0.5,
  };
}

const bodyOf = (kinds: MarkKinds, kind: string): fc.Arbitrary<unknown> => fc.nat().map((seed) => kinds[kind]?.sample(drawFrom(seed)) ?? {});

interface Draft {
  kind: string;
  atMs: number;
  late: number;
  device: number;
  body: unknown;
  pick: number;
  sees: boolean;
}

/** Gaps, resumes and undos are drawn more often than others: they make the hard cases. */
const draft = (kinds: MarkKinds): fc.Arbitrary<Draft> =>
  fc.constantFrom(...Object.keys(kinds), "gap", "resume", "undo").chain((kind) =>
    fc.record({
      kind: fc.constant(kind),
      atMs: fc.integer({ min: 0, max: 100_000 }),
      late: fc.integer({ min: -3000, max: 5000 }),
      device: fc.integer({ min: 0, max: 2 }),
      body: bodyOf(kinds, kind),
      pick: fc.nat(),
      sees: fc.boolean(),
    }),
  );

/** Logs of up to 25 marks of three devices, with undo and correction chains whose targets are known already. */
export const logsOf = (kinds: MarkKinds): fc.Arbitrary<Mark[]> =>
  fc.array(draft(kinds), { maxLength: 24 }).map((drafts) => {
    const log: Mark[] = [{ ...start(0), id: "a000", deviceSeq: 0, atMs: 500, madeAtMs: 500 }];
    drafts.forEach((d, i) => log.push(fromDraft(d, i, log)));
    return log;
  });
export const randomLog = logsOf(KINDS);

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
