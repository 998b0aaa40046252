// The files as a second witness: made clips with a known truth, each scenario as it goes wrong on a test day.

import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { foldRun } from "../runs/index.ts";
import { end, gap, mark, resume, start, START } from "../runs/testing/marks.ts";
import { arrange, stampEvidence } from "./arrange.ts";
import { boundCutOff } from "./cutOff.ts";
import { contradictions, modesThatFit, runFromFiles } from "./fromFiles.ts";
import { edgesOf, estimateCameraClock, markedEdges } from "./cameraClock.ts";
import { witness } from "./proposals.ts";
import type { Arranged } from "./arrange.ts";
import type { Clip, ClipRead } from "./clip.ts";
import type { Witness } from "./proposals.ts";

const READ: Omit<ClipRead, "createdMs" | "durationMs" | "timeCode"> = {
  widthPx: 3840,
  heightPx: 2160,
  fpsNum: 25,
  fpsDen: 1,
  codec: "hvc1.2.4",
  mbps: 100,
};
const RATE = 100e6 / 8 / 1000;

/** A clip from `fromSec` to `toSec` of camera time, stamped at its start (cut to the second) unless said. */
function clip(n: number, fromSec: number, toSec: number, more: { stamp?: "close"; code?: number } = {}): Clip {
  const durationMs = Math.round((toSec - fromSec) * 1000);
  const createdMs = Math.floor(more.stamp === "close" ? toSec : fromSec) * 1000;
  const timeCode = more.code === undefined ? null : { frame: Math.round(more.code * 25), fpsNum: 25, fpsDen: 1, dropFrame: false };
  return {
    name: `clip-${String(n).padStart(4, "0")}.mp4`,
    bytes: Math.round(durationMs * RATE),
    modifiedMs: Math.round(toSec * 1000) + 900,
    read: { ...READ, createdMs, durationMs, timeCode },
  };
}
const cutOff = (n: number, lengthSec: number, modifiedSec: number | null): Clip => ({
  name: `clip-${String(n).padStart(4, "0")}.mp4`,
  bytes: Math.round(lengthSec * 1000 * RATE),
  modifiedMs: modifiedSec === null ? null : Math.round(modifiedSec * 1000),
  read: null,
});
function arranged(clips: Clip[], stamp: "start" | "close" = "start"): Arranged {
  const a = arrange(clips, stamp);
  if (!a.ok) throw new Error(a.reason);
  return a;
}
function witnessed(marks: Parameters<typeof foldRun>[0], clips: Clip[], priorMs: number | null = null): Witness {
  const w = witness(foldRun(marks), arranged(clips), priorMs);
  if (!w.ok) throw new Error(w.reason);
  return w;
}
const brief = (w: Witness): string[] =>
  w.proposals.map((p) => (p.kind === "mark" ? `${p.mark} ${p.atMs / 1000}` : `${p.what} to ${(p.body.atMs ?? 0) / 1000}`));

describe("clips put on one line", () => {
  it("tells a split from a gap by whole-second creation times", () => {
    const a = arranged([clip(3, 1230.4, 1500.2), clip(1, 0.3, 600.3), clip(2, 600.3, 1200.3)]);
    expect(a.joins.map((j) => [j.kind, Math.round(j.gapMs / 1000)])).toEqual([
      ["split", 0],
      ["gap", 30],
    ]);
    expect(a).toMatchObject({ by: "creation times", timeCode: "none", errMs: 1000 });
  });
  it("places clips stamped when closed, and says which way the stamps hold", () => {
    const clips = [clip(1, 0, 600, { stamp: "close" }), clip(2, 600, 900, { stamp: "close" }), clip(3, 900, 1400, { stamp: "close" })];
    expect(arranged(clips, "close").joins.map((j) => j.kind)).toEqual(["split", "split"]);
    expect(stampEvidence(clips)).toEqual({ start: 0, close: 2 });
    expect(stampEvidence([clip(1, 0, 600), clip(2, 600, 900)])).toEqual({ start: 1, close: 0 });
  });
  it("uses a free-running time code to the frame, across midnight too", () => {
    const day = 86_400;
    const free = [
      clip(1, day - 100.2, day - 40.2, { code: day - 100.2 }),
      clip(2, day - 39.4, day + 30, { code: day - 39.4 }),
      clip(3, day + 30, day + 60, { code: 30 }),
    ];
    const a = arranged(free);
    expect(a).toMatchObject({ by: "free-running time code", timeCode: "runs free", errMs: 40 });
    expect(a.joins.map((j) => [j.kind, j.gapMs])).toEqual([
      ["gap", 800],
      ["split", 0],
    ]);
    // Every stamp was cut down to its second: the true start lies at or after it.
    expect(Math.abs((a.placed[0]?.startMs ?? 0) / 1000 - (day - 100.2))).toBeLessThan(0.5);
  });
  it("does not take a time code that runs while recording for a clock", () => {
    const a = arranged([clip(1, 0, 600, { code: 3600 }), clip(2, 700, 900, { code: 4200 })]);
    expect(a).toMatchObject({ by: "creation times", timeCode: "runs while recording" });
    expect(a.joins[0]).toMatchObject({ kind: "gap", gapMs: 100_000 });
  });
  it("refuses what cannot be of one run", () => {
    expect(arrange([], "start")).toEqual({ ok: false, reason: "nothing-readable" });
    expect(arrange([cutOff(1, 60, null)], "start")).toEqual({ ok: false, reason: "nothing-readable" });
    expect(arrange([clip(1, 0, 600), clip(2, 300, 900)], "start")).toEqual({ ok: false, reason: "overlap" });
    const undated = clip(1, 0, 600);
    expect(arrange([{ ...undated, read: { ...(undated.read as ClipRead), createdMs: null } }], "start")).toEqual({
      ok: false,
      reason: "no-creation-times",
    });
  });
});

describe("the camera's clock from marks and edges", () => {
  // The camera's clock is 47 s behind the bench: camera 0 is bench 1047.
  const from = 1047;
  const clips = [clip(1, 0, 600), clip(2, 600, 1200), clip(3, 1230, 2000)];
  const right = [start(from + 1), mark("split", from + 602, {}), gap(from + 1201), resume(from + 1231), end(from + 2001)];
  it("is found from presses a second or two late, with the residual of each", () => {
    const w = witnessed(right, clips);
    expect(w.clock).toMatchObject({ offsetMs: 1_048_000, agreeing: 5, rivals: [] });
    expect(w.clock.residuals.map((r) => r.residualMs)).toEqual([0, 1000, 0, 0, 0]);
    expect(w.proposals).toEqual([]);
    expect(w.recordedMs).toEqual({ lo: 1_970_000, hi: 1_970_000 });
  });
  it("is not dragged by a start pressed minutes late: the files prove the timer wrong", () => {
    const late = [start(from + 190), gap(from + 1201), resume(from + 1231), end(from + 2001)];
    const w = witnessed(late, clips);
    expect(w.clock.offsetMs).toBe(1_048_000);
    expect(w.clock.residuals[0]?.residualMs).toBe(189_000);
    expect(brief(w)).toEqual([`start to ${from + 1}`, `split ${from + 601}`]);
  });
  it("finds gaps nobody marked, and leaves marks without an edge alone", () => {
    const w = witnessed([start(from), gap(from + 300), resume(from + 310), end(from + 2000)], clips);
    expect(brief(w)).toEqual([`split ${from + 600}`, `gap ${from + 1200}`, `resume ${from + 1230}`]);
    expect(w.clock.unwitnessed.map((m) => m.kind)).toEqual(["gap", "resume"]);
  });
  it("says that two marks alone cannot tell which was wrong, unless the unit's clock is known", () => {
    const two = [start(from + 180), end(from + 2000)];
    const w = witnessed(two, clips);
    expect(w.clock.rivals).toHaveLength(1);
    expect(witnessed(two, clips, 1_046_000).clock).toMatchObject({ offsetMs: 1_047_000, rivals: [] });
    expect(brief(witnessed(two, clips, 1_046_000))[0]).toBe(`start to ${from}`);
  });
  it("needs a mark that has an edge", () => {
    expect(estimateCameraClock([], edgesOf(arranged(clips)))).toBeNull();
    expect(witness(foldRun([]), arranged(clips))).toEqual({ ok: false, reason: "no-marks-to-compare" });
  });
  it("law: shifting the camera's clock shifts the offset and nothing else", () => {
    fc.assert(
      fc.property(fc.integer({ min: -90_000, max: 90_000 }), fc.integer({ min: 0, max: 400 }), (shiftSec, lateSec) => {
        const marks = [start(from + lateSec), gap(from + 1201), resume(from + 1231), end(from + 2001)];
        const moved = clips.map((c) => ({
          ...c,
          read: { ...(c.read as ClipRead), createdMs: (c.read?.createdMs ?? 0) + 1000 * shiftSec },
        }));
        const [plain, shifted] = [witnessed(marks, clips), witnessed(marks, moved)];
        expect(shifted.clock.offsetMs).toBe(plain.clock.offsetMs - 1000 * shiftSec);
        expect(shifted.proposals).toEqual(plain.proposals);
      }),
    );
  });
});

describe("a last file that was cut off", () => {
  const siblings = [clip(1, 0, 600), clip(2, 600, 1200)];
  it("bounds the end by its size over its siblings' bitrate, and by when it was last written", () => {
    const both = boundCutOff(arranged([...siblings, cutOff(3, 255, 1200 + 256)]).placed);
    expect(both).toMatchObject({ ok: true, by: ["size", "last written"] });
    if (both.ok) expect(both.loMs <= 1_455_100 && both.hiMs >= 1_455_000 && both.hiMs - both.loMs < 4000).toBe(true);
    expect(boundCutOff(arranged([...siblings, cutOff(3, 255, null)]).placed)).toMatchObject({ ok: true, loMs: 1_455_000, by: ["size"] });
  });
  it("states a wider error from a single sibling, and does not use times of copied files", () => {
    const one = boundCutOff(arranged([clip(1, 0, 600), cutOff(2, 220, null)]).placed);
    // Rounded against us: down, and up.
    expect(one).toMatchObject({ ok: true, loMs: 799_999, hiMs: 600_000 + Math.ceil(220_000 / 0.9) });
    const copied = siblings.map((c, i) => ({ ...c, modifiedMs: 9_000_000 + 60_000 * i }));
    expect(boundCutOff(arranged([...copied, cutOff(3, 255, 9_200_000)]).placed)).toMatchObject({ by: ["size"] });
  });
  it("does not guess when size and time contradict each other, or nothing is cut off", () => {
    expect(boundCutOff(arranged([...siblings, cutOff(3, 255, 3000)]).placed)).toEqual({ ok: false, reason: "size-and-time-disagree" });
    expect(boundCutOff(arranged(siblings).placed)).toEqual({ ok: false, reason: "nothing-cut-off" });
  });
  it("narrows an end that was only found off, and leaves one that lies inside alone", () => {
    const found = mark("end", 1900, { cause: "battery empty", foundOff: { lastSeenMs: 1_000_000 } });
    const files = [...siblings, cutOff(3, 255, null)];
    const w = witnessed([start(0), mark("split", 600, {}), mark("split", 1200, {}), found], files);
    expect(w.proposals).toHaveLength(1);
    expect(w.proposals[0]).toMatchObject({ what: "end", body: { lastSeenMs: 1_455_000 } });
    const seen = witnessed(
      [start(0), mark("split", 600, {}), mark("split", 1200, {}), mark("end", 1455, { cause: "battery empty" })],
      files,
    );
    expect(seen.proposals).toEqual([]);
    expect(seen.recordedMs.lo).toBe(1_455_000);
  });
  it("begins after a gap where recording was resumed, and hides no mark by it", () => {
    const w = witnessed([start(0), gap(1200), resume(1300)], [...siblings, cutOff(3, 255, null)]);
    expect(w.proposals.find((p) => p.kind === "mark" && p.mark === "end")).toMatchObject({ body: { foundOff: { lastSeenMs: 1_555_000 } } });
    expect(w.clock).toMatchObject({ agreeing: 2, unwitnessed: [] });
    expect(w.clock.hidden.map((m) => m.kind)).toEqual(["resume"]);
    expect(w.recordedMs.lo).toBe(1_455_000);
  });
});

describe("a run known from its files alone", () => {
  const clips = [clip(1, 0, 600), clip(2, 600, 1200), clip(3, 1230, 2000)];
  it("has start, split, gap and end", () => {
    const made = runFromFiles(arranged(clips), 5000, "battery empty");
    expect(made?.startMs).toBe(5000);
    expect(made?.facts.map((f) => [f.kind, f.atMs / 1000])).toEqual([
      ["split", 605],
      ["gap", 1205],
      ["resume", 1235],
      ["end", 2005],
    ]);
    const cut = runFromFiles(arranged([...clips.slice(0, 2), cutOff(3, 100, null)]), 0, "unknown");
    expect(cut?.facts.at(-1)).toMatchObject({ kind: "end", body: { foundOff: { lastSeenMs: 1_300_000 } } });
  });
  it("fills the mode, or says what contradicts it", () => {
    const modes = [
      { ...START.mode, id: "a", mbps: 400 },
      { ...START.mode, id: "b", mbps: 110 },
      { ...START.mode, id: "c", fpsNum: 50 },
    ];
    expect(modesThatFit(arranged(clips), modes).map((m) => m.id)).toEqual(["b", "a"]);
    const read = clips[0]?.read as ClipRead;
    expect(contradictions(read, START.mode)).toEqual([]);
    expect(contradictions({ ...read, widthPx: 1920, codec: "avc1.64" }, { ...START.mode, fpsNum: 50, mbps: 400 })).toEqual([
      "size",
      "rate",
      "codec",
      "bitrate",
    ]);
    expect(contradictions({ ...read, widthPx: 2160, heightPx: 3840 }, START.mode)).toEqual([]);
  });
  it("knows a mark's edge only where it is certain", () => {
    const found = mark("end", 900, { cause: "unknown", foundOff: { lastSeenMs: 600_000 } });
    expect(markedEdges(foldRun([start(0), found])).map((m) => m.kind)).toEqual(["start"]);
  });
});
