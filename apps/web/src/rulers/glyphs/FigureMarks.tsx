// Figures that stand on a ruler: rated, dependable, another tester's, expected ends.

const text = (words: string, x: number, y: number, fill: string, anchor: "start" | "middle" | "end" = "start", weight = 600) => (
  <text
    x={x}
    y={y}
    fontSize="13"
    fontWeight={weight}
    textAnchor={anchor}
    style={{ fill, stroke: "var(--ground)", strokeWidth: 4, paintOrder: "stroke" }}
  >
    {words}
  </text>
);

/** A claim of others: plum double line. */
export function RatedMark({
  at,
  from,
  to,
  label,
  labelY,
  widthPx,
}: {
  at: number;
  from: number;
  to: number;
  label: string;
  labelY: number;
  widthPx: number;
}) {
  // Near the right edge the words go to the left of the mark.
  const atEdge = at + 9 * label.length > widthPx;
  return (
    <g>
      <path d={`M${at - 2.5} ${from}V${to}M${at + 2.5} ${from}V${to}`} style={{ stroke: "var(--claim)" }} strokeWidth="1.6" />
      {text(label, atEdge ? at + 3 : at + 8, labelY, "var(--claim)", atEdge ? "end" : "start")}
    </g>
  );
}

export const Hollow = ({ at, y }: { at: number; y: number }) => (
  <circle cx={at} cy={y} r="5.5" style={{ fill: "var(--ground)", stroke: "var(--claim)" }} strokeWidth="2" />
);

/** Another tester's figure: hollow, for nothing of ours stands behind it. */
export function OutsideMark({ at, y, words }: { at: number; y: number; words: string }) {
  return (
    <g role="img" aria-label={words}>
      <title>{words}</title>
      <Hollow at={at} y={y} />
    </g>
  );
}

/** The dependable limit: teal stem with a foot. Lighter, and worded, when little stands behind it. */
export function LimitMark({
  at,
  from,
  to,
  label,
  labelY,
  light,
}: {
  at: number;
  from: number;
  to: number;
  label: string;
  labelY: number;
  light: boolean;
}) {
  // Near the left edge the words go to the right of the stem.
  const atEdge = at < 9 * label.length;
  return (
    <g>
      <path
        d={`M${at} ${from}V${to}M${at - 6} ${to}h12`}
        style={{ stroke: "var(--cool)", fill: "none" }}
        strokeWidth={light ? 1.3 : 2.6}
        strokeDasharray={light ? "4 3" : undefined}
      />
      {text(label, atEdge ? at + 7 : at - 7, labelY, "var(--cool)", atEdge ? "start" : "end")}
    </g>
  );
}

/** Something that will end the run, drawn ahead: dashed line with words. */
export function ExpectedMark({
  at,
  from,
  to,
  label,
  labelY,
  anchor,
}: {
  at: number;
  from: number;
  to: number;
  label: string;
  labelY: number;
  anchor: "start" | "end";
}) {
  return (
    <g>
      <path d={`M${at} ${from}V${to}`} style={{ stroke: "var(--ink)" }} strokeDasharray="3 3" strokeWidth="1.4" />
      {text(label, anchor === "start" ? at + 6 : at - 6, labelY, "var(--ink)", anchor, 500)}
    </g>
  );
}
