// A warning: a flag where it first showed, a line beneath while it stands.

import { Haloed } from "./Haloed.tsx";

/** `y`, `height`: the strip it stands on, px. */
export const Flag = ({ x, y, height }: { x: number; y: number; height: number }) => (
  <Haloed d={`M${x} ${y + height + 2}V${y - 6}h9l-3.5 4 3.5 4h-9`} width={1.3} halo={4} filled />
);

/** Heavier once escalated. */
export const Standing = ({ from, to, y, escalated }: { from: number; to: number; y: number; escalated: boolean }) => (
  <path d={`M${from} ${y}H${to}`} style={{ stroke: "var(--ink)" }} strokeWidth={escalated ? 4 : 1.6} />
);
