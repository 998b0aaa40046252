// npm run read-shots -- PICTURE…: what each picture says of how it was taken, as a JSON array. Nothing leaves the machine; positions and serial numbers are not read.

import { readFileSync } from "node:fs";
import { readShot, rungsOf } from "@keep-rolling/core/shots";
import type { ReadShot } from "@keep-rolling/core/shots";

const files = process.argv.slice(2);
if (files.length === 0) {
  console.error("Which pictures? npm run read-shots -- PICTURE…");
  process.exit(2);
}

function readFile(file: string): ReadShot | null {
  try {
    return readShot(readFileSync(file));
  } catch {
    return null;
  }
}
const BLANK = {
  exposureSec: null,
  rung: null,
  focalMm: null,
  focalEquivalentMm: null,
  iso: null,
  fNumber: null,
  takenAt: null,
  orientation: null,
  widthPx: null,
  heightPx: null,
  stabiliser: null,
};
const shots = files.map(readFile);
const rungs = rungsOf(shots.flatMap((s) => s ?? []));
let next = 0;
const lines = shots.map((shot, i) => {
  const file = files[i];
  if (shot === null) return { file, ...BLANK, problem: "no-file" };
  const { kind: _kind, camera: _camera, exposureSec, ...rest } = shot;
  return { file, exposureSec, rung: rungs[next++] ?? null, ...rest };
});
console.log(JSON.stringify(lines, null, 1));
process.exitCode = shots.every((s) => s !== null) ? 0 : 1;
