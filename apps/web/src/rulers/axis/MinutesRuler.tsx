// The minutes ruler beneath a strip.

import { formatTick } from "@keep-rolling/core/format";
import type { Scale } from "./linear.ts";
import { minuteTicks } from "./minutes.ts";

export function MinutesRuler({ x, y, maxMs, widthPx }: { x: Scale; y: number; maxMs: number; widthPx: number }) {
  const { labelled, between } = minuteTicks(maxMs, Math.max(2, Math.floor(widthPx / 84)));
  return (
    <g aria-hidden="true">
      <path d={`M${x(0)} ${y}H${x(maxMs)}`} style={{ stroke: "var(--rule2)" }} />
      {between.map((ms) => (
        <path key={ms} d={`M${x(ms)} ${y}v5`} style={{ stroke: "var(--rule2)" }} />
      ))}
      {labelled.map((ms) => (
        <g key={ms}>
          <path d={`M${x(ms)} ${y}v9`} style={{ stroke: "var(--rule2)" }} />
          <text x={x(ms)} y={y + 24} fontSize="12.5" textAnchor="middle" className="num" style={{ fill: "var(--soft)" }}>
            {formatTick(ms)}
          </text>
        </g>
      ))}
    </g>
  );
}
