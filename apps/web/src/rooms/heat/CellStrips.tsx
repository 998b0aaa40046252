// Strips by mode and condition on one minutes ruler. Each cell carries its limit and the rated figure; a click shows its answer.

import { elapsedWhenRecorded, summarise } from "@keep-rolling/core/runs";
import type { TemperatureUnit } from "@keep-rolling/core/format";
import { formatHms } from "@keep-rolling/core/format";
import { memo, useMemo } from "react";
import { Link } from "react-router";
import { formatDate } from "../../shared/dates/dates.ts";
import { useSettings } from "../../shared/settings/settings.ts";
import { linear } from "../../rulers/axis/linear.ts";
import { rulerEnd } from "../../rulers/axis/minutes.ts";
import { labelsMeet, outsideWords, ratedWords } from "../../rulers/glyphs/words.ts";
import { LimitMark, OutsideMark, RatedMark } from "../../rulers/glyphs/FigureMarks.tsx";
import { MinutesRuler } from "../../rulers/axis/MinutesRuler.tsx";
import { isEvent } from "../../rulers/strips/shape.ts";
import type { Endpoint } from "@keep-rolling/core/runs";
import type { Scale } from "../../rulers/axis/linear.ts";
import { Strip } from "../../rulers/strips/Strip.tsx";
import { useWidth } from "../../shared/ui/useWidth.ts";
import type { HeatCell, HeatRow } from "./cells.ts";

const ROW = 26;
const HEAD = 22;
const BAR = 14;
const LINE = 15;
/** With more cells than this, those out of sight are laid out when they come into it. */
const CELLS_LAID_OUT = 16;

interface Props {
  cells: readonly HeatCell[];
  /** Dependable limits by cell, ms recorded; where there is none yet the shortest record is drawn, lighter. */
  bounds: ReadonlyMap<string, number>;
  chosenKey: string;
  /** An end is drawn as an end where this endpoint counts it as one. */
  endpoint: Endpoint;
  onChoose: (runId: string) => void;
}

export function CellStrips({ cells, bounds, chosenKey, endpoint, onChoose }: Props) {
  const { temperature } = useSettings();
  const [ref, width] = useWidth<HTMLDivElement>(700);
  const narrow = width < 560;
  const [left, right] = narrow ? [4, width - 108] : [96, width - 122];
  const maxMs = useMemo(() => rulerEndOf(cells), [cells]);
  const x = useMemo(() => linear([0, maxMs], [left, right]), [maxMs, left, right]);
  return (
    <div ref={ref} className="space-y-3">
      {cells.map((cell) => (
        <section
          key={cell.key}
          aria-label={`${cell.setup.mode.name}, ${cell.setup.condition.name}, firmware ${cell.setup.unit.firmware}`}
          className={`border-l-4 pl-3 ${cell.key === chosenKey ? "border-cool" : "border-transparent"} ${cells.length > CELLS_LAID_OUT ? "[contain-intrinsic-size:auto_15rem] [content-visibility:auto]" : ""}`}
        >
          <div className="flex flex-wrap items-baseline gap-x-3">
            <button
              type="button"
              aria-pressed={cell.key === chosenKey}
              className="text-left font-semibold"
              onClick={() => onChoose(cell.rows[0]?.run.id ?? "")}
            >
              {cell.setup.mode.name}
            </button>
            <span className="text-sm text-soft">
              {cell.setup.condition.name} · {cell.setup.protocol.name} · firmware {cell.setup.unit.firmware}
              {cell.clockKind === "rehearsal" && " · rehearsal"}
            </span>
          </div>
          <CellSvg
            endpoint={endpoint}
            cell={cell}
            boundMs={bounds.get(cell.key) ?? null}
            x={x}
            width={width - 16}
            narrow={narrow}
            unit={temperature}
          />
        </section>
      ))}
      <svg width={width - 16} height="30" viewBox={`0 0 ${width - 16} 30`} className="ml-4 block" aria-hidden="true">
        <MinutesRuler x={x} y={2} maxMs={maxMs} widthPx={right - left} />
      </svg>
    </div>
  );
}

function rulerEndOf(cells: readonly HeatCell[]): number {
  const lengths = cells.flatMap((c) => c.rows.map((r) => summarise(r.run.fold, r.run.fold.startMs ?? 0).elapsedMs));
  return rulerEnd(...lengths, ...cells.flatMap((c) => [c.rated, ...c.outside].map((f) => (f?.limitSec ?? 0) * 1000)));
}

interface CellSvgProps {
  cell: HeatCell;
  endpoint: Endpoint;
  boundMs: number | null;
  x: Scale;
  width: number;
  narrow: boolean;
  unit: TemperatureUnit;
}

/** A large unit has hundreds of strips: what did not change is not drawn again. */
const CellSvg = memo(function CellSvg({ cell, endpoint, boundMs, x, width, narrow, unit }: CellSvgProps) {
  const { statement } = cell.reading;
  const valueMs = boundMs ?? (statement.ok ? statement.valueMs : null);
  const limit = valueMs === null ? null : { at: x(limitPosition(cell, valueMs)), label: formatHms(valueMs) };
  const rated = cell.rated === null ? null : { at: x(cell.rated.limitSec * 1000), label: ratedWords(cell.rated, unit, narrow) };
  // Words that would meet stand in two lines.
  const head = limit !== null && rated !== null && labelsMeet(limit, rated, width) ? HEAD + LINE : HEAD;
  const bottom = head + cell.rows.length * ROW;
  return (
    <svg width={width} height={bottom + 16} viewBox={`0 0 ${width} ${bottom + 16}`} className="block">
      {cell.rows.map((row, i) => (
        <RowMarks endpoint={endpoint} key={row.run.id} row={row} x={x} y={head + i * ROW + 6} width={width} narrow={narrow} />
      ))}
      {cell.outside.map((f) => (
        <OutsideMark key={f.id} at={x(f.limitSec * 1000)} y={bottom + 8} words={outsideWords(f, unit)} />
      ))}
      {rated !== null && <RatedMark {...rated} from={head - 4} to={bottom} labelY={head - 8} widthPx={width} />}
      {limit !== null && (
        <LimitMark
          {...limit}
          from={head - 2}
          to={bottom + 4}
          labelY={HEAD - 8}
          light={boundMs === null || (statement.ok && statement.n < 5)}
        />
      )}
    </svg>
  );
});

/** A limit is recorded time; on the elapsed ruler it stands where the shortest record's own strip reaches it. */
function limitPosition(cell: HeatCell, valueMs: number): number {
  const { statement } = cell.reading;
  const shortest = statement.ok ? cell.rows.find((r) => r.run.id === statement.shortestRunId) : undefined;
  return (shortest === undefined ? null : elapsedWhenRecorded(shortest.run.fold, valueMs)) ?? valueMs;
}

interface RowMarksProps {
  row: HeatRow;
  endpoint: Endpoint;
  x: Scale;
  y: number;
  width: number;
  narrow: boolean;
}
const RowMarks = memo(function RowMarks({ row, endpoint, x, y, width, narrow }: RowMarksProps) {
  const { fold, trace } = row.run;
  const date = formatDate(fold.startMs ?? 0, "day", row.run.row?.clockKind);
  return (
    <g>
      {!narrow && (
        <text x={x(0) - 10} y={y + 11} fontSize="12" textAnchor="end" className="num" style={{ fill: "var(--soft)" }}>
          {date}
          {fold.setup?.startState.state === "warm" ? " warm" : ""}
        </text>
      )}
      <Strip
        fold={fold}
        trace={trace}
        nowMs={fold.startMs ?? 0}
        x={x}
        y={y}
        height={BAR}
        faint={row.leftOut !== null}
        endpoint={endpoint}
      />
      <Link to={`/runs/${row.run.id}`} aria-label={`Run of ${date}`}>
        <text
          x={width - 4}
          y={y + 11}
          fontSize="12.5"
          textAnchor="end"
          className="num underline"
          style={{
            fill: row.leftOut === null ? "var(--ink)" : "var(--soft)",
            stroke: "var(--ground)",
            strokeWidth: 3,
            paintOrder: "stroke",
          }}
        >
          {rowEnd(row, endpoint)}
        </text>
      </Link>
    </g>
  );
});

function rowEnd({ run }: HeatRow, endpoint: Endpoint): string {
  if (run.fold.state === "void") return "void";
  if (run.fold.end === null) return "rolling";
  const { lo } = summarise(run.fold, 0).recordedMs;
  return `${isEvent(run.fold, endpoint) ? "" : "≥ "}${formatHms(lo)}`;
}
