// Against files written by another program (FFmpeg 5.1.9) and what its own reader (ffprobe 5.1.9) says of them; the demo ships them.

import { createHash } from "node:crypto";
import { readFileSync, statSync } from "node:fs";
import path from "node:path";
import type { ClipSpec } from "@keep-rolling/core/stand-ins";
import { bytesOf, layOutClip } from "@keep-rolling/core/stand-ins";
import { formatTimeCode } from "@keep-rolling/core/clips";
import { describe, expect, it } from "vitest";
import type { ByteSource } from "./readClip.ts";
import { readClip } from "./readClip.ts";

const FOLDER = path.resolve(import.meta.dirname, "../../../../../demo/clips");
const exact = (bytes: Uint8Array): ArrayBuffer => Uint8Array.from(bytes).buffer;
function sourceOf(name: string, bytes: Uint8Array): ByteSource {
  return { name, bytes: bytes.byteLength, modifiedMs: null, read: async (from, to) => exact(bytes.subarray(from, to)) };
}
const shipped = (name: string): ByteSource => sourceOf(name, readFileSync(path.join(FOLDER, name)));
const june = (time: string): number => Date.parse(`2026-06-20T${time}Z`);

describe("clips written by another program", () => {
  it.each([
    ["made-25-code.mp4", june("09:15:30"), 12_000, "09:15:29:12", 640, 360, 25, "avc1", 7946],
    ["made-2997-drop.mov", june("07:00:00"), 4004, "01:01:00;02", 320, 180, 30_000 / 1001, "avc1", 6505],
    ["made-50-index-first.mp4", june("09:20:00"), 6000, null, 320, 180, 50, "hvc1", 11_113],
    ["made-fragmented.mp4", june("09:20:00"), 6000, null, 320, 180, 25, "avc1", 5144],
    ["made-no-time.mp4", null, 2000, null, 320, 180, 25, "avc1", 6984],
  ])("%s", async (name, createdMs, durationMs, code, widthPx, heightPx, fps, codec, bitsPerSec) => {
    const { read } = await readClip(shipped(name));
    expect(read).toMatchObject({ createdMs, durationMs, widthPx, heightPx });
    expect(read?.codec.startsWith(codec)).toBe(true);
    expect((read?.fpsNum ?? 0) / (read?.fpsDen ?? 1)).toBeCloseTo(fps, 9);
    expect(read?.timeCode == null ? null : formatTimeCode(read.timeCode)).toBe(code);
    expect((read?.mbps ?? 0) * 1e6).toBeCloseTo(bitsPerSec, -3.3);
  });
  it("says that a file cut off, or another kind of file, cannot be read, and ends", async () => {
    const whole = readFileSync(path.join(FOLDER, "made-25-code.mp4"));
    for (const part of [
      whole.subarray(0, 3000),
      whole.subarray(0, 10),
      new Uint8Array(0),
      new TextEncoder().encode("notes of the day\n".repeat(99)),
    ])
      expect((await readClip(sourceOf("x.mp4", part))).read).toBeNull();
  });
  it("says so too where the index stands first and the pictures behind it end early", async () => {
    const whole = readFileSync(path.join(FOLDER, "made-50-index-first.mp4"));
    expect((await readClip(sourceOf("x.mp4", whole.subarray(0, whole.length - 1)))).read).toBeNull();
    expect((await readClip(sourceOf("x.mp4", whole.subarray(0, Math.round(0.6 * whole.length))))).read).toBeNull();
    const fragments = readFileSync(path.join(FOLDER, "made-fragmented.mp4"));
    expect((await readClip(sourceOf("x.mp4", fragments.subarray(0, fragments.length - 500)))).read).toBeNull();
  });
  it("comes to an end whatever the bytes are", async () => {
    const whole = readFileSync(path.join(FOLDER, "made-25-code.mp4"));
    for (let i = 0; i < 300; i++) {
      const bytes = Uint8Array.from(whole);
      const hash = createHash("sha256").update(`flip ${i}`).digest();
      for (let k = 0; k < 6; k++) bytes[hash.readUInt32BE(4 * k) % bytes.length] = hash[k + 24] ?? 0;
      const { read } = await readClip(sourceOf("x.mp4", bytes));
      if (read !== null) expect(read.durationMs).toBeGreaterThanOrEqual(0);
    }
  });
  it("keeps the shipped files small", () => {
    for (const name of ["made-25-code.mp4", "made-2997-drop.mov"]) expect(statSync(path.join(FOLDER, name)).size).toBeLessThan(40_000);
  });
});

describe("clips of the simulated camera", () => {
  const spec: ClipSpec = {
    createdMs: june("10:00:07"),
    frames: 50 * 640,
    fpsNum: 50,
    fpsDen: 1,
    widthPx: 3840,
    heightPx: 2160,
    fourcc: "hvc1",
    sampleBytes: 1_000_000,
    timeCodeFrame: 50 * (10 * 3600 + 7) + 13,
    dropFrame: false,
    cutOff: false,
  };
  it("are read back as made, 32 GB of them with a few reads", async () => {
    const file = layOutClip(spec);
    let asked = 0;
    const source: ByteSource = {
      name: "x",
      bytes: file.bytes,
      modifiedMs: null,
      read: async (from, to) => {
        asked += to - from;
        return exact(bytesOf(file, from, to));
      },
    };
    const { read } = await readClip(source);
    expect(file.bytes).toBeGreaterThan(32e9);
    expect(asked).toBeLessThan(2_000_000);
    expect(read).toMatchObject({ createdMs: june("10:00:07"), durationMs: 640_000, widthPx: 3840, fpsNum: 50, fpsDen: 1, mbps: 400 });
    expect(read?.timeCode === null || read === null ? null : formatTimeCode(read.timeCode)).toBe("10:00:07:13");
  });
  it("cannot be read where the power went", async () => {
    const file = layOutClip({ ...spec, sampleBytes: 1, cutOff: true });
    expect((await readClip(sourceOf("x", bytesOf(file, 0, file.bytes)))).read).toBeNull();
  });
});
