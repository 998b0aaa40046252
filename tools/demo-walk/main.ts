// npm run demo-walk: renders every take of the demo's walking test, measures it, and writes what was measured to demo/src/walkPaths.json.

import { createHash } from "node:crypto";
import { writeFileSync } from "node:fs";
import path from "node:path";
import { demoTakes, WALK_PLAN } from "@keep-rolling/demo/walk";
import { measureDemoTake } from "./measureDemoTake.ts";
import { cropAgainst } from "@keep-rolling/core/motion";
import type { KeyFrame } from "@keep-rolling/core/motion";

const OUT = path.resolve(import.meta.dirname, "../../demo/src/walkPaths.json");
const takes = demoTakes();
const controls = new Map<string, { sha256: string; keyFrames: readonly KeyFrame[] }>();
const clips: object[] = [];
for (const [i, take] of takes.entries()) {
  const { pack, keyFrames } = measureDemoTake(take.made);
  const sha256 = createHash("sha256").update(pack).digest("hex");
  const isControl = take.setupId === WALK_PLAN.controlId;
  if (isControl && !controls.has(take.moveId)) controls.set(take.moveId, { sha256, keyFrames });
  const control = controls.get(take.moveId);
  const factor = isControl || control === undefined ? null : (cropAgainst(keyFrames, control.keyFrames)?.factor ?? null);
  const crop = isControl || control === undefined ? null : { against: control.sha256, factor };
  clips.push({ takeId: take.id, sha256, crop, pack: Buffer.from(pack).toString("base64") });
  console.log(`${i + 1} of ${takes.length}: ${take.made.frames} frames, crop ${factor ?? "-"}`);
}
writeFileSync(OUT, `${JSON.stringify({ clips })}\n`);
