// A long made day: three bodies, forty runs, two devices. The desk presses what the demo's tester presses; a phone beside the camera,
// its clock a minute and a half off, adds touches, corrects and takes back, and confirms ends. For the archive and its tests.

import type { Random } from "@keep-rolling/core/statistics";
import { randomFrom } from "@keep-rolling/core/statistics";
import type { Mark, MarkBodies, KnownKind } from "@keep-rolling/core/runs";
import { demoId } from "./ids.ts";
import { setupOf } from "./runs.ts";
import { CONDITIONS, MODES, PLOVER, TERN, WADER } from "./scenario.ts";
import type { Counter, DemoRun } from "./tester.ts";
import { playRun } from "./tester.ts";

const RUNS = 40;
const MORNING_MS = Date.UTC(2031, 5, 21, 5, 0);
const BODIES = [
  { unitId: PLOVER, mode: MODES.ploverHot, condition: CONDITIONS.boathouse },
  { unitId: TERN, mode: MODES.ternFast, condition: CONDITIONS.tower },
  { unitId: WADER, mode: MODES.waderDay, condition: CONDITIONS.pontoon },
] as const;
/** Beyond every number of the demo, so that day and demo can lie on one bench. */
const FIRST = 1_000_000;
const PHONE = demoId("device", 2);
const PHONE_OFFSET_MS = -93_000;

export interface LongDay {
  /** Marks in an order in which they could have reached the server: what is named before what names it. */
  deliveries: Mark[];
  runIds: string[];
  blobs: Uint8Array[];
}

/** Same output on every call with the same seed. */
export function longDay(seed = 20_310_621): LongDay {
  const random = randomFrom(seed);
  const counter: Counter = { marks: FIRST, runs: FIRST };
  const last = new Map<string, DemoRun>();
  const runs: DemoRun[] = [];
  for (let i = 0; i < RUNS; i++) {
    const body = BODIES[i % BODIES.length] ?? BODIES[0];
    const before = last.get(body.unitId) ?? null;
    const startMs = (before?.endMs ?? MORNING_MS + (i % 3) * 60_000) + random.int(8, 40) * 60_000;
    const run = playRun(
      {
        setup: setupOf({ ...body, restMin: 120 }, body.condition.ambientC + random.int(-10, 10) / 10),
        startMs,
        stopAfterSec: random.int(15, 70) * 60,
        swap:
          random.next() < 0.4
            ? {
                afterSec: random.int(200, 700),
                lengthSec: random.int(9, 60),
                power: random.next() < 0.5 ? "on" : "off",
                cause: "card swap",
              }
            : undefined,
        ending: i % 13 === 12 ? "void" : undefined,
      },
      before,
      counter,
    );
    last.set(body.unitId, run);
    runs.push(run);
  }
  let phoneSeq = 0;
  const deliveries = runs.flatMap((run) => {
    const phone = phoneMarks(run, random, counter, () => ++phoneSeq);
    // The phone was out of reach now and then: its marks arrive after the desk's.
    return random.next() < 0.5 ? [...run.marks, ...phone] : byPress([...run.marks, ...phone]);
  });
  const blobs = [700, 40_000, 90_001].map((size) => asPng(Uint8Array.from({ length: size }, () => random.int(0, 255))));
  return { deliveries, runIds: runs.map((r) => r.runId), blobs };
}

const byPress = (marks: readonly Mark[]): Mark[] => [...marks].sort((a, b) => a.madeAtMs - b.madeAtMs || a.deviceSeq - b.deviceSeq);

function phoneMarks(run: DemoRun, random: Random, counter: Counter, nextSeq: () => number): Mark[] {
  const start = run.marks[0] as Mark;
  const lastMs = Math.max(...run.marks.map((m) => m.madeAtMs));
  let madeAtMs = start.madeAtMs;
  const marks: Mark[] = [];
  const press = <K extends KnownKind>(kind: K, body: MarkBodies[K], more: Partial<Mark> = {}): Mark => {
    madeAtMs += random.int(5, 60) * 1000;
    const mark = {
      id: demoId("mark", ++counter.marks),
      runId: run.runId,
      deviceId: PHONE,
      deviceSeq: nextSeq(),
      v: 1,
      atMs: madeAtMs,
      madeAtMs,
      source: "pressed" as const,
      deviceMs: madeAtMs - PHONE_OFFSET_MS,
      offsetMs: PHONE_OFFSET_MS,
      offsetErrMs: random.int(2, 40),
      kind,
      body,
      ...more,
    } as Mark;
    marks.push(mark);
    return mark;
  };
  press("touch", { feel: "warm" });
  const touch = press("touch", { feel: "not said" });
  const said = press("correction", { feel: "hot, can be held" }, { target: touch.id });
  if (random.next() < 0.5) press("correction", { feel: "warm" }, { target: said.id });
  const note = press("note", { text: '=1+1, "quoted"; a line\nand another' });
  if (random.next() < 0.5) {
    const undo = press("undo", {}, { target: note.id });
    if (random.next() < 0.5) press("undo", {}, { target: undo.id });
  }
  madeAtMs = Math.max(madeAtMs, lastMs);
  const end = run.marks.find((m) => m.kind === "end");
  if (end !== undefined) {
    press("correction", { atMs: end.atMs - random.int(1, 4) * 1000 }, { target: end.id });
    if (random.next() < 0.3) press("end", { cause: "battery empty" }, { atMs: end.atMs + 1500 });
  }
  if (random.next() < 0.2) marks.push({ ...press("note", { text: "" }), kind: "thermal-image", body: { deep: { x: 1 } }, foreign: true });
  return marks.filter((m, i) => marks.findLastIndex((o) => o.id === m.id) === i);
}

/** Bytes framed as a PNG's chunks: nothing draws them, but a bench keeps pictures only. Checksums of chunks are left zero. */
export function asPng(content: Uint8Array): Uint8Array {
  const chunk = (type: string, body: Uint8Array): number[] => {
    const length = [24, 16, 8, 0].map((shift) => (body.length >>> shift) & 0xff);
    return [...length, ...[...type].map((c) => c.charCodeAt(0)), ...body, 0, 0, 0, 0];
  };
  const header = Uint8Array.from([0, 0, 0, 1, 0, 0, 0, 1, 8, 2, 0, 0, 0]);
  const start = [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a];
  return Uint8Array.from([...start, ...chunk("IHDR", header), ...chunk("IDAT", content), ...chunk("IEND", new Uint8Array(0))]);
}
