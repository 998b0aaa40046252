// How a run ended: solid where it did what was asked about, chevrons where it lasted at least this long, a cross where it does not count.

interface At {
  at: number;
  y: number;
  height: number;
}

export const EventEnd = ({ at, y, height }: At) => (
  <path d={`M${at} ${y - 3}h4l9 ${height / 2 + 3}-9 ${height / 2 + 3}h-4z`} style={{ fill: "var(--ink)" }} />
);

/** `width`: of one chevron, px. */
export function AtLeast({ at, y, height, width = 8 }: At & { width?: number }) {
  const chevron = (x: number): string => `M${x} ${y}l${width} ${height / 2}-${width} ${height / 2}`;
  return (
    <path d={chevron(at + 3) + chevron(at + 2 + width)} style={{ fill: "none", stroke: "var(--ink)" }} strokeWidth={width < 8 ? 1.6 : 2} />
  );
}

export function VoidEnd({ at, y, height }: At) {
  const side = height - 4;
  return (
    <path
      d={`M${at + 3} ${y + 2}l${side} ${side}M${at + 3} ${y + height - 2}l${side} ${-side}`}
      style={{ stroke: "var(--soft)" }}
      strokeWidth="1.6"
    />
  );
}
