// One run with its own ruler: console, run page, bench. Rated and dependable marks and expected ends stand on the same ruler.

import type { HeatTrace, RunFold } from "@keep-rolling/core/runs";
import { elapsedWhenRecorded } from "@keep-rolling/core/runs";
import type { TemperatureUnit } from "@keep-rolling/core/units";
import { formatHms, formatTick } from "@keep-rolling/core/units";
import { scaleLinear } from "d3-scale";
import { useWidth } from "../ui/useWidth.ts";
import { rulerEnd, stripShape } from "./geometry.ts";
import { ExpectedMark, LimitMark, MinutesRuler, RatedMark, ratedWords } from "./MinutesRuler.tsx";
import { Strip } from "./Strip.tsx";

export interface RulerMarks {
  rated: { limitSec: number; ambientC: number | null } | null;
  dependable: { valueMs: number; n: number } | null;
}

interface Props extends RulerMarks {
  fold: RunFold;
  trace: HeatTrace;
  nowMs: number;
  height: number;
  /** A moving line at now, for a run under way. */
  live?: boolean;
  unit: TemperatureUnit;
}

const TOP = 40;
const SIDE = 14;

/** Limits and ratings are recorded times: each stands where this run's recorded time reaches it. */
export function RunStrip({ fold, trace, nowMs, height, live = false, rated, dependable, unit }: Props) {
  const [ref, width] = useWidth<HTMLDivElement>(900);
  const shape = stripShape(fold, trace, nowMs);
  if (shape === null) return null;
  const placed = (recordedMs: number): number =>
    elapsedWhenRecorded(fold, recordedMs) ?? recordedMs + Math.max(0, shape.untilMs - sum(shape));
  const ratedAt = rated === null ? 0 : placed(rated.limitSec * 1000);
  const limitAt = dependable === null ? 0 : placed(dependable.valueMs);
  const maxMs = rulerEnd(shape.untilMs, ratedAt, limitAt, ...shape.expected.map((e) => e.atElapsedMs));
  const x = scaleLinear([0, maxMs], [SIDE, width - SIDE - 8]);
  const bottom = TOP + height;
  return (
    <div ref={ref}>
      <svg width={width} height={bottom + 66} viewBox={`0 0 ${width} ${bottom + 66}`} className="block">
        <Strip fold={fold} trace={trace} nowMs={nowMs} x={x} y={TOP} height={height} />
        {rated !== null && (
          <RatedMark at={x(ratedAt)} from={TOP - 8} to={bottom + 8} label={ratedWords(rated, unit)} labelY={TOP - 14} widthPx={width} />
        )}
        {dependable !== null && (
          <LimitMark
            at={x(limitAt)}
            from={TOP - 4}
            to={bottom + 14}
            label={`${formatHms(dependable.valueMs)} · ${dependable.n === 1 ? "1 run" : `${dependable.n} runs`}`}
            labelY={bottom + 26}
            light={dependable.n < 5}
          />
        )}
        {shape.expected.map((e) => (
          <ExpectedMark
            key={e.cause}
            at={x(e.atElapsedMs)}
            from={TOP}
            to={bottom}
            label={`${e.cause} ${formatTick(e.atElapsedMs)}`}
            labelY={TOP + 16}
            anchor={x(e.atElapsedMs) > width / 2 ? "end" : "start"}
          />
        ))}
        {live && <path d={`M${x(shape.untilMs)} ${TOP - 16}V${bottom + 14}`} style={{ stroke: "var(--ink)" }} strokeWidth="2.5" />}
        <MinutesRuler x={x} y={bottom + 36} maxMs={maxMs} widthPx={width} />
      </svg>
    </div>
  );
}

const sum = (shape: { pieces: readonly { fromMs: number; toMs: number }[] }): number =>
  shape.pieces.reduce((total, p) => total + p.toMs - p.fromMs, 0);
