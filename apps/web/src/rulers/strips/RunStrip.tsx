// One run with its own ruler: console, run page, bench. Rated and dependable marks and expected ends stand on the same ruler.

import type { HeatTrace, RunFold } from "@keep-rolling/core/runs";
import { elapsedWhenRecorded } from "@keep-rolling/core/runs";
import type { TemperatureUnit } from "@keep-rolling/core/format";
import { formatHms, formatTick } from "@keep-rolling/core/format";
import { useWidth } from "../../shared/ui/useWidth.ts";
import { linear } from "../axis/linear.ts";
import { rulerEnd } from "../axis/minutes.ts";
import { MinutesRuler } from "../axis/MinutesRuler.tsx";
import { ExpectedMark, LimitMark, RatedMark } from "../glyphs/FigureMarks.tsx";
import { Hatch } from "../glyphs/Hatch.tsx";
import type { StatedTime } from "../glyphs/words.ts";
import { ratedWords } from "../glyphs/words.ts";
import { stripShape } from "./shape.ts";
import { Strip } from "./Strip.tsx";

export interface RulerMarks {
  rated: StatedTime | null;
  dependable: { valueMs: number; n: number } | null;
}

/** What is expected to end a run under way, drawn ahead; positions are elapsed ms. */
export interface AheadMarks {
  band: { loElapsedMs: number; midElapsedMs: number; hiElapsedMs: number | null; words: string } | null;
  ends: readonly { kind: string; atElapsedMs: number }[];
}

interface Props extends RulerMarks {
  /** Null: only what the run itself knows. */
  ahead?: AheadMarks | null;
  fold: RunFold;
  trace: HeatTrace;
  nowMs: number;
  height: number;
  /** A moving line at now, for a run under way. */
  live?: boolean;
  unit: TemperatureUnit;
}

const TOP = 40;
/** With words over the rated mark's own. */
const TOP_WITH_BAND = 54;
const SIDE = 14;

/** Limits and ratings are recorded times: each stands where this run's recorded time reaches it. */
export function RunStrip({ fold, trace, nowMs, height, live = false, rated, dependable, unit, ahead = null }: Props) {
  const [ref, width] = useWidth<HTMLDivElement>(900);
  const shape = stripShape(fold, trace, nowMs);
  if (shape === null) return null;
  const placed = (recordedMs: number): number =>
    elapsedWhenRecorded(fold, recordedMs) ?? recordedMs + Math.max(0, shape.untilMs - sum(shape));
  const ratedAt = rated === null ? 0 : placed(rated.limitSec * 1000);
  const limitAt = dependable === null ? 0 : placed(dependable.valueMs);
  const band = ahead?.band ?? null;
  const bandEnd = band === null ? 0 : (band.hiElapsedMs ?? Math.max(band.loElapsedMs, shape.untilMs));
  const near = 2 * Math.max(shape.untilMs, ratedAt, limitAt, bandEnd);
  const expected = ahead === null ? shape.expected.map((e) => ({ kind: e.cause, atElapsedMs: e.atElapsedMs })) : ahead.ends;
  const shown = expected.filter((e) => e.atElapsedMs <= Math.max(near, shape.expected[0]?.atElapsedMs ?? 0));
  const maxMs = rulerEnd(shape.untilMs, ratedAt, limitAt, bandEnd, ...shown.map((e) => e.atElapsedMs));
  const x = linear([0, maxMs], [SIDE, width - SIDE - 8]);
  const top = band === null ? TOP : TOP_WITH_BAND;
  const bottom = top + height;
  return (
    <div ref={ref}>
      <svg data-publish width={width} height={bottom + 66} viewBox={`0 0 ${width} ${bottom + 66}`} className="block">
        {band !== null && <HeatBand band={band} bandEnd={bandEnd} x={x} top={top} height={height} widthPx={width} />}
        <Strip fold={fold} trace={trace} nowMs={nowMs} x={x} y={top} height={height} />
        {rated !== null && (
          <RatedMark at={x(ratedAt)} from={top - 8} to={bottom + 8} label={ratedWords(rated, unit)} labelY={top - 14} widthPx={width} />
        )}
        {dependable !== null && (
          <LimitMark
            at={x(limitAt)}
            from={top - 4}
            to={bottom + 14}
            label={`${formatHms(dependable.valueMs)} · ${dependable.n === 1 ? "1 run" : `${dependable.n} runs`}`}
            labelY={bottom + 26}
            light={dependable.n < 5}
          />
        )}
        {shown.map((e, i) => (
          <ExpectedMark
            key={e.kind}
            at={x(e.atElapsedMs)}
            from={top}
            to={bottom}
            label={`${e.kind} ${formatTick(e.atElapsedMs)}`}
            labelY={top + 13 + 14 * (i % 2)}
            anchor={x(e.atElapsedMs) > width / 2 ? "end" : "start"}
          />
        ))}
        {live && <path d={`M${x(shape.untilMs)} ${top - 16}V${bottom + 14}`} style={{ stroke: "var(--ink)" }} strokeWidth="2.5" />}
        <MinutesRuler x={x} y={bottom + 36} maxMs={maxMs} widthPx={width} />
      </svg>
    </div>
  );
}

const LETTER_PX = 7;

interface BandProps {
  band: NonNullable<AheadMarks["band"]>;
  bandEnd: number;
  x: (ms: number) => number;
  top: number;
  height: number;
  widthPx: number;
}

/** Where earlier runs ended by heat: hatched, its middle a line; without an upper end only "at least". */
function HeatBand({ band, bandEnd, x, top, height, widthPx }: BandProps) {
  const from = x(band.loElapsedMs);
  // On a narrow strip the words lose what stands in brackets, and move left as far as they must.
  const whole = LETTER_PX * band.words.length <= widthPx - 8;
  const words = whole ? band.words : (band.words.split(" (")[0] ?? band.words);
  const wordsAt = Math.max(2, Math.min(from, widthPx - LETTER_PX * words.length - 4));
  return (
    <g aria-hidden="true">
      <Hatch x={from} y={top} width={Math.max(2, x(bandEnd) - from)} height={height} kind="expected" />
      {band.hiElapsedMs !== null && (
        <path d={`M${x(band.midElapsedMs)} ${top}v${height}`} style={{ stroke: "var(--ink)" }} strokeWidth="1.6" />
      )}
      <text x={wordsAt} y={top - 34} fontSize="13" style={{ fill: "var(--soft)" }}>
        {words}
      </text>
    </g>
  );
}

const sum = (shape: { pieces: readonly { fromMs: number; toMs: number }[] }): number =>
  shape.pieces.reduce((total, p) => total + p.toMs - p.fromMs, 0);
