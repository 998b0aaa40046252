// A gap in a recording: a box while the body stays on, two strokes through the strip where it was off.

import { Haloed } from "./Haloed.tsx";

interface Box {
  from: number;
  to: number;
  y: number;
  height: number;
}

const LEAST_PX = 6;

/** `open`: not over yet. */
export function GapOn({ from, to, y, height, open = false }: Box & { open?: boolean }) {
  const width = Math.max(LEAST_PX, to - from);
  return (
    <rect
      x={(from + to) / 2 - width / 2}
      y={y + height * 0.28}
      width={width}
      height={height * 0.44}
      strokeWidth="1.3"
      style={{ fill: "var(--ground)", stroke: "var(--ink)" }}
      strokeDasharray={open ? "3 2" : undefined}
    />
  );
}

export function GapOff({ from, to, y, height }: Box) {
  const middle = (from + to) / 2;
  const stroke = (at: number): string => `M${at} ${y + height + 3}l4 ${-height - 6}`;
  return <Haloed d={stroke(middle - 4) + stroke(middle + 1)} width={1.5} halo={5} />;
}

/** A new file without a gap. */
export const Split = ({ at, y, height }: { at: number; y: number; height: number }) => (
  <path d={`M${at} ${y}v4M${at} ${y + height - 4}v4`} style={{ stroke: "var(--ink)" }} strokeWidth="1.4" />
);
