// npm run measure -- CLIP… [--hfov DEG] [--against CONTROL]: each clip's numbers as JSON, measured by ffmpeg and the same core as in the browser.

import path from "node:path";
import { parseArgs } from "node:util";
import type { Measures } from "@keep-rolling/core/motion";
import { cropAgainst, degreesOf, measuresOf } from "@keep-rolling/core/motion";
import type { FileMeasured } from "../../apps/server/src/media/video/measureFile.ts";
import { measureFile } from "../../apps/server/src/media/video/measureFile.ts";
import { PROBLEM_WORDS } from "../../apps/server/src/media/video/words.ts";

const USAGE = "npm run measure -- CLIP… [--hfov DEG] [--against CONTROL]";

function readArgs(): { clips: string[]; hfovDeg: number | null; against: string | null } {
  const { values, positionals } = parseArgs({
    allowPositionals: true,
    options: { hfov: { type: "string" }, against: { type: "string" } },
  });
  const hfovDeg = values.hfov === undefined ? null : Number(values.hfov);
  if (positionals.length === 0) throw new RangeError(`Which clips? ${USAGE}`);
  if (hfovDeg !== null && !(hfovDeg > 0 && hfovDeg < 180))
    throw new RangeError(`--hfov must lie between 0 and 180 degrees, got ${values.hfov}`);
  return { clips: positionals, hfovDeg, against: values.against ?? null };
}

/** The keys of a measured clip, as methods.md names them, and what else is known. */
function asJson(
  file: string,
  { probe, record, keyFrames, cutOff, sound }: FileMeasured,
  hfovDeg: number | null,
  control: FileMeasured | null,
): object {
  const m: Measures = measuresOf(record);
  const deg = (frac: number | null): number | null => (frac === null || hfovDeg === null ? null : degreesOf(frac, hfovDeg));
  const crop = control === null ? null : cropAgainst(keyFrames, control.keyFrames);
  const { pan, flags, ...rest } = m;
  const more = [
    ...(probe.interlaced ? ["interlaced"] : []),
    ...(probe.hdr ? ["hdr"] : []),
    ...(cutOff ? ["cut-off"] : []),
    ...(control !== null && crop === null ? ["no-crop"] : []),
  ];
  return {
    file,
    ...rest,
    fps: Math.round(m.fps * 1000) / 1000,
    width: probe.shownWidth,
    height: probe.shownHeight,
    jitterRmsDeg: deg(m.jitterRmsFrac),
    driftRmsDeg: deg(m.driftRmsFrac),
    cropFactor: crop?.factor ?? null,
    lightStopsAgainstControl: control === null ? null : m.lightStops - measuresOf(control.record).lightStops,
    microphoneFloorDb: sound?.floorDb ?? null,
    microphonePeaks: sound?.peaks ?? [],
    pan: pan === null ? null : { ...pan, excessDeg: deg(pan.excessFrac) },
    flags: [...flags, ...more],
  };
}

async function main(): Promise<void> {
  const { clips, hfovDeg, against } = readArgs();
  const control = against === null ? null : await measureFile(against);
  if (control !== null && !control.ok) throw new RangeError(`The control ${against}: ${PROBLEM_WORDS[control.problem]}`);
  const all: object[] = [];
  for (const clip of clips) {
    const measured = await measureFile(clip).catch((error: unknown) => ({ ok: false as const, error: String(error) }));
    if (measured.ok) all.push(asJson(path.basename(clip), measured, hfovDeg, control));
    else if ("error" in measured) all.push({ file: path.basename(clip), problem: "not-opened", because: measured.error, flags: [] });
    else all.push({ file: path.basename(clip), problem: measured.problem, because: PROBLEM_WORDS[measured.problem], flags: [] });
  }
  console.log(JSON.stringify(all, null, 2));
}

try {
  await main();
} catch (error) {
  console.error(error instanceof Error ? error.message : String(error));
  process.exitCode = 1;
}
