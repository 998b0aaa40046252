// A take's wake: one thin line about a dotted middle. Soft frames thicken the middle, leaps and what was not followed break the line, panning is greyed.

import type { Wake as WakeData } from "@keep-rolling/core/motion";
import { linear } from "../axis/linear.ts";

interface Props {
  wake: WakeData;
  /** Which way: sideways, or up and down. */
  along: "x" | "y";
  /** Share of the width that half the height stands for: the same in all rows of a page. */
  halfFrac: number;
  width: number;
  height: number;
  /** Seconds the whole width stands for. */
  seconds: number;
  label: string;
}

export function Wake({ wake, along, halfFrac, width, height, seconds, label }: Props) {
  const x = linear([0, seconds], [0, width]);
  const y = linear([-halfFrac, halfFrac], [0, height]);
  const at = (i: number): number => x(wake.timesSec[i] ?? 0);
  return (
    <svg role="img" aria-label={label} viewBox={`0 0 ${width} ${height}`} width={width} height={height} className="block max-w-full">
      {wake.pans.map((s) => (
        <rect
          key={s.startFrame}
          x={at(s.startFrame)}
          width={Math.max(1, at(s.endFrame) - at(s.startFrame))}
          y={0}
          height={height}
          className="fill-rule opacity-60"
        />
      ))}
      <line x1={0} x2={width} y1={height / 2} y2={height / 2} className="stroke-rule2" strokeDasharray="2 3" />
      {wake.soft.map((s) => (
        <line
          key={s.startFrame}
          x1={at(s.startFrame) - 1}
          x2={at(s.endFrame) + 2}
          y1={height / 2}
          y2={height / 2}
          className="stroke-ink"
          strokeWidth={4}
        />
      ))}
      {pieces(wake).map(([from, to]) => (
        <polyline
          key={from}
          points={wake[along]
            .slice(from, to)
            .map((v, i) => `${at(from + i).toFixed(1)},${Math.min(height, Math.max(0, y(v))).toFixed(1)}`)
            .join(" ")}
          className="fill-none stroke-ink"
          strokeWidth={1.25}
          strokeLinejoin="round"
        />
      ))}
    </svg>
  );
}

/** The line from leap to leap; none where the picture was not followed. */
export function pieces({ jumps, lost, x }: Pick<WakeData, "jumps" | "lost" | "x">): [number, number][] {
  const cuts = [...new Set([...jumps, ...lost].map((j) => j + 1)), x.length].sort((a, b) => a - b);
  return cuts.map((to, i): [number, number] => [i === 0 ? 0 : (cuts[i - 1] ?? 0), to]).filter(([from, to]) => to - from > 1);
}
