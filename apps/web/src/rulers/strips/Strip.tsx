// The strip: one run on a minutes ruler. Props in, SVG out: the same component live, in lists, on the heat page and in print.

import type { Endpoint, HeatTrace, RunFold } from "@keep-rolling/core/runs";
import { describeRun } from "@keep-rolling/core/runs";
import type { Scale } from "../axis/linear.ts";
import { AtLeast, EventEnd, VoidEnd } from "../glyphs/End.tsx";
import { GapOff, GapOn, Split } from "../glyphs/Gap.tsx";
import { Shade } from "../glyphs/Shade.tsx";
import { Flag, Standing } from "../glyphs/Warning.tsx";
import type { StripShape } from "./shape.ts";
import { stripShape } from "./shape.ts";

interface StripProps {
  fold: RunFold;
  trace: HeatTrace;
  nowMs: number;
  x: Scale;
  y: number;
  height: number;
  /** Left out of the statement: drawn paler, and said in words by the row. */
  faint?: boolean;
  /** The endpoint asked about; without one the run is drawn as it went. */
  endpoint?: Endpoint | null;
  /** False: of that endpoint nothing is known, so that no end is drawn, nor that it lasted so long. */
  ended?: boolean;
}

export function Strip({ fold, trace, nowMs, x, y, height, faint = false, endpoint = null, ended = true }: StripProps) {
  const shape = stripShape(fold, trace, nowMs, endpoint);
  if (shape === null) return null;
  return (
    <g role="img" aria-label={describeRun(fold, nowMs)} opacity={faint ? 0.5 : 1}>
      <Shade pieces={shape.pieces} x={x} y={y} height={height} />
      {shape.gaps.map((g) => {
        const box = { from: x(g.fromMs), to: x(g.toMs), y, height };
        return g.power === "off" ? <GapOff key={g.fromMs} {...box} /> : <GapOn key={g.fromMs} {...box} open={g.open} />;
      })}
      {shape.splits.map((ms) => (
        <Split key={ms} at={x(ms)} y={y} height={height} />
      ))}
      {shape.warned.map((w) => (
        <Standing key={w.fromMs} from={x(w.fromMs)} to={x(w.toMs)} y={y + height + 2} escalated={w.escalated} />
      ))}
      {shape.flags.map((ms) => (
        <Flag key={ms} x={x(ms)} y={y} height={height} />
      ))}
      {shape.end !== null && ended && <EndMark end={shape.end} x={x} y={y} height={height} />}
    </g>
  );
}

const END = { event: EventEnd, "at least": AtLeast, void: VoidEnd } as const;

/** With the stretch in which it may have ended paled. */
function EndMark({ end, x, y, height }: { end: NonNullable<StripShape["end"]>; x: Scale; y: number; height: number }) {
  const [lo, at] = [x(end.loMs), x(end.atMs)];
  const Glyph = END[end.kind];
  return (
    <>
      {at - lo > 1 && <rect x={lo} y={y} width={at - lo} height={height} style={{ fill: "var(--ground)" }} opacity="0.65" />}
      <Glyph at={at} y={y} height={height} />
    </>
  );
}
