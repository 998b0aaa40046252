import { execFileSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import os from "node:os";
import path from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import type { FileMeasured } from "../../apps/server/src/media/video/measureFile.ts";
import { measureFile } from "../../apps/server/src/media/video/measureFile.ts";
import { cropAgainst, degreesOf, measuresOf } from "@keep-rolling/core/motion";
import type { MadeTake } from "@keep-rolling/core/stand-ins/takes";
import { PLAIN, truePairs } from "@keep-rolling/core/stand-ins/takes";
import { encodeTake, KINDS } from "./encodeTake.ts";
import { highPass, rmsOf, runningSum } from "../../packages/core/src/motion/path.ts";

const CLIPS = path.join(import.meta.dirname, "../fixtures/clips");
const NAMES = ["p1_handheld", "p2_electronic", "p3_bumps_subject"] as const;
interface Truth {
  hfov_deg: number;
  metrics: Record<string, number>;
  warp_rms_px640_after_similarity: number;
  warp_rms_px640_after_homography: number;
  sharpness_dip_runs?: [number, number][];
}
const truthOf = (name: string): Truth => JSON.parse(readFileSync(path.join(CLIPS, `${name}.json`), "utf8")) as Truth;

let folder = "";
beforeAll(() => (folder = mkdtempSync(path.join(os.tmpdir(), "kr-measure-"))));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** Each file once: what is asked of it differs, what it is does not. */
const known = new Map<string, Promise<FileMeasured>>();
function measured(file: string): Promise<FileMeasured> {
  const once = known.get(file) ?? measureOnce(file);
  known.set(file, once);
  return once;
}
async function measureOnce(file: string): Promise<FileMeasured> {
  const m = await measureFile(file);
  if (!m.ok) throw new Error(`${file}: ${m.problem}`);
  return m;
}
const off = (got: number | null, want: number): number => Math.abs((got ?? Number.NaN) / want - 1);
const at = (t: Truth, key: string): number => t.metrics[key] ?? Number.NaN;

// Clips with exact truth, made outside this project (see the cases' own convention in each JSON).
describe("the shipped clips", () => {
  it.each(NAMES)("%s: jitter within a two-hundredth, roll within a fiftieth, bending near the truth", async (name) => {
    const t = truthOf(name);
    const m = measuresOf((await measured(path.join(CLIPS, `${name}.mp4`))).record);
    expect(off(m.jitterRmsFrac, at(t, "jitter_rms_pct_width") / 100)).toBeLessThan(0.005);
    expect(off(m.jitterXFrac, at(t, "jitter_x_pct") / 100)).toBeLessThan(0.01);
    expect(off(m.jitterYFrac, at(t, "jitter_y_pct") / 100)).toBeLessThan(0.01);
    expect(off(degreesOf(m.jitterRmsFrac ?? 0, t.hfov_deg), at(t, "jitter_rms_deg"))).toBeLessThan(0.005);
    expect(off(m.rollRmsDeg, at(t, "roll_rms_deg"))).toBeLessThan(0.02);
    expect(off(m.zoomRmsFrac, at(t, "zoom_rms_pct") / 100)).toBeLessThan(0.05);
    expect(Math.abs((m.stepHz ?? 0) - at(t, "step_peak_hz"))).toBeLessThan(0.05);
    expect(off(m.highFrequencyRmsFrac, at(t, "hf_rms_pct_width") / 100)).toBeLessThan(0.05);
    expect(off(m.wobbleSimilarityPx640, t.warp_rms_px640_after_similarity)).toBeLessThan(0.1);
    expect(Math.abs((m.wobbleHomographyPx640 ?? 9) - t.warp_rms_px640_after_homography)).toBeLessThan(0.05);
    for (const [from, to] of t.sharpness_dip_runs ?? []) expect(m.dips.some((d) => d.startFrame <= to && d.endFrame >= from)).toBe(true);
  });
  it("find the crop of the electronic one, and flag the subject", async () => {
    const [control, electronic, subject] = await Promise.all(NAMES.map((n) => measured(path.join(CLIPS, `${n}.mp4`))));
    expect(off(cropAgainst(electronic?.keyFrames ?? [], control?.keyFrames ?? [])?.factor ?? null, 1.25)).toBeLessThan(0.01);
    expect(measuresOf((subject as FileMeasured).record).flags).toContain("moving-subject");
    expect(measuresOf((control as FileMeasured).record).flags).not.toContain("moving-subject");
  });
});

const encoded = (name: string, take: MadeTake, args?: readonly string[]): string => encodeTake(path.join(folder, name), take, args);

/** Kinds whose motions differ, so that their order can be asked. */
const DISTINCT = ["none", "lens", "electronic", "bumps"];

/** By `npm run proof`; the shipped clips above are of three of these kinds, and went through the same codec. */
const WHOLE = process.env.PROOF === "1";

describe.runIf(WHOLE)("clips from the clip maker, through H.264 at 640 px", () => {
  it("jitter within 3 % on all but one kind and 5 % on all, roll within 5 %, the order exact", async () => {
    const rows: { kind: string; jitter: number; trueJitter: number; roll: number; trueRoll: number }[] = [];
    for (const [kind, change] of Object.entries(KINDS)) {
      const take: MadeTake = { ...PLAIN, seed: 41, frames: 75, ...change };
      const m = measuresOf((await measured(encoded(`${kind}.mp4`, take))).record);
      const pairs = truePairs(take);
      const rms = (steps: number[]): number => rmsOf(highPass(runningSum(steps), take.rateHz)) ?? Number.NaN;
      const trueJitter = Math.hypot(rms(pairs.map((p) => p.dxFrac)), rms(pairs.map((p) => p.dyFrac)));
      const trueRoll = (rms(pairs.map((p) => p.rollRad)) * 180) / Math.PI;
      rows.push({ kind, jitter: m.jitterRmsFrac ?? Number.NaN, trueJitter, roll: m.rollRmsDeg ?? Number.NaN, trueRoll });
    }
    const bad = (share: number, pick: (r: (typeof rows)[number]) => number): string[] =>
      rows.filter((r) => !(pick(r) < share)).map((r) => r.kind);
    const jitterOff = (r: (typeof rows)[number]): number => off(r.jitter, r.trueJitter);
    expect(bad(0.05, jitterOff)).toEqual([]);
    expect(bad(0.03, jitterOff).length).toBeLessThanOrEqual(1);
    expect(bad(0.05, (r) => off(r.roll, r.trueRoll)).length).toBeLessThanOrEqual(1);
    const distinct = rows.filter((r) => DISTINCT.includes(r.kind));
    const order = (pick: (r: (typeof rows)[number]) => number): string[] =>
      [...distinct].sort((a, b) => pick(a) - pick(b)).map((r) => r.kind);
    expect(order((r) => r.jitter)).toEqual(order((r) => r.trueJitter));
    expect(order((r) => r.roll)).toEqual(order((r) => r.trueRoll));
  });
});

describe("files that are no clip, or an odd one", () => {
  const take: MadeTake = { ...PLAIN, seed: 3, width: 320, height: 180, frames: 40 };
  it("say what is wrong, one by one", async () => {
    const good = encoded("good.mp4", take);
    const cut = path.join(folder, "cut.mp4");
    const bytes = readFileSync(good);
    writeFileSync(cut, bytes.subarray(0, bytes.length - 2000));
    const jpeg = path.join(folder, "renamed.mp4");
    execFileSync("ffmpeg", ["-v", "error", "-y", "-i", good, "-frames:v", "1", "-f", "mjpeg", jpeg]);
    const sound = path.join(folder, "sound.mp4");
    execFileSync("ffmpeg", ["-v", "error", "-y", "-f", "lavfi", "-i", "sine=duration=1", sound]);
    const empty = path.join(folder, "empty.mp4");
    writeFileSync(empty, "");
    const tiny = encoded("tiny.mp4", { ...take, width: 48, height: 32, frames: 5 });
    const problems = [];
    for (const file of [cut, jpeg, sound, empty, tiny]) {
      const m = await measureFile(file);
      problems.push(m.ok ? "measured" : m.problem);
    }
    expect(problems).toEqual(["cut-off", "no-clip", "no-picture", "no-clip", "too-small"]);
  });
  const of = async (file: string) => ({ ...measuresOf((await measured(file)).record), probe: (await measured(file)).probe });
  it("measure the same picture alike when it is turned, and say nothing of two frames", async () => {
    const good = encoded("good.mp4", take);
    const plain = await of(good);
    const turned = path.join(folder, "turned.mp4");
    execFileSync("ffmpeg", ["-v", "error", "-y", "-i", good, "-c", "copy", "-metadata:s:v", "rotate=90", turned]);
    const t = await of(turned);
    expect([t.probe.shownWidth, t.probe.shownHeight]).toEqual([180, 320]);
    // Up and down has become sideways, in shares of a narrower picture.
    expect(off(t.jitterXFrac, ((plain.jitterYFrac ?? 0) * 320) / 180)).toBeLessThan(0.03);
    const two = await of(encoded("two.mp4", { ...take, frames: 2 }));
    expect(two.flags).toContain("too-few-frames");
    expect(two.jitterRmsFrac).toBeNull();
  });
  it.runIf(WHOLE)("measure the same picture alike: deep, fast, variable, with sound, woven, in another container", async () => {
    const good = encoded("good.mp4", take);
    const plain = await of(good);
    const deep = await of(
      encoded("deep.mp4", take, ["-c:v", "libx265", "-x265-params", "log-level=error:crf=16", "-pix_fmt", "yuv420p10le"]),
    );
    expect(deep.probe.bits).toBe(10);
    expect(off(deep.jitterRmsFrac, plain.jitterRmsFrac ?? 0)).toBeLessThan(0.02);
    const webm = await of(encoded("same.webm", take, ["-c:v", "libvpx-vp9", "-crf", "24", "-b:v", "0", "-pix_fmt", "yuv420p"]));
    expect(off(webm.jitterRmsFrac, plain.jitterRmsFrac ?? 0)).toBeLessThan(0.02);
    const film = await of(encoded("film.mp4", { ...take, rateHz: 24000 / 1001 }));
    expect(film.fps).toBeCloseTo(23.976, 2);
    const fast = await of(encoded("fast.mp4", { ...take, rateHz: 120, frames: 60 }));
    expect(fast.fps).toBeCloseTo(120, 1);
    const uneven = path.join(folder, "uneven.mp4");
    execFileSync("ffmpeg", [
      "-v",
      "error",
      "-y",
      "-i",
      good,
      "-vf",
      "select='not(eq(mod(n,5),2))'",
      "-fps_mode",
      "vfr",
      "-pix_fmt",
      "yuv420p",
      uneven,
    ]);
    const v = await of(uneven);
    expect(v.flags).toContain("variable-rate");
    expect(off(v.jitterRmsFrac, plain.jitterRmsFrac ?? 0)).toBeLessThan(0.05);
    const heard = path.join(folder, "heard.mp4");
    const tone = [
      "-f",
      "lavfi",
      "-i",
      "sine=frequency=3000:sample_rate=48000:duration=1.6",
      "-filter:a",
      "volume=-30dB",
      "-c:a",
      "aac",
      "-shortest",
    ];
    execFileSync("ffmpeg", ["-v", "error", "-y", "-i", good, ...tone, "-c:v", "copy", "-map", "0:v", "-map", "1:a", heard]);
    const { sound } = await measured(heard);
    expect(sound?.floorDb).toBeLessThan(-30);
    expect(sound?.peaks.some((p) => Math.abs(p.hz - 3000) < 24)).toBe(true);
    expect((await measured(good)).sound).toBeNull();
    // Two moments woven into one frame, as an interlaced camera writes them; its stream need not say so.
    const woven = path.join(folder, "woven.mp4");
    const shaky = encoded("shaky.mp4", { ...take, rateHz: 50, frames: 80, gait: { stepHz: 1.9, vigour: 3, drift: 1 } });
    execFileSync("ffmpeg", [
      "-v",
      "error",
      "-y",
      "-i",
      shaky,
      "-vf",
      "tinterlace=interleave_top,setfield=prog",
      "-pix_fmt",
      "yuv420p",
      woven,
    ]);
    expect((await measured(woven)).probe.interlaced).toBe(true);
    expect((await measured(shaky)).probe.interlaced).toBe(false);
  });
});
