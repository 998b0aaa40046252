// The ruler beneath, and the marks that stand on it: rated, dependable, expected ends.

import type { TemperatureUnit } from "@keep-rolling/core/format";
import { formatTemperature, formatTick } from "@keep-rolling/core/format";
import { minuteTicks } from "./geometry.ts";
import type { Scale } from "./Strip.tsx";

export function MinutesRuler({ x, y, maxMs, widthPx }: { x: Scale; y: number; maxMs: number; widthPx: number }) {
  const { labelled, between } = minuteTicks(maxMs, Math.max(2, Math.floor(widthPx / 84)));
  return (
    <g aria-hidden="true">
      <path d={`M${x(0)} ${y}H${x(maxMs)}`} style={{ stroke: "var(--rule2)" }} />
      {between.map((ms) => (
        <path key={ms} d={`M${x(ms)} ${y}v5`} style={{ stroke: "var(--rule2)" }} />
      ))}
      {labelled.map((ms) => (
        <g key={ms}>
          <path d={`M${x(ms)} ${y}v9`} style={{ stroke: "var(--rule2)" }} />
          <text x={x(ms)} y={y + 24} fontSize="12.5" textAnchor="middle" className="num" style={{ fill: "var(--soft)" }}>
            {formatTick(ms)}
          </text>
        </g>
      ))}
    </g>
  );
}

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

/** Another tester's figure: hollow, for nothing of ours stands behind it. */
export function OutsideMark({ at, y, words }: { at: number; y: number; words: string }) {
  return (
    <circle cx={at} cy={y} r="5.5" style={{ fill: "var(--ground)", stroke: "var(--claim)" }} strokeWidth="2" role="img" aria-label={words}>
      <title>{words}</title>
    </circle>
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

/** "rated 0:45 at 23.0 °C"; on a narrow ruler without the temperature, which the answer beside it says. */
export function ratedWords(rated: { limitSec: number; ambientC: number | null }, unit: TemperatureUnit, narrow = false): string {
  const at = rated.ambientC === null || narrow ? "" : ` at ${formatTemperature(rated.ambientC, unit)}`;
  return `rated ${formatTick(rated.limitSec * 1000)}${at}`;
}

/** "another tester's 0:19 at 27.0 °C". */
export const outsideWords = (figure: { limitSec: number; ambientC: number | null }, unit: TemperatureUnit): string =>
  ratedWords(figure, unit).replace(/^rated/, "another tester's");

/** Whether the words of a limit and a rating would meet: about 8 px a letter, on the sides they are drawn. */
export function labelsMeet(limit: { at: number; label: string }, rated: { at: number; label: string }, widthPx: number): boolean {
  const span = (at: number, label: string, left: boolean): [number, number] =>
    left ? [at - 7 - 8 * label.length, at - 7] : [at + 7, at + 7 + 8 * label.length];
  const a = span(limit.at, limit.label, limit.at >= 9 * limit.label.length);
  const b = span(rated.at, rated.label, rated.at + 9 * rated.label.length > widthPx);
  return a[0] < b[1] && b[0] < a[1];
}
