// Pictures as several invented cameras write them, made by ffmpeg and the stand-in's Exif, and files that are none: each read or named.

import { execFileSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import os from "node:os";
import path from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { isPlainHalvedColour, readShot, rungsOf } from "@keep-rolling/core/shots";
import type { ExifValue } from "../../packages/core/src/stand-ins/shots/exif.ts";
import { exifBytes, TAG, withExif } from "../../packages/core/src/stand-ins/shots/exif.ts";

let folder = "";
let jpeg = new Uint8Array();
beforeAll(() => {
  folder = mkdtempSync(path.join(os.tmpdir(), "kr-shots-"));
  jpeg = picture("plain.jpg");
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

function picture(name: string, ...args: string[]): Uint8Array<ArrayBuffer> {
  const file = path.join(folder, name);
  execFileSync("ffmpeg", ["-v", "error", "-y", "-f", "lavfi", "-i", "testsrc2=size=96x64:d=0.04", "-frames:v", "1", ...args, file]);
  return new Uint8Array(readFileSync(file));
}
const shot = (taken: Record<number, ExifValue>, main: Record<number, ExifValue> = {}, littleEndian = true): Uint8Array =>
  withExif(jpeg, { main: { [TAG.make]: "Wharf", [TAG.model]: "Tern 2", ...main }, taken, littleEndian });

describe("one shot", () => {
  it("is read whole, in either order of bytes", () => {
    for (const littleEndian of [true, false])
      expect(
        readShot(
          shot(
            {
              [TAG.exposureTime]: [1, 13],
              [TAG.fNumber]: [56, 10],
              [TAG.iso]: { short: 400 },
              [TAG.takenAt]: "2031:06:14 10:20:30",
              [TAG.subSec]: "25",
              [TAG.offset]: "+02:00",
              [TAG.focal]: [300, 10],
              [TAG.equivalent]: { short: 45 },
            },
            { [TAG.orientation]: { short: 6 } },
            littleEndian,
          ),
        ),
      ).toEqual({
        kind: "jpeg",
        camera: "Wharf Tern 2",
        exposureSec: 1 / 13,
        focalMm: 30,
        focalEquivalentMm: 45,
        iso: 400,
        fNumber: 5.6,
        takenAt: "2031-06-14T10:20:30.25+02:00",
        orientation: 6,
        widthPx: 96,
        heightPx: 64,
        stabiliser: null,
        problem: null,
      });
  });
  it("takes APEX values, the longer sensitivity and the sensor's pixels where the plain tags say nothing", () => {
    const read = readShot(
      shot({
        [TAG.shutterSpeed]: [-1, 1],
        [TAG.aperture]: [6, 1],
        [TAG.iso]: { short: 65_535 },
        [TAG.longIso]: 102_400,
        [TAG.focal]: [20, 1],
        [TAG.width]: 6000,
        [TAG.height]: 4000,
        [TAG.planeX]: [600_000, 2350],
        [TAG.planeY]: [400_000, 1560],
        [TAG.planeUnit]: { short: 4 },
      }),
    );
    expect(read).toMatchObject({ exposureSec: 2, fNumber: 8, iso: 102_400, problem: null, takenAt: null, orientation: 1 });
    expect(read.focalEquivalentMm).toBeCloseTo((20 * 43.2666) / Math.hypot(23.5, 15.6), 3);
  });
  it("in PNG and WebP and progressive JPEG has its size, and says that it has no Exif", () => {
    for (const [name, kind] of [
      ["a.png", "png"],
      ["a.webp", "webp"],
    ] as const)
      expect(readShot(picture(name))).toMatchObject({ kind, widthPx: 96, heightPx: 64, problem: "no-exif", exposureSec: null });
    expect(readShot(picture("deep.png", "-pix_fmt", "rgb48be"))).toMatchObject({ kind: "png", widthPx: 96, problem: "no-exif" });
    expect(readShot(jpeg)).toMatchObject({ kind: "jpeg", widthPx: 96, problem: "no-exif" });
    expect(readShot(shot({ [TAG.iso]: { short: 100 } }))).toMatchObject({ iso: 100, problem: "no-exposure-time" });
  });
});

describe("how a JPEG stores colour", () => {
  it("is told from its header, with a camera's Exif before it: halved both ways, or not", () => {
    for (const [format, halved] of [
      ["yuvj420p", true],
      ["yuvj422p", false],
      ["yuvj444p", false],
      ["gray", false],
    ] as const) {
      const plain = picture(`${format}.jpg`, "-pix_fmt", format);
      expect(isPlainHalvedColour(plain)).toBe(halved);
      expect(isPlainHalvedColour(withExif(plain, { main: { [TAG.model]: "Tern 2" }, taken: {}, littleEndian: true }))).toBe(halved);
    }
    expect(isPlainHalvedColour(picture("no.png"))).toBe(false);
  });
  it("is not plain with a profile or a transform of its own, and never goes on behind the end", () => {
    const plain = picture("halved.jpg", "-pix_fmt", "yuvj420p");
    const withSegment = (marker: number, text: string): Uint8Array => {
      const body = new TextEncoder().encode(text);
      return Uint8Array.of(0xff, 0xd8, 0xff, marker, 0, body.length + 2, ...body, ...plain.subarray(2));
    };
    expect(isPlainHalvedColour(withSegment(0xe2, "MPF\0other"))).toBe(true);
    expect(isPlainHalvedColour(withSegment(0xe2, "ICC_PROFILE\0\u0001\u0001"))).toBe(false);
    expect(isPlainHalvedColour(withSegment(0xee, "Adobe\0dtransf"))).toBe(false);
    const scan = plain.findIndex((byte, i) => byte === 0xff && plain[i + 1] === 0xda);
    expect(scan).toBeGreaterThan(100);
    for (let end = 0; end <= scan; end++) expect(isPlainHalvedColour(plain.subarray(0, end))).toBe(false);
  });
});

describe("files that are no whole shot", () => {
  it("are named one by one, and never throw", () => {
    const whole = shot({ [TAG.exposureTime]: [1, 60] });
    expect(readShot(new Uint8Array())).toMatchObject({ kind: null, problem: "no-picture" });
    expect(readShot(new TextEncoder().encode("a note, not a picture"))).toMatchObject({ problem: "no-picture" });
    expect(readShot(whole.subarray(0, whole.length - 40))).toMatchObject({ problem: "cut-off", exposureSec: 1 / 60 });
    expect(readShot(Uint8Array.of(0xff, 0xd8, 0xff, 0xd9))).toMatchObject({ kind: "jpeg" });
    const heic = new Uint8Array(64);
    heic.set(new TextEncoder().encode("\0\0\0\x18ftypheic"));
    expect(readShot(heic).problem).toBe("heic");
    // A small picture inside, as cameras write it, ends long before the shot does.
    const withSmall = new Uint8Array(jpeg.length + jpeg.length + 4);
    withSmall.set([0xff, 0xd8, 0xff, 0xed, (jpeg.length + 2) >> 8, (jpeg.length + 2) & 0xff]);
    withSmall.set(jpeg, 6);
    withSmall.set(jpeg.subarray(2), 6 + jpeg.length);
    expect(readShot(withSmall).problem).toBe("no-exif");
    expect(readShot(withSmall.subarray(0, withSmall.length - 60)).problem).toBe("cut-off");
    // A thousand spoilt copies: whatever they are, an answer.
    let state = 7;
    const next = (): number => (state = (state * 48_271) % 2_147_483_647);
    for (let i = 0; i < 1000; i++) {
      const spoilt = whole.slice(0, 1 + (next() % whole.length));
      for (let k = 0; k < 8; k++) spoilt[next() % spoilt.length] = next() % 256;
      const read = readShot(spoilt);
      for (const value of [read.exposureSec, read.focalMm, read.iso, read.fNumber]) expect(value === null || value > 0).toBe(true);
    }
  });
  it("raw ones are drawn by the JPEG inside them, or said to have none", () => {
    const block = { main: { [TAG.model]: "Tern 2" }, taken: { [TAG.exposureTime]: [1, 4] as const }, littleEndian: true };
    const tiff = exifBytes(block);
    const raw = new Uint8Array(tiff.length + jpeg.length);
    raw.set(tiff);
    raw.set(jpeg, tiff.length);
    expect(readShot(raw)).toMatchObject({ kind: "raw", exposureSec: 0.25, widthPx: 96, heightPx: 64, problem: null });
    expect(readShot(tiff)).toMatchObject({ kind: "raw", exposureSec: 0.25, problem: "raw-without-picture" });
  });
});

describe("rungs", () => {
  it("are places on the dial of each camera by itself: thirds, or halves where one time is on no dial of thirds", () => {
    const read = (model: string, sec: readonly [number, number]) => readShot(shot({ [TAG.exposureTime]: sec }, { [TAG.model]: model }));
    const shots = [
      read("Tern 2", [3, 10]),
      read("Tern 2", [10, 156]),
      read("Tern 2", [8, 10]),
      read("Plover", [3, 10]),
      read("Plover", [1, 45]),
      readShot(jpeg),
    ];
    const rungs = rungsOf(shots).map((r) => (r === null ? null : Math.log2(r)));
    for (const [i, want] of [-5 / 3, -4, -1 / 3, -1.5, -5.5].entries()) expect(rungs[i]).toBeCloseTo(want, 9);
    expect(rungs[5]).toBeNull();
  });
});

describe("the command", () => {
  it("prints an array of exactly the keys, in order, and says which file is not there", () => {
    const one = path.join(folder, "one.jpg");
    writeFileSync(one, shot({ [TAG.exposureTime]: [1, 60], [TAG.focal]: [30, 1] }));
    const main = path.join(import.meta.dirname, "main.ts");
    const tsx = path.join(import.meta.dirname, "../../node_modules/.bin/tsx");
    const out = execFileSync(tsx, [main, one, path.join(folder, "plain.jpg")], { encoding: "utf8" });
    const lines = JSON.parse(out) as Record<string, unknown>[];
    expect(Object.keys(lines[0] ?? {})).toEqual(
      "file exposureSec rung focalMm focalEquivalentMm iso fNumber takenAt orientation widthPx heightPx stabiliser problem".split(" "),
    );
    expect(lines.map((l) => l.problem)).toEqual([null, "no-exif"]);
    expect(lines[0]?.rung).toBe(1 / 64);
    expect(() => execFileSync(tsx, [main, path.join(folder, "none.jpg")], { stdio: ["ignore", "pipe", "ignore"] })).toThrow();
  });
});
