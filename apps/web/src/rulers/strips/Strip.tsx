// The strip: one run on a minutes ruler. Props in, SVG out: the same component live, in lists, on the heat page and in print.

import type { Endpoint, HeatTrace, RunFold } from "@keep-rolling/core/runs";
import { describeRun } from "@keep-rolling/core/runs";
import { heatColour } from "./colours.ts";
import type { GapPiece, StripShape } from "./geometry.ts";
import { stripShape } from "./geometry.ts";

export type Scale = (ms: number) => number;

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
  asked?: Endpoint | null;
}

export function Strip({ fold, trace, nowMs, x, y, height, faint = false, asked = null }: StripProps) {
  const shape = stripShape(fold, trace, nowMs, asked);
  if (shape === null) return null;
  return (
    <g role="img" aria-label={describeRun(fold, nowMs)} opacity={faint ? 0.5 : 1}>
      {shape.pieces.map((p) => (
        <rect
          key={p.fromMs}
          x={x(p.fromMs)}
          y={y}
          width={Math.max(0.5, x(p.toMs) - x(p.fromMs) + 0.4)}
          height={height}
          style={{ fill: heatColour(p.level) }}
        />
      ))}
      {shape.gaps.map((g) => (
        <GapMark key={g.fromMs} gap={g} x={x} y={y} height={height} />
      ))}
      {shape.splits.map((ms) => (
        <path key={ms} d={`M${x(ms)} ${y}v4M${x(ms)} ${y + height - 4}v4`} style={{ stroke: "var(--ink)" }} strokeWidth="1.4" />
      ))}
      {shape.warned.map((w) => (
        <path
          key={w.fromMs}
          d={`M${x(w.fromMs)} ${y + height + 2}H${x(w.toMs)}`}
          style={{ stroke: "var(--ink)" }}
          strokeWidth={w.escalated ? 4 : 1.6}
        />
      ))}
      {shape.flags.map((ms) => (
        <Flag key={ms} x={x(ms)} y={y} height={height} />
      ))}
      <EndMark shape={shape} x={x} y={y} height={height} />
    </g>
  );
}

const HALO = { stroke: "var(--ground)", fill: "none" };

function GapMark({ gap, x, y, height }: { gap: GapPiece; x: Scale; y: number; height: number }) {
  const [from, to] = [x(gap.fromMs), x(gap.toMs)];
  const middle = (from + to) / 2;
  if (gap.power === "off") {
    const slash = `M${middle - 4} ${y + height + 3}l4 ${-height - 6}M${middle + 1} ${y + height + 3}l4 ${-height - 6}`;
    return (
      <g>
        <path d={slash} style={HALO} strokeWidth="5" />
        <path d={slash} style={{ stroke: "var(--ink)", fill: "none" }} strokeWidth="1.5" />
      </g>
    );
  }
  const width = Math.max(6, to - from);
  return (
    <rect
      x={middle - width / 2}
      y={y + height * 0.28}
      width={width}
      height={height * 0.44}
      strokeWidth="1.3"
      style={{ fill: "var(--ground)", stroke: "var(--ink)" }}
      strokeDasharray={gap.open ? "3 2" : undefined}
    />
  );
}

function Flag({ x, y, height }: { x: number; y: number; height: number }) {
  const d = `M${x} ${y + height + 2}V${y - 6}h9l-3.5 4 3.5 4h-9`;
  return (
    <g>
      <path d={d} style={HALO} strokeWidth="4" />
      <path d={d} style={{ fill: "var(--ink)", stroke: "var(--ink)" }} strokeWidth="1.3" />
    </g>
  );
}

function EndMark({ shape, x, y, height }: { shape: StripShape; x: Scale; y: number; height: number }) {
  if (shape.end === null) return null;
  const at = x(shape.end.atMs);
  const lo = x(shape.end.loMs);
  const unsure =
    at - lo > 1 ? <rect x={lo} y={y} width={at - lo} height={height} style={{ fill: "var(--ground)" }} opacity="0.65" /> : null;
  if (shape.end.kind === "event") {
    return (
      <>
        {unsure}
        <path d={`M${at} ${y - 3}h4l9 ${height / 2 + 3}-9 ${height / 2 + 3}h-4z`} style={{ fill: "var(--ink)" }} />
      </>
    );
  }
  if (shape.end.kind === "void")
    return (
      <path
        d={`M${at + 3} ${y + 2}l${height - 4} ${height - 4}M${at + 3} ${y + height - 2}l${height - 4} ${-height + 4}`}
        style={{ stroke: "var(--soft)" }}
        strokeWidth="1.6"
      />
    );
  const half = height / 2;
  return (
    <>
      {unsure}
      <path
        d={`M${at + 3} ${y}l8 ${half}-8 ${half}M${at + 10} ${y}l8 ${half}-8 ${half}`}
        style={{ fill: "none", stroke: "var(--ink)" }}
        strokeWidth="2"
      />
    </>
  );
}
