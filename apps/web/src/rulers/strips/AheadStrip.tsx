// What will end a run, drawn before it starts: the heat range hatched on the strip it would become, other ends as dashed lines with words.

import type { EndsAhead } from "@keep-rolling/core/planning";
import { fixedEnds, OPEN_RUN_MS, plannedEnd, rangeText } from "@keep-rolling/core/planning";
import { formatTick } from "@keep-rolling/core/format";
import { useWidth } from "../../shared/ui/useWidth.ts";
import { linear } from "../axis/linear.ts";
import { rulerEnd } from "../axis/minutes.ts";
import { MinutesRuler } from "../axis/MinutesRuler.tsx";
import { ExpectedMark } from "../glyphs/FigureMarks.tsx";
import { Hatch } from "../glyphs/Hatch.tsx";
import { piecesOf, Shade } from "../glyphs/Shade.tsx";

const TOP = 22;
const HEIGHT = 26;
const SIDE = 14;
const PIECES = 14;

export function AheadStrip({ ahead, tauMs, heatAtStart }: { ahead: EndsAhead; tauMs: number; heatAtStart: number }) {
  const [ref, width] = useWidth<HTMLDivElement>(900);
  const end = plannedEnd(ahead);
  const range = ahead.heat.ok ? ahead.heat.range : null;
  const heatHi = range === null ? null : (range.hiMs ?? Math.max(OPEN_RUN_MS, range.loMs));
  // What lies far beyond would only press the rest together; the words beside the strip name it.
  const shown = fixedEnds(ahead).filter((f) => f.ms <= 2 * Math.max(end.hiMs, heatHi ?? 0));
  const maxMs = rulerEnd(end.hiMs, heatHi ?? 0, ...shown.map((f) => f.ms));
  const x = linear([0, maxMs], [SIDE, width - SIDE - 8]);
  const bottom = TOP + HEIGHT;
  const toMs = range?.midMs ?? end.midMs;
  const target = range !== null && range.events > 0 ? 1 : Math.max(0.35, heatAtStart);
  const level = (ms: number): number =>
    heatAtStart + (target - heatAtStart) * (-Math.expm1(-ms / tauMs) / -Math.expm1(-Math.max(1, toMs) / tauMs));
  return (
    <div ref={ref}>
      <svg
        width={width}
        height={bottom + 44}
        viewBox={`0 0 ${width} ${bottom + 44}`}
        className="block"
        role="img"
        aria-label={words(ahead)}
      >
        <g opacity="0.7">
          <Shade pieces={piecesOf(0, end.hiMs, PIECES, level)} x={x} y={TOP} height={HEIGHT} />
        </g>
        {range !== null && heatHi !== null && (
          <>
            <Hatch x={x(range.loMs)} y={TOP} width={Math.max(2, x(heatHi) - x(range.loMs))} height={HEIGHT} kind="expected" />
            {range.events > 0 && <path d={`M${x(range.midMs)} ${TOP}v${HEIGHT}`} style={{ stroke: "var(--ink)" }} strokeWidth="1.6" />}
            <text
              x={x(range.loMs)}
              y={TOP - 7}
              fontSize="13"
              fontWeight="600"
              textAnchor={x(range.loMs) > width * 0.7 ? "end" : "start"}
              style={{ fill: "var(--ink)" }}
            >
              {`${range.hiMs === null ? "" : "heat "}${rangeText(range)}`}
            </text>
          </>
        )}
        {shown.map((f, i) => (
          <ExpectedMark
            key={f.kind}
            at={x(f.ms)}
            from={TOP - 4}
            to={bottom + 4}
            label={`${f.kind} ${formatTick(f.ms)}`}
            labelY={TOP + 11 + (i % 2) * 13}
            anchor={x(f.ms) > width / 2 ? "end" : "start"}
          />
        ))}
        <MinutesRuler x={x} y={bottom + 14} maxMs={maxMs} widthPx={width} />
      </svg>
    </div>
  );
}

function words(ahead: EndsAhead): string {
  const { heat } = ahead;
  const range = !heat.ok
    ? "No earlier run tells how long it may last"
    : heat.range.hiMs === null
      ? `Earlier runs lasted at least ${formatTick(heat.range.loMs)}`
      : `Heat is expected: ${rangeText(heat.range)}`;
  return `${[range, ...fixedEnds(ahead).map((f) => `${f.kind} at ${formatTick(f.ms)}`)].join("; ")}.`;
}
