// The unit on one minutes ruler: the mode and condition asked about with its strips, limit and rated figure, all others a line each.

import { elapsedWhenRecorded, lastedWords, summarise } from "@keep-rolling/core/runs";
import type { TemperatureUnit } from "@keep-rolling/core/format";
import { formatHms } from "@keep-rolling/core/format";
import { memo, useMemo, useRef, useState } from "react";
import { Link } from "react-router";
import { formatDate } from "../../shared/dates/dates.ts";
import { useSettings } from "../../shared/settings/settings.ts";
import { linear } from "../../rulers/axis/linear.ts";
import { rulerEnd } from "../../rulers/axis/minutes.ts";
import { labelsMeet, outsideWords, ratedWords } from "../../rulers/glyphs/words.ts";
import { LimitMark, OutsideMark, RatedMark } from "../../rulers/glyphs/FigureMarks.tsx";
import { MinutesRuler } from "../../rulers/axis/MinutesRuler.tsx";
import { AtLeast, EventEnd } from "../../rulers/glyphs/End.tsx";
import { isEvent, stripShape } from "../../rulers/strips/shape.ts";
import type { Endpoint } from "@keep-rolling/core/runs";
import type { Scale } from "../../rulers/axis/linear.ts";
import { Strip } from "../../rulers/strips/Strip.tsx";
import { Publish } from "../../shared/ui/Publish.tsx";
import type { Caption } from "../../shared/ui/publish.ts";
import { useWidth } from "../../shared/ui/useWidth.ts";
import type { HeatCell, HeatRow } from "./cells.ts";

const ROW = 26;
const HEAD = 22;
const BAR = 14;
const LINE = 15;
/** Names to the left of the ruler, counts to the right, px; on a phone they stand above it. */
const NAMES = 196;
const COUNTS = 118;
/** More lines than these are asked for by a press. */
const LINES = 8;

interface Props {
  cells: readonly HeatCell[];
  /** Dependable limits by cell, ms recorded; where there is none yet the shortest record is drawn, lighter. */
  bounds: ReadonlyMap<string, number>;
  chosenKey: string;
  /** An end is drawn as an end where this endpoint counts it as one. */
  endpoint: Endpoint;
  onChoose: (runId: string) => void;
}

/** The cell an answer speaks of stands first and open; the others are one line each on the same ruler, its own mode before the rest. */
export function CellStrips({ cells, bounds, chosenKey, endpoint, onChoose }: Props) {
  const { temperature } = useSettings();
  const [ref, width] = useWidth<HTMLDivElement>(700);
  const [all, setAll] = useState(false);
  const stack = useRef<HTMLDivElement>(null);
  const narrow = width < 560;
  const inner = width - 16;
  const [left, right] = narrow ? [4, inner - 92] : [NAMES, inner - COUNTS];
  const maxMs = useMemo(() => rulerEndOf(cells), [cells]);
  const x = useMemo(() => linear([0, maxMs], [left, right]), [maxMs, left, right]);
  const chosen = cells.find((c) => c.key === chosenKey);
  const others = useMemo(() => sameModeFirst(cells, chosen), [cells, chosen]);
  const shown = all ? others : others.slice(0, LINES);
  return (
    <div ref={ref}>
      <div ref={stack}>
        {chosen !== undefined && (
          <section aria-label={nameOf(chosen)} className="border-l-4 border-cool pl-3">
            <div className="flex flex-wrap items-baseline justify-between gap-x-3">
              <h3>{chosen.setup.mode.name}</h3>
              <span className="text-sm text-soft">{countWords(chosen, endpoint)}</span>
            </div>
            <p className="text-sm text-soft">{aboutWords(chosen)}</p>
            <CellSvg
              endpoint={endpoint}
              cell={chosen}
              boundMs={bounds.get(chosen.key) ?? null}
              x={x}
              width={inner}
              narrow={narrow}
              unit={temperature}
            />
          </section>
        )}
        <svg data-publish width={inner} height="30" viewBox={`0 0 ${inner} 30`} className="ml-4 block" aria-hidden="true">
          <MinutesRuler x={x} y={2} maxMs={maxMs} widthPx={right - left} />
        </svg>
      </div>
      {chosen !== undefined && (
        <Publish stack={stack} name={`${chosen.setup.unit.name} ${nameOf(chosen)}`} caption={captionOf(chosen, bounds, endpoint)} />
      )}
      {shown.length > 0 && (
        <ul aria-label="Other modes and conditions" className="no-print border-b border-rule">
          {shown.map((cell) => (
            <li key={cell.key} className="hairline">
              <CellLine
                cell={cell}
                boundMs={bounds.get(cell.key) ?? null}
                endpoint={endpoint}
                x={x}
                width={inner}
                narrow={narrow}
                onChoose={onChoose}
              />
            </li>
          ))}
        </ul>
      )}
      {others.length > LINES && (
        <button type="button" className="no-print py-2 pl-4 text-sm underline" aria-expanded={all} onClick={() => setAll(!all)}>
          {all ? "Show fewer" : `${others.length - LINES} more modes and conditions`}
        </button>
      )}
    </div>
  );
}

function sameModeFirst(cells: readonly HeatCell[], chosen: HeatCell | undefined): HeatCell[] {
  const others = cells.filter((c) => c.key !== chosen?.key);
  const same = (c: HeatCell): boolean => c.setup.mode.name === chosen?.setup.mode.name;
  return [...others.filter(same), ...others.filter((c) => !same(c))];
}

const nameOf = ({ setup }: HeatCell): string => `${setup.mode.name}, ${setup.condition.name}, firmware ${setup.unit.firmware}`;
const aboutWords = ({ setup, clockKind }: HeatCell): string =>
  `${setup.condition.name} · ${setup.protocol.name} · firmware ${setup.unit.firmware}${clockKind === "rehearsal" ? " · rehearsal" : ""}`;

/** Title, conditions, evidence: what a strip stack says when it stands alone. */
function captionOf(cell: HeatCell, bounds: ReadonlyMap<string, number>, endpoint: Endpoint): Caption {
  const { setup, clockKind, reading } = cell;
  const limitMs = bounds.get(cell.key);
  const says =
    limitMs !== undefined
      ? `teal: dependable limit ${formatHms(limitMs)}`
      : reading.statement.ok
        ? `dashed: shortest run ${formatHms(reading.statement.valueMs)}`
        : "no limit yet";
  const from = clockKind === "real" ? "" : ` · simulated camera (${clockKind})`;
  return {
    title: `${setup.unit.name}: ${setup.mode.name}`,
    lines: [aboutWords(cell), `${countWords(cell, endpoint)} · ${says} · wedge: ended by heat, chevrons: at least${from}`],
  };
}

const NONE_BY: Readonly<Record<Endpoint, string>> = {
  shutdown: "none by heat",
  firstWarning: "none warned",
  batteryEmpty: "no battery empty",
};

/** Counted runs, and on how many days; with none of the ends asked for that is said instead. */
function countWords({ rows, clockKind, reading }: HeatCell, endpoint: Endpoint): string {
  const counted = rows.filter((r) => r.leftOut === null);
  if (counted.length === 0) return "no run counts";
  const n = counted.length === 1 ? "1 run" : `${counted.length} runs`;
  if (!counted.some((r) => isEvent(r.run.fold, endpoint)))
    return `${n}, ${reading.statement.ok && reading.statement.maybe > 0 ? "end not said" : NONE_BY[endpoint]}`;
  const days = new Set(counted.map((r) => formatDate(r.run.fold.startMs ?? 0, "day", clockKind))).size;
  return `${n} · ${days === 1 ? "1 day" : `${days} days`}${reading.statement.ok ? "" : ", no time"}`;
}

interface LineProps {
  cell: HeatCell;
  boundMs: number | null;
  endpoint: Endpoint;
  x: Scale;
  width: number;
  narrow: boolean;
  onChoose: (runId: string) => void;
}

const LINE_HIGH = 34;

/** One line: the limit, and how each counted run ended. A press opens it. */
const CellLine = memo(function CellLine({ cell, boundMs, endpoint, x, width, narrow, onChoose }: LineProps) {
  const { statement } = cell.reading;
  const valueMs = boundMs ?? (statement.ok ? statement.valueMs : null);
  const counted = cell.rows.filter((r) => r.leftOut === null);
  const names = (
    <>
      <span className="block truncate font-semibold">{cell.setup.mode.name}</span>
      {/* Lines that differ in the firmware alone must not look alike. */}
      <span className="flex text-soft">
        <span className="truncate">{cell.setup.condition.name}</span>
        <span className="shrink-0 whitespace-pre"> · {cell.setup.unit.firmware}</span>
      </span>
    </>
  );
  return (
    <button
      type="button"
      className={`relative block w-full pl-4 text-left text-sm leading-tight hover:bg-sheet ${narrow ? "pt-1" : ""}`}
      onClick={() => onChoose(cell.rows[0]?.run.id ?? "")}
    >
      {narrow ? names : <span className="absolute top-1/2 left-4 w-46 -translate-y-1/2">{names}</span>}
      <span className="sr-only">
        {valueMs === null ? "" : `${boundMs === null ? "shortest" : "limit"} ${formatHms(valueMs)}, `}
        {countWords(cell, endpoint)}
      </span>
      <svg width={width} height={LINE_HIGH} viewBox={`0 0 ${width} ${LINE_HIGH}`} className="block" aria-hidden="true">
        <g style={{ stroke: "var(--ground)", strokeWidth: 2, paintOrder: "stroke" }}>
          {counted.map(({ run }) => {
            const end = stripShape(run.fold, run.trace, run.fold.startMs ?? 0, endpoint)?.end ?? null;
            if (end === null) return null;
            const at = { at: x(end.atMs), y: (LINE_HIGH - BAR) / 2, height: BAR };
            return end.kind === "event" ? <EventEnd key={run.id} {...at} /> : <AtLeast key={run.id} {...at} width={6} />;
          })}
        </g>
        {valueMs !== null && (
          <LimitMark
            at={x(limitPosition(cell, valueMs))}
            label={formatHms(valueMs)}
            from={5}
            to={LINE_HIGH - 6}
            labelY={LINE_HIGH / 2 + 4}
            light={boundMs === null || (statement.ok && statement.n < 5)}
          />
        )}
        <text
          x={width - 4}
          y={LINE_HIGH / 2 + 4}
          fontSize="12.5"
          textAnchor="end"
          style={{ fill: "var(--soft)", stroke: "var(--ground)", strokeWidth: 4, paintOrder: "stroke" }}
        >
          {countWords(cell, endpoint)}
        </text>
      </svg>
    </button>
  );
});

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
    <svg data-publish width={width} height={bottom + 16} viewBox={`0 0 ${width} ${bottom + 16}`} className="block">
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
  const unknown = endpoint === "firstWarning" && row.warningUnknown;
  const words = unknown ? "not recorded" : lastedWords(fold, endpoint);
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
        ended={!unknown}
      />
      <Link to={`/runs/${row.run.id}`} aria-label={`${words}, run of ${date}`}>
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
          {words}
        </text>
      </Link>
    </g>
  );
});
