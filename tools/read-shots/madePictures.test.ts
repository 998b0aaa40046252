// Made pictures against their known truth: the more their hands shook the less detail is left, and each camera's way of writing lands on the same dial.

import { execFileSync } from "node:child_process";
import { describe, expect, it } from "vitest";
import { USUALLY } from "@keep-rolling/core/holds";
import { readShot, rungsOf } from "@keep-rolling/core/shots";
import { withExif } from "@keep-rolling/core/stand-ins/exif";
import type { MadePicture } from "@keep-rolling/core/stand-ins/pictures";
import { MADE_CAMERAS, madePictures } from "@keep-rolling/core/stand-ins/pictures";

const PLAN = {
  ...USUALLY,
  focalMm: 30,
  spans: { off: { fastest: -8, slowest: -2 }, on: { fastest: -8, slowest: -2 } },
  stepStops: 1 as const,
  shotsEach: 1,
};
const HANDS = { seed: 4, threshold: { off: -6, on: -3 }, slope: 1.6, lapse: 0, badShare: 0 };
const madeBy = (i: number): MadePicture[] => {
  const camera = MADE_CAMERAS[i];
  if (camera === undefined) throw new Error(`no made camera ${i}`);
  return madePictures(PLAN, HANDS, { camera, begunMs: Date.UTC(2031, 5, 14, 9) });
};
const jpegOf = ({ draw }: MadePicture): Uint8Array => {
  const { width, height, rgba } = draw();
  const raw = ["-f", "rawvideo", "-pix_fmt", "rgba", "-s", `${width}x${height}`, "-i", "pipe:0"];
  return new Uint8Array(
    execFileSync("ffmpeg", ["-loglevel", "error", ...raw, "-f", "mjpeg", "-q:v", "2", "pipe:1"], { input: rgba, maxBuffer: 1e8 }),
  );
};
/** Mean step across three pixels among the spokes, in the direction in which least is left: blur takes it along its own. */
const detail = ({ draw }: MadePicture): number => {
  const { width, height, rgba } = draw();
  const along = ([dx, dy]: readonly [number, number]): number => {
    let sum = 0;
    for (let y = -22; y < 22; y++)
      for (let x = -22; x < 22; x++) {
        const i = (height / 2 + y) * width + width / 2 + x;
        sum += Math.abs((rgba[4 * i] ?? 0) - (rgba[4 * (i + dy * width + dx)] ?? 0));
      }
    return sum / 44 ** 2;
  };
  return Math.min(along([3, 0]), along([0, 3]), along([2, 2]), along([2, -2]));
};

/** Pictures of each camera: enough to have an order, and more by `npm run proof`. */
const EACH = process.env.PROOF === "1" ? 6 : 2;

describe("made pictures", () => {
  it("of every camera say the times of the plan, their lens and their order", () => {
    for (const i of MADE_CAMERAS.keys()) {
      const made = madeBy(i);
      const read = made.slice(0, EACH).map((m) => readShot(withExif(jpegOf(m), m.exif)));
      expect(read).toHaveLength(EACH);
      expect(new Set(read.map((r) => r.problem))).toEqual(new Set([null]));
      expect(rungsOf(read).map((r) => Math.log2(r ?? 0))).toEqual(made.slice(0, EACH).map((m) => m.shot.x));
      expect(new Set(read.map((r) => r.focalMm))).toEqual(new Set([30]));
      expect(read.map((r) => r.takenAt ?? "")).toEqual([...read.map((r) => r.takenAt ?? "")].sort());
    }
  }, 60_000);
  it("lose detail with the blur they were made with, and are called what that blur makes them", () => {
    const by = [...madeBy(0)].sort((a, b) => a.margin - b.margin);
    const [sharpest, blurred] = [by.slice(0, 4), by.slice(-4)];
    expect(sharpest.every((m) => m.truth === "sharp") && blurred.every((m) => m.truth === "lost" || m.truth === "soft")).toBe(true);
    expect(Math.min(...sharpest.map(detail))).toBeGreaterThan(1.5 * Math.max(...blurred.map(detail)));
    for (const m of by) expect(m.truth === "sharp" || m.truth === "usable").toBe(m.shot.grade === "kept");
  });
});
