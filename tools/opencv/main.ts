// npm run against-opencv: paths, jitter and roll of shipped and made clips beside those of OpenCV, with the truth, and the time of motion alone.

import { execFileSync, spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import os from "node:os";
import path from "node:path";
import type { MadeTake } from "@keep-rolling/core/stand-ins/takes";
import { PLAIN, truePairs } from "@keep-rolling/core/stand-ins/takes";
import { pairMeter } from "../../packages/core/src/motion/pair.ts";
import { highPass, rmsOf, runningSum } from "../../packages/core/src/motion/path.ts";
import { encodeTake, KINDS } from "../measure/encodeTake.ts";
import { vectorKernels } from "../simd/vectorKernels.ts";

interface Pairs {
  dxFrac: number[];
  dyFrac: number[];
  rollRad: number[];
}
interface Case {
  name: string;
  file: string;
  rateHz: number;
  truth: Pairs;
}

const PYTHON = "/usr/bin/python3";
/** By custom the exit of a check that could not be made. */
const NOT_HERE = 77;
const CLIPS = path.resolve(import.meta.dirname, "../fixtures/clips");

if (spawnSync(PYTHON, ["-c", "import cv2"]).status !== 0) {
  console.log("Not compared: OpenCV is not here (Debian's python3-opencv).");
  process.exit(NOT_HERE);
}

function byOpenCv(file: string): { pairs: Pairs; msPerFrame: number } {
  const text = execFileSync(PYTHON, [path.join(import.meta.dirname, "pairs.py"), file], { encoding: "utf8", maxBuffer: 64e6 });
  const read = JSON.parse(text) as { width: number; pairs: [number, number, number][]; msPerFrame: number };
  const pairs = {
    dxFrac: read.pairs.map((p) => p[0] / read.width),
    dyFrac: read.pairs.map((p) => p[1] / read.width),
    rollRad: read.pairs.map((p) => p[2]),
  };
  return { pairs, msPerFrame: read.msPerFrame };
}

async function byUs(file: string): Promise<{ pairs: Pairs; msPerFrame: number }> {
  const [width, height] = [640, 360];
  const raw = execFileSync("ffmpeg", ["-v", "error", "-i", file, "-vf", "extractplanes=y", "-f", "rawvideo", "pipe:1"], { maxBuffer: 2e9 });
  const meter = pairMeter(width, height, 1, await vectorKernels(width, height));
  const pairs: Pairs = { dxFrac: [], dyFrac: [], rollRad: [] };
  const frames = raw.length / (width * height);
  let tookMs = 0;
  for (let f = 0; f < frames; f++) {
    meter.frame().data.set(raw.subarray(f * width * height, (f + 1) * width * height));
    const from = performance.now();
    const pair = meter.next();
    // The first half warms the compiler up.
    if (f > frames / 2) tookMs += performance.now() - from;
    if (pair === null) continue;
    pairs.dxFrac.push(pair.dxPx / width);
    pairs.dyFrac.push(pair.dyPx / width);
    pairs.rollRad.push(pair.rollRad);
  }
  return { pairs, msPerFrame: tookMs / (frames / 2 - 1) };
}

const jitter = (p: Pairs, hz: number): number =>
  Math.hypot(...[p.dxFrac, p.dyFrac].map((v) => rmsOf(highPass(runningSum(v), hz)) ?? Number.NaN));
const rollDeg = (p: Pairs, hz: number): number => ((rmsOf(highPass(runningSum(p.rollRad), hz)) ?? Number.NaN) * 180) / Math.PI;
const errorPx = (p: Pairs, truth: Pairs): number =>
  640 *
  Math.sqrt(
    truth.dxFrac.reduce((s, dx, i) => s + (dx - (p.dxFrac[i] ?? 0)) ** 2 + ((truth.dyFrac[i] ?? 0) - (p.dyFrac[i] ?? 0)) ** 2, 0) /
      truth.dxFrac.length,
  );

function shipped(name: string): Case {
  const read = JSON.parse(readFileSync(path.join(CLIPS, `${name}.json`), "utf8")) as {
    fps: number;
    pairs: { dx: number[]; dy: number[]; roll_deg: number[] };
  };
  const { dx, dy, roll_deg: roll } = read.pairs;
  const truth = { dxFrac: dx.map((v) => v / 1280), dyFrac: dy.map((v) => v / 1280), rollRad: roll.map((v) => (v * Math.PI) / 180) };
  return { name, file: path.join(CLIPS, `${name}.mp4`), rateHz: read.fps, truth };
}
function made(kind: string, folder: string): Case {
  const take: MadeTake = { ...PLAIN, seed: 77, frames: 75, ...KINDS[kind] };
  const pairs = truePairs(take);
  const truth = { dxFrac: pairs.map((p) => p.dxFrac), dyFrac: pairs.map((p) => p.dyFrac), rollRad: pairs.map((p) => p.rollRad) };
  return { name: `made, ${kind}`, file: encodeTake(path.join(folder, `${kind}.mp4`), take), rateHz: take.rateHz, truth };
}

const folder = mkdtempSync(path.join(os.tmpdir(), "kr-opencv-"));
try {
  const cases = [...["p1_handheld", "p2_electronic", "p3_bumps_subject"].map(shipped), ...Object.keys(KINDS).map((k) => made(k, folder))];
  const off = (got: number, want: number): string => `${(100 * (got / want - 1)).toFixed(2)} %`.padStart(9);
  console.log(`${"clip".padEnd(22)}      ours: pair px   jitter     roll ms/frame   OpenCV: pair px   jitter     roll ms/frame`);
  const ratios: number[] = [];
  for (const { name, file, rateHz, truth } of cases) {
    const [mine, theirs] = [await byUs(file), byOpenCv(file)];
    const row = ({ pairs, msPerFrame }: typeof mine): string =>
      [
        errorPx(pairs, truth).toFixed(3).padStart(13),
        off(jitter(pairs, rateHz), jitter(truth, rateHz)),
        off(rollDeg(pairs, rateHz), rollDeg(truth, rateHz)),
        msPerFrame.toFixed(1).padStart(8),
      ].join(" ");
    ratios.push(mine.msPerFrame / theirs.msPerFrame);
    console.log(`${name.padEnd(22)} ${row(mine)}   ${row(theirs)}`);
  }
  ratios.sort((a, b) => a - b);
  console.log(`motion alone: ${(ratios[ratios.length >> 1] ?? 0).toFixed(2)} times OpenCV's time at the median (goal at most 1)`);
} finally {
  rmSync(folder, { recursive: true, force: true });
}
