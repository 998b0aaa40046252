// Each take's way or sharpness over the shared time, under one playhead; where the feet come down; and the moment, moved by the same ruler.

import { useState } from "react";
import { linear } from "../../../rulers/axis/linear.ts";
import { useWidth } from "../../../shared/ui/useWidth.ts";
import type { Span } from "./player.ts";
import type { LookedAt } from "./lookedAt.ts";

interface Props {
  takes: readonly LookedAt[];
  span: Span;
  zeros: readonly number[];
  atSec: number;
  frame: number;
  loop: { fromSec: number; toSec: number | null } | null;
  seek: (sec: number) => void;
}
const KINDS = { x: "sideways", y: "up and down", sharp: "sharpness" } as const;
type Kind = keyof typeof KINDS;
const ROW = 52;

export function Curves({ takes, span, zeros, atSec, frame, loop, seek }: Props) {
  const [kind, setKind] = useState<Kind>("x");
  const [box, width] = useWidth<HTMLDivElement>(1100);
  const x = linear([span.fromSec, span.toSec], [0, width]);
  // Ways about the same middle at one scale, so that shake is compared by eye; sharpness from nothing to the best frame.
  const half = Math.max(
    0.002,
    ...takes.flatMap((t) => (kind === "sharp" ? [] : t.read.whole[kind].slice(t.read.inFrame, t.read.outFrame).map(Math.abs))),
  );
  const clock = Math.max(0, atSec - span.fromSec);
  return (
    <div className="mt-3">
      <p className="flex flex-wrap items-baseline gap-x-5 text-sm">
        <label className="no-print flex items-center gap-2">
          Curve
          <select value={kind} onChange={(e) => setKind(e.target.value as Kind)}>
            {Object.entries(KINDS).map(([value, words]) => (
              <option key={value} value={value}>
                {words}
              </option>
            ))}
          </select>
        </label>
        <span
          className="num"
          data-testid="moment"
        >{`${Math.floor(clock / 60)}:${(clock % 60).toFixed(2).padStart(5, "0")}, frame ${frame}`}</span>
        <span className="text-soft">▾ footfalls</span>
      </p>
      <div ref={box} className="relative">
        {takes.map((t, i) => (
          <Curve key={t.id} take={t} kind={kind} zero={zeros[i] ?? 0} x={x} width={width} half={half} />
        ))}
        <span className="pointer-events-none absolute inset-y-0 w-0.5 bg-ink" style={{ left: x(atSec) - 1 }} />
        {loop !== null && (
          <span
            className="pointer-events-none absolute inset-y-0 bg-here opacity-15"
            style={{ left: x(loop.fromSec), width: Math.max(2, x(loop.toSec ?? atSec) - x(loop.fromSec)) }}
          />
        )}
      </div>
      <input
        type="range"
        aria-label="Moment"
        aria-valuetext={`${clock.toFixed(2)} s, frame ${frame}`}
        className="block w-full accent-cool"
        min={span.fromSec}
        max={span.toSec}
        step="any"
        value={atSec}
        onChange={(e) => seek(Number(e.target.value))}
      />
    </div>
  );
}

interface CurveProps {
  take: LookedAt;
  kind: Kind;
  zero: number;
  x: (sec: number) => number;
  width: number;
  half: number;
}
function Curve({ take: { name, read }, kind, zero, x, width, half }: CurveProps) {
  const y = kind === "sharp" ? linear([0, 1], [ROW - 12, 2]) : linear([-half, half], [2, ROW - 12]);
  const values = kind === "sharp" ? read.sharpnessAll : read.whole[kind];
  const points = values.flatMap((v, i) => {
    const at = x((read.whole.timesSec[i] ?? 0) - zero);
    return at < -4 || at > width + 4 ? [] : [`${at.toFixed(1)},${y(v).toFixed(1)}`];
  });
  const falls = read.footfallsSec.map((t) => x(t - zero)).filter((at) => at >= 0 && at <= width);
  return (
    <figure className="hairline">
      <figcaption className="text-xs text-soft">{name}</figcaption>
      <svg role="img" aria-label={`${KINDS[kind]} of ${name}`} width={width} height={ROW} className="block">
        {kind !== "sharp" && <line x1={0} x2={width} y1={y(0)} y2={y(0)} className="stroke-rule2" strokeDasharray="2 3" />}
        <polyline points={points.join(" ")} className="fill-none stroke-ink" strokeWidth={1.25} />
        {falls.map((at) => (
          <path key={at} d={`M${(at - 4).toFixed(1)} ${ROW - 9}h8l-4 7z`} className="fill-ink" />
        ))}
      </svg>
    </figure>
  );
}
