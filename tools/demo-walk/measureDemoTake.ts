import type { KeyFrame } from "@keep-rolling/core/motion";
import { clipMeter, NARROW, packRecord } from "@keep-rolling/core/motion";
import type { MadeTake } from "@keep-rolling/core/stand-ins/takes";
import { rendererOf } from "@keep-rolling/core/stand-ins/takes";

/** `frames`: of its first ones only. */
export function measureDemoTake(made: MadeTake, frames = made.frames): { pack: Uint8Array; keyFrames: readonly KeyFrame[] } {
  const renderer = rendererOf(made);
  const meter = clipMeter(made.width, made.height, NARROW);
  for (let n = 0; n < frames; n++) {
    renderer.draw(n, meter.frame());
    meter.push(n / made.rateHz);
  }
  const { keyFrames, ...record } = meter.finish();
  return { pack: packRecord(record), keyFrames };
}
