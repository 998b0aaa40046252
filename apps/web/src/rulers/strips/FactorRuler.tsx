// The factor ruler: what multiplies a runtime, on a log scale about "no change". One row a cause: middle, interval, words in their own column.

import { scaleLog } from "d3-scale";

export interface FactorRow {
  key: string;
  label: string;
  mid: number;
  lo: number;
  hi: number;
  /** Drawn from the end of the row before: a step of a waterfall. */
  from?: number;
}

const ROW = 34;
const TOP = 24;

/** Ticks in per cent of the runtime. */
const TICKS = [0.25, 0.5, 0.75, 0.9, 1, 1.1, 1.25, 1.5, 2, 3, 4];

export function FactorRuler({ rows, width, label }: { rows: readonly FactorRow[]; width: number; label: string }) {
  const narrow = width < 520;
  const left = narrow ? 8 : 190;
  const ends = rows.flatMap((r) => [(r.from ?? 1) * r.lo, (r.from ?? 1) * r.hi, r.from ?? 1]).filter((v) => v > 0 && Number.isFinite(v));
  const x = scaleLog([Math.max(0.1, Math.min(0.7, ...ends) * 0.95), Math.min(10, Math.max(1.3, ...ends) * 1.05)], [left, width - 16]).clamp(
    true,
  );
  const [from, to] = x.domain() as [number, number];
  const step = narrow ? ROW + 14 : ROW;
  const bottom = TOP + rows.length * step;
  return (
    <svg width={width} height={bottom + 34} viewBox={`0 0 ${width} ${bottom + 34}`} role="img" aria-label={label} className="block">
      <path d={`M${x(1)} ${TOP - 8}V${bottom}`} style={{ stroke: "var(--ink)" }} strokeWidth="1.2" />
      {rows.map((row, i) => (
        <Row key={row.key} row={row} x={x} y={TOP + i * step + (narrow ? 24 : 14)} left={left} narrow={narrow} />
      ))}
      <path d={`M${left} ${bottom + 4}H${width - 16}`} style={{ stroke: "var(--rule2)" }} />
      {apart(
        TICKS.filter((t) => t >= from && t <= to),
        x,
      ).map((t) => (
        <g key={t}>
          <path d={`M${x(t)} ${bottom + 4}v7`} style={{ stroke: "var(--rule2)" }} />
          <text x={x(t)} y={bottom + 25} fontSize="12" textAnchor="middle" className="num" style={{ fill: "var(--soft)" }}>
            {t === 1 ? "same" : `${t < 1 ? "−" : "+"}${Math.round(Math.abs(t - 1) * 100)} %`}
          </text>
        </g>
      ))}
    </svg>
  );
}

/** "No change" always; of the others those that leave room for words. */
function apart(ticks: readonly number[], x: (v: number) => number): number[] {
  const kept: number[] = [1];
  for (const t of [...ticks].sort((a, b) => Math.abs(Math.log(a)) - Math.abs(Math.log(b))))
    if (kept.every((k) => Math.abs(x(k) - x(t)) >= 54)) kept.push(t);
  return kept;
}

function Row({ row, x, y, left, narrow }: { row: FactorRow; x: (v: number) => number; y: number; left: number; narrow: boolean }) {
  const base = row.from ?? 1;
  const [lo, mid, hi] = [x(base * row.lo), x(base * row.mid), x(base * row.hi)];
  return (
    <g>
      <text
        x={narrow ? left : left - 12}
        y={narrow ? y - 12 : y + 4}
        fontSize="13"
        textAnchor={narrow ? "start" : "end"}
        style={{ fill: "var(--ink)" }}
      >
        {row.label}
      </text>
      {row.from !== undefined && <path d={`M${x(row.from)} ${y}H${mid}`} style={{ stroke: "var(--rule2)" }} strokeWidth="11" />}
      {hi - lo > 1 && (
        <path d={`M${lo} ${y - 5}v10M${lo} ${y}H${hi}M${hi} ${y - 5}v10`} style={{ stroke: "var(--cool)", fill: "none" }} strokeWidth="2" />
      )}
      <circle cx={mid} cy={y} r="5" style={{ fill: "var(--cool)", stroke: "var(--ground)" }} strokeWidth="1.5" />
    </g>
  );
}
