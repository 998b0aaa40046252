// The body's heat along a strip: pieces that touch, each in its colour.

import type { Scale } from "../axis/linear.ts";
import { heatColour } from "./colours.ts";

interface Piece {
  fromMs: number;
  toMs: number;
  /** Heat state 0..1. */
  level: number;
  opacity?: number;
}

export const Shade = ({ pieces, x, y, height }: { pieces: readonly Piece[]; x: Scale; y: number; height: number }) =>
  pieces.map((p) => (
    <rect
      key={p.fromMs}
      x={x(p.fromMs)}
      y={y}
      // A little over the next one: no line of ground shows between them.
      width={Math.max(0.5, x(p.toMs) - x(p.fromMs) + 0.4)}
      height={height}
      style={{ fill: heatColour(p.level) }}
      opacity={p.opacity}
    />
  ));

/** A course of heat cut into pieces, each at the level of its middle. */
export const piecesOf = (fromMs: number, toMs: number, count: number, level: (ms: number) => number): Piece[] =>
  Array.from({ length: count }, (_, i) => {
    const [from, to] = [fromMs + ((toMs - fromMs) * i) / count, fromMs + ((toMs - fromMs) * (i + 1)) / count];
    return { fromMs: from, toMs: to, level: level((from + to) / 2) };
  });
