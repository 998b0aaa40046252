// A dark line with a ring of ground about it, so that it stands out from any shade.

interface Props {
  d: string;
  width: number;
  halo: number;
  filled?: boolean;
}

export const Haloed = ({ d, width, halo, filled = false }: Props) => (
  <g>
    <path d={d} style={{ stroke: "var(--ground)", fill: "none" }} strokeWidth={halo} />
    <path d={d} style={{ stroke: "var(--ink)", fill: filled ? "var(--ink)" : "none" }} strokeWidth={width} />
  </g>
);
