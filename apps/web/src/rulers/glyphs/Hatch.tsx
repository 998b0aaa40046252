// Hatching: where an end is expected, or where nobody is at work.

import { useId } from "react";

const LOOK = {
  expected: { size: 6, turn: 45, stroke: "var(--h2)", width: 2.4 },
  away: { size: 5, turn: -45, stroke: "var(--rule2)", width: 1.4 },
} as const;

interface Props {
  x: number;
  y: number;
  width: number;
  height: number;
  kind: keyof typeof LOOK;
}

export function Hatch({ kind, ...box }: Props) {
  const { size, turn, stroke, width } = LOOK[kind];
  // One name a drawing: two of the same name on a page would share a pattern, and lose it when one leaves.
  const id = `hatch${useId().replaceAll(/\W/g, "")}`;
  return (
    <>
      <pattern id={id} width={size} height={size} patternUnits="userSpaceOnUse" patternTransform={`rotate(${turn})`}>
        <path d={`M0 0V${size}`} style={{ stroke }} strokeWidth={width} />
      </pattern>
      <rect {...box} fill={`url(#${id})`} />
    </>
  );
}
