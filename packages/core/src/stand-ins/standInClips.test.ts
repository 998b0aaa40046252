// The card of the simulated camera against what its run went through.

import { describe, expect, it } from "vitest";
import { end, gap, mark, resume, start, START } from "../runs/testing/marks.ts";
import { bytesOf, layOutClip } from "./writeClip.ts";
import { standInClips, standInHabits } from "./standInClips.ts";

const play = (...marks: Parameters<typeof standInClips>[0]["marks"]) => standInClips({ runId: "r", marks, before: null }, 20_000_000);
const stop = (sec: number) => mark("end", sec, { cause: "tester stopped" });
const lengths = (clips: ReturnType<typeof play>): number[] => clips.map((c) => c.spec.frames / 25);

describe("the stand-in's card", () => {
  it("has a clip a stretch, closed ones only, and none of an idle run", () => {
    expect(lengths(play(start(0), gap(300), resume(320), stop(500)))).toEqual([300, 180]);
    expect(lengths(play(start(0), gap(300)))).toEqual([300]);
    expect(play(start(0, { runKind: "idle" }), stop(500))).toEqual([]);
    expect(play()).toEqual([]);
  });
  it("begins a new file every 32 GB without losing a frame", () => {
    const heavy = { mode: { ...START.mode, mbps: 400 } };
    const clips = play(start(0, heavy), stop(1500));
    expect(lengths(clips)).toEqual([640, 640, 220]);
    expect(new Set(clips.map((c) => c.name)).size).toBe(3);
    const codes = clips.map((c) => c.spec.timeCodeFrame ?? 0);
    expect([(codes[1] ?? 0) - (codes[0] ?? 0), (codes[2] ?? 0) - (codes[1] ?? 0)]).toEqual([16_000, 16_000]);
  });
  it("stops by itself where the body did, and cuts the last file off when the battery went", () => {
    const long = { condition: { ...START.condition, powerOffSetting: "none" as const } };
    const clips = play(start(0, long), end(19_000));
    const last = clips.at(-1);
    expect(last?.spec.cutOff).toBe(true);
    expect(clips.slice(0, -1).some((c) => c.spec.cutOff)).toBe(false);
    expect(clips.reduce((sum, c) => sum + c.spec.frames, 0) / 25).toBeLessThan(19_000);
  });
  it("stamps as its unit always does, by a clock of its own", () => {
    expect(standInHabits("u1")).toEqual(standInHabits("u1"));
    expect(Math.abs(standInHabits("u1").offsetMs)).toBeLessThan(121_000);
    const ids = Array.from({ length: 40 }, (_, i) => standInHabits(`u${i}`).stamp);
    expect(new Set(ids).size).toBe(2);
  });
  it("is read in any pieces the same", () => {
    const [clip] = play(start(0), stop(2));
    if (clip === undefined) throw new Error("no clip");
    const file = layOutClip({ ...clip.spec, sampleBytes: 7 });
    const whole = bytesOf(file, 0, file.bytes);
    const pieces = Array.from({ length: Math.ceil(file.bytes / 13) }, (_, i) => bytesOf(file, 13 * i, 13 * i + 13));
    expect(pieces.flatMap((p) => [...p])).toEqual([...whole]);
    expect(bytesOf(file, file.bytes, file.bytes + 9)).toHaveLength(0);
    expect(() => layOutClip({ ...clip.spec, frames: 0 })).toThrow("frames must be positive, got 0");
  });
});
