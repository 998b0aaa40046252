// The hours ruler over a day, with a line down through every hour.

import type { Scale } from "./linear.ts";

const HOUR_MS = 3_600_000;

export function HoursRuler({
  x,
  fromMs,
  toMs,
  clockOf,
  y,
  height,
}: {
  x: Scale;
  fromMs: number;
  toMs: number;
  /** Time of day of a moment. */
  clockOf: (ms: number) => string;
  y: number;
  height: number;
}) {
  const perHour = x(fromMs + HOUR_MS) - x(fromMs);
  const every = [1, 2, 3, 4, 6].find((n) => n * perHour >= 64) ?? 12;
  const first = Math.ceil(fromMs / (HOUR_MS / 4)) * (HOUR_MS / 4);
  const quarters = Array.from({ length: Math.floor((toMs - first) / (HOUR_MS / 4)) + 1 }, (_, i) => first + (i * HOUR_MS) / 4);
  const isHour = (ms: number): boolean => clockOf(ms).includes(":00");
  const hours = quarters.filter(isHour);
  return (
    <g aria-hidden="true">
      <path d={`M${x(fromMs)} ${y}H${x(toMs)}`} style={{ stroke: "var(--rule2)" }} />
      {quarters.map((ms) => (
        <path key={ms} d={`M${x(ms)} ${y}v${isHour(ms) ? -10 : -5}`} style={{ stroke: "var(--rule2)" }} />
      ))}
      {hours.map((ms, i) => (
        <g key={ms}>
          <path d={`M${x(ms)} ${y}V${height}`} style={{ stroke: "var(--rule)" }} />
          {i % every === 0 && (
            <text x={x(ms)} y={y - 16} fontSize="13" textAnchor="middle" className="num" style={{ fill: "var(--soft)" }}>
              {clockOf(ms)}
            </text>
          )}
        </g>
      ))}
    </g>
  );
}
