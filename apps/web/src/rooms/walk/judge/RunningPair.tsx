// Both takes of a pair on one canvas, without names or paths, running over and over.

import { useEffect, useMemo, useRef } from "react";
import { useWidth } from "../../../shared/ui/useWidth.ts";
import { compose, inksOf, sheetOf } from "../look/compose.ts";
import { fields, laid, spanOf } from "../look/lay.ts";
import { frameAt } from "../look/player.ts";
import type { LookedAt } from "../look/lookedAt.ts";

export function RunningPair({ takes }: { takes: readonly LookedAt[] }) {
  const [box, width] = useWidth<HTMLDivElement>(1000);
  const canvas = useRef<HTMLCanvasElement>(null);
  const sheet = sheetOf(2, width, false);
  const reads = useMemo(() => takes.map((t) => t.read), [takes]);
  useEffect(() => {
    const lays = laid(reads, "footfall", []);
    const span = spanOf(reads, lays, takes[0]?.frames.timesSec ?? []);
    const shown = fields(
      takes.map((t) => t.cropFactor),
      true,
    );
    if (span === null) return;
    const started = performance.now();
    let [asked, left] = [0, false];
    const tick = async (now: number): Promise<void> => {
      const sec = span.fromSec + (((now - started) / 1000) % Math.max(0.1, span.toSec - span.fromSec));
      const panes = await Promise.all(
        takes.map(async (t, i) => {
          const frame = await t.frames.at(frameAt(t.frames.timesSec, sec + (lays[i]?.zeroSec ?? 0)));
          return { frame, shown: shown[i]?.shown ?? 1, name: t.name, note: "", path: [] };
        }),
      );
      const element = canvas.current;
      const c = element?.getContext("2d");
      if (left || element === null || c == null) return;
      compose(c, { width: element.width, height: element.height }, panes, { wipe: false, wipeAt: 0.5, path: false }, inksOf(element));
      asked = requestAnimationFrame((t) => void tick(t));
    };
    asked = requestAnimationFrame((t) => void tick(t));
    return () => {
      left = true;
      cancelAnimationFrame(asked);
    };
  }, [takes, reads]);
  return (
    <div ref={box}>
      <canvas
        ref={canvas}
        width={sheet.width}
        height={sheet.height}
        role="img"
        aria-label="First and second take, running"
        className="block h-auto max-w-full"
      />
    </div>
  );
}
