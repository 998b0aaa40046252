// The stops ruler: exposure times at their places on the dial, slower to the right. A row a setting; each shot an upright block, kept solid, lost hollow,
// in shooting order; the limit as an upright with its interval; the distance of two limits as a bracket.

import type { Scale } from "../axis/linear.ts";
import { linear } from "../axis/linear.ts";

export interface StopsRow {
  name: string;
  /** Shots in order; true: kept. */
  shots: readonly { x: number; kept: boolean }[];
  /** Null side: no limit there. Null: nothing can be said. */
  interval: { low: number | null; high: number | null } | null;
  claim: number | null;
  /** Share kept at each time with its bar, 0 to 1. */
  rates: readonly { x: number; share: number; bar: { lower: number; upper: number } | null }[];
  /** The curve through them; empty: none can be read. */
  curve: readonly { x: number; rate: number }[];
}
export interface StopsMark {
  x: number;
  name: string;
  kind: "rule" | "claim";
}
interface Props {
  rows: readonly StopsRow[];
  marks: readonly StopsMark[];
  bracket: { from: number; to: number; words: string } | null;
  width: number;
  label: string;
  labelOf: (x: number) => string;
}

const LEFT = 44;
/** Of the ruler's type, about. */
const LETTER = 8.2;
const TOP = 74;
const ROW = 116;
/** Where the keep rates of a row stand, beneath its shots. */
const RATES = { top: 46, height: 44 };
const BLOCK = { width: 7, height: 14, apart: 9 };

export function StopsRuler({ rows, marks, bracket, width, label, labelOf }: Props) {
  const xs = [...rows.flatMap((r) => r.shots.map((s) => s.x)), ...marks.map((m) => m.x)];
  if (xs.length === 0) return null;
  const [from, to] = [Math.floor(Math.min(...xs)) - 0.6, Math.ceil(Math.max(...xs)) + 0.6];
  const at = linear([from, to], [LEFT, width - 8]);
  const bottom = TOP + rows.length * ROW;
  const stops = Array.from({ length: Math.floor(to) - Math.ceil(from) + 1 }, (_, i) => Math.ceil(from) + i);
  const every = Math.max(1, Math.ceil(56 / (at(1) - at(0))));
  return (
    <svg role="img" aria-label={label} width={width} height={bottom + 36} className="num block text-[0.8rem]">
      <path d={`M${LEFT} ${bottom}H${width - 8}`} style={{ stroke: "var(--rule2)" }} />
      {stops.map((x, i) => (
        <g key={x} aria-hidden="true">
          <path d={`M${at(x)} ${bottom}v8`} style={{ stroke: "var(--rule2)" }} />
          {i % every === 0 && (
            <text x={at(x)} y={bottom + 24} textAnchor="middle" style={{ fill: "var(--soft)" }}>
              {labelOf(x)}
            </text>
          )}
        </g>
      ))}
      {marks.map((m, i) => (
        <MarkLine key={m.name} mark={m} x={at(m.x)} y={TOP - 14 - 15 * (i % 2)} bottom={bottom} width={width} />
      ))}
      {rows.map((row, i) => (
        <Row key={row.name} row={row} at={at} y={TOP + i * ROW} width={width} />
      ))}
      {bracket !== null && (
        <g aria-hidden="true" style={{ fill: "none", stroke: "var(--cool)" }}>
          <path d={`M${at(bracket.from)} 30v-8H${at(bracket.to)}v8`} strokeWidth={1.5} />
          <text
            x={Math.min(width - 110, Math.max(110, (at(bracket.from) + at(bracket.to)) / 2))}
            y={15}
            textAnchor="middle"
            fontWeight={600}
            style={{ fill: "var(--cool)", stroke: "none" }}
          >
            {bracket.words}
          </text>
        </g>
      )}
    </svg>
  );
}

function Row({ row, at, y, width }: { row: StopsRow; at: Scale; y: number; width: number }) {
  const xs = [...new Set(row.shots.map((s) => s.x))];
  const [low, high] = [row.interval?.low ?? null, row.interval?.high ?? null];
  return (
    <g aria-hidden="true">
      <text x={0} y={y + 12} fontWeight={600} style={{ fill: "var(--ink)" }}>
        {row.name}
      </text>
      {xs.map((x) => {
        const here = row.shots.filter((s) => s.x === x);
        const apart = Math.min(BLOCK.apart, (at(1) - at(0) - 4) / here.length);
        return here.map((s, i) => (
          <rect
            key={`${x} ${i}`}
            x={at(x) + (i - here.length / 2) * apart}
            y={y}
            width={Math.max(2, apart - 2)}
            height={BLOCK.height}
            style={{ fill: s.kept ? "var(--ink)" : "none", stroke: "var(--ink)" }}
          />
        ));
      })}
      {row.interval !== null && (low !== null || high !== null) && (
        <path
          d={`M${low === null ? LEFT : at(low)} ${y + 26}H${high === null ? width - 8 : at(high)}`}
          style={{ stroke: "var(--cool)" }}
          strokeWidth={1.5}
          strokeDasharray={low === null || high === null ? "6 3" : undefined}
        />
      )}
      <Rates row={row} at={at} y={y + RATES.top} width={width} />
      {row.claim !== null && <path d={`M${at(row.claim)} ${y + 16}v22`} style={{ stroke: "var(--cool)" }} strokeWidth={2.5} />}
    </g>
  );
}

/** None to all kept, bottom to top: a point with its bar at each time, and the curve. */
function Rates({ row, at, y, width }: { row: StopsRow; at: Scale; y: number; width: number }) {
  const up = (share: number): number => y + RATES.height * (1 - share);
  return (
    <>
      <path d={`M${LEFT} ${up(0)}H${width - 8}M${LEFT} ${up(1)}H${width - 8}`} style={{ stroke: "var(--rule)" }} />
      <text x={LEFT - 6} y={up(1) + 4} textAnchor="end" style={{ fill: "var(--soft)" }} fontSize="0.65rem">
        all
      </text>
      <text x={LEFT - 6} y={up(0) + 2} textAnchor="end" style={{ fill: "var(--soft)" }} fontSize="0.65rem">
        none
      </text>
      {row.curve.length > 1 && (
        <path
          d={row.curve.map((c, i) => `${i === 0 ? "M" : "L"}${at(c.x)} ${up(c.rate)}`).join("")}
          style={{ stroke: "var(--cool)", fill: "none" }}
        />
      )}
      {row.rates.map((r) => (
        <g key={r.x} style={{ stroke: "var(--ink)", fill: "var(--ink)" }}>
          {r.bar !== null && <path d={`M${at(r.x)} ${up(r.bar.lower)}V${up(r.bar.upper)}`} />}
          <circle cx={at(r.x)} cy={up(r.share)} r={2.5} />
        </g>
      ))}
    </>
  );
}

function MarkLine({ mark, x, y, bottom, width }: { mark: StopsMark; x: number; y: number; bottom: number; width: number }) {
  const colour = mark.kind === "claim" ? "var(--claim)" : "var(--soft)";
  // In its middle over the line, and never beyond the page.
  const half = (mark.name.length * LETTER) / 2;
  const middle = Math.min(width - half, Math.max(half, x));
  return (
    <g aria-hidden="true">
      {mark.kind === "claim" ? (
        <path d={`M${x - 1.5} ${y + 6}V${bottom}M${x + 1.5} ${y + 6}V${bottom}`} style={{ stroke: colour }} />
      ) : (
        <path d={`M${x} ${y + 6}V${bottom}`} style={{ stroke: colour }} strokeDasharray="3 3" />
      )}
      <text x={middle} y={y} textAnchor="middle" style={{ fill: colour }}>
        {mark.name}
      </text>
    </g>
  );
}
