// The rows of a move: name, wake, sway ruler, field kept, bending, soft steps, roll.

import type { ClipFlag } from "@keep-rolling/core/motion";
import type { Comparison, MeasuredTake, SetupRow } from "@keep-rolling/core/walks";
import { Link } from "react-router";
import { Wake } from "../../rulers/sway/Wake.tsx";
import { swayRuler } from "../../rulers/sway/scale.ts";
import { takesWords } from "./compareWords.ts";
import { flagWords } from "./words.ts";
import type { TakeRead } from "../../workers/jobs/readTakes.ts";

const RULER = 330;
const WAKE = { width: 170, height: 44, seconds: 6 };

interface Props {
  id: string;
  rows: readonly SetupRow[];
  readOf: (row: SetupRow) => TakeRead | undefined;
  fieldOf: (row: SetupRow) => number | null;
  scale: SwayScale;
  along: "x" | "y";
  /** The move is a pan: its start is the price, not the softness of steps. */
  pans: boolean;
  /** Null: not compared yet, or not comparable. */
  compared: Comparison | null;
  /** All that was measured is here: what has no numbers was not measured. */
  whole: boolean;
}

/** In which quantity shake is shown. */
export interface SwayScale {
  head: string;
  /** Shake of a take in that quantity; null where it cannot be told. */
  of: (take: MeasuredTake) => number | null;
  words: (value: number) => string;
  unit: string;
  /** Brackets hold in this quantity; in another a setup's field moves its values. */
  compares: boolean;
}

export function SetupRows({ id, rows, readOf, fieldOf, scale, along, pans, compared, whole }: Props) {
  const lanes = scale.compares && compared !== null ? lanesOf(compared) : [];
  const ruler = swayRuler(
    rows.flatMap((r) => r.takes.flatMap((t) => scale.of(t) ?? [])),
    RULER,
  );
  const order = rows.map((r) => r.setup.id);
  const reads = rows.flatMap((r) => readOf(r) ?? []);
  const half = Math.max(0.002, ...reads.map((r) => quantileOf(r.wake[along], 0.98)));
  return (
    <div className="overflow-x-auto">
      <table className="w-full border-collapse text-left">
        <thead className="text-sm text-soft">
          <tr>
            {lanes.length > 0 && <th className="sr-only">cannot be told apart</th>}
            <th className="font-normal">setup</th>
            <th className="font-normal">
              {along === "x" ? "sideways" : "up and down"}, {WAKE.seconds} s
            </th>
            <th className="font-normal">
              <span className="block">{pans ? `${scale.head}, before and after the pan` : scale.head}</span>
              {ruler !== null && <Ticks ruler={ruler} />}
            </th>
            <th className="font-normal">field kept, %</th>
            <th className="font-normal">bending</th>
            <th className="font-normal">{pans ? "pause, leap" : "soft steps"}</th>
            <th className="font-normal">roll</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.setup.id} className="hairline">
              {lanes.length > 0 && <Lanes lanes={lanes} order={order} at={row.setup.id} />}
              <th scope="row" className="py-2 pr-3 align-middle font-semibold">
                <Name id={id} row={row} compared={compared} whole={whole} />
              </th>
              <td className="pr-4">{wakeOf(row, readOf(row), half, along)}</td>
              <td className="pr-4">{ruler !== null && <Sway row={row} ruler={ruler} scale={scale} compared={compared} />}</td>
              <td className="num pr-3">
                <Field share={fieldOf(row)} />
              </td>
              <td className="num pr-3 whitespace-nowrap">{row.wobblePx640 === null ? "" : `${row.wobblePx640.toFixed(2)} px`}</td>
              <td className="num pr-3 whitespace-nowrap">{pans ? panWords(row) : stepWords(row)}</td>
              <td className="num whitespace-nowrap">{row.rollDeg === null ? "" : `${row.rollDeg.toFixed(2)}°`}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

const stepWords = ({ softSteps }: SetupRow): string => (softSteps === null ? "" : `${softSteps.soft} of ${softSteps.steps}`);
const panWords = ({ panStart }: SetupRow): string =>
  panStart === null ? "" : `${panStart.delaySec.toFixed(2)} s, ×${panStart.peakRatio.toFixed(1)}`;

function Name({ id, row, compared, whole }: Pick<Props, "id" | "compared" | "whole"> & { row: SetupRow }) {
  const bar = row.setup.support === "two-body bar";
  return (
    <>
      <span className="block">{row.setup.name}</span>
      <span className="text-sm font-normal text-soft">
        {row.takes.length === 0 && (row.leftOut.length > 0 ? "every take left out" : "no take yet")}
        {row.takes.map((t, i) => (
          <span key={t.take.id}>
            {i > 0 && " · "}
            <Link to={`/walk/${id}/takes/${t.take.id}`} aria-label={`Take ${t.take.n} of ${row.setup.name}`}>
              {i === 0 ? `take ${t.take.n}` : t.take.n}
            </Link>
          </span>
        ))}
        {row.takes.some((t) => t.take.of !== null) && " · corrected copies, not walked"}
        {bar && " · on a bar, not a hand result"}
        {[...bewareOf(row, whole), ...oddTakesOf(row, compared)].map((words) => (
          <span key={words} className="block text-alert">
            {words}
          </span>
        ))}
      </span>
    </>
  );
}

/** Flags that touch the numbers of this row; what only describes the clip stands on the take's page. */
const TOUCHING: readonly ClipFlag[] = ["too-few-frames", "not-followed", "parallax", "beyond-search", "variable-rate", "jump"];

function bewareOf(row: SetupRow, whole: boolean): string[] {
  const unmeasured = !whole ? 0 : row.takes.filter((t) => t.take.clips.length > 0 && t.measures === null).length;
  const flagged = TOUCHING.flatMap((flag) => {
    const takes = row.takes.filter((t) => t.measures?.flags.includes(flag) === true).map((t) => t.take.n);
    const told = row.takes.every((t) => t.measures === null || t.measures.jitterRmsFrac !== null || !takes.includes(t.take.n));
    return takes.length === 0 ? [] : [`${takes.length === 1 ? "take" : "takes"} ${takes.join(", ")}: ${flagWords(flag, told)}`];
  });
  // Of several clips only one can be the take.
  for (const { take } of row.takes)
    if (take.clips.length > 1) flagged.push(`take ${take.n} has ${take.clips.length} clips; only ${take.clips[0]?.name ?? ""} counts`);
  return unmeasured === 0 ? flagged : [...flagged, `${unmeasured} ${unmeasured === 1 ? "clip" : "clips"} not measured here`];
}

function wakeOf(row: SetupRow, read: TakeRead | undefined, half: number, along: "x" | "y") {
  if (read === undefined) return null;
  return (
    <Wake
      wake={read.wake}
      along={along}
      halfFrac={half}
      {...WAKE}
      label={`${along === "x" ? "Sideways path" : "Path up and down"} of ${row.setup.name}`}
    />
  );
}

type Ruler = NonNullable<ReturnType<typeof swayRuler>>;

const Ticks = ({ ruler }: { ruler: Ruler }) => (
  <svg width={RULER} height={16} className="num block text-[0.8rem]" aria-hidden="true">
    {ruler.ticks.map((t) => (
      <text key={t} x={ruler.at(t)} y={12} textAnchor="middle" className="fill-soft">
        {t}
      </text>
    ))}
  </svg>
);

/** Takes as upright ticks; the level they stand for with its 90 % interval as a bar with feet, or without repeats their geometric mean. */
function Sway({ row, ruler, scale, compared }: { row: SetupRow; ruler: Ruler; scale: SwayScale; compared: Comparison | null }) {
  const takes = row.takes.flatMap((t) => scale.of(t) ?? []);
  const level = compared?.setups.find((s) => s.id === row.setup.id);
  // In another quantity the level moves with its takes.
  const factor = takes.length === 0 || row.jitterFrac === null ? null : geometricMean(takes) / row.jitterFrac;
  const of = (frac: number): number => frac * (factor ?? 1);
  const middle = takes.length === 0 ? null : level === undefined ? geometricMean(takes) : of(level.point);
  const bar = level === undefined || middle === null ? null : { low: of(level.low90), high: of(level.high90) };
  const right = Math.max(0, ...takes.map(ruler.at), bar === null ? 0 : ruler.at(bar.high));
  // A number that would leave the ruler stands on the other side.
  const left = Math.min(...takes.map(ruler.at), bar === null ? RULER : ruler.at(bar.low));
  const outside = right > RULER - 60;
  const told = takes.map((t) => `${scale.words(t)}${scale.unit}`).join(", ");
  const between =
    bar === null
      ? ""
      : `; level ${scale.words(middle ?? 0)}${scale.unit}, 90 % sure between ${scale.words(bar.low)} and ${scale.words(bar.high)}`;
  const label = `${row.setup.name}: ${takes.length === 0 ? "not measured" : told + between}`;
  return (
    <svg role="img" aria-label={label} width={RULER} height={44} className="block overflow-visible">
      {ruler.ticks.map((t) => (
        <line key={t} x1={ruler.at(t)} x2={ruler.at(t)} y1={0} y2={44} className="stroke-rule" />
      ))}
      {bar !== null && (
        <g className="stroke-cool" strokeWidth={2}>
          <line x1={ruler.at(bar.low)} x2={ruler.at(bar.high)} y1={22} y2={22} />
          <line x1={ruler.at(bar.low)} x2={ruler.at(bar.low)} y1={16} y2={28} />
          <line x1={ruler.at(bar.high)} x2={ruler.at(bar.high)} y1={16} y2={28} />
        </g>
      )}
      {takes.map((t, i) => (
        <line key={i} x1={ruler.at(t)} x2={ruler.at(t)} y1={13} y2={31} className="stroke-ink" strokeWidth={2} />
      ))}
      {middle !== null && (
        <>
          <line x1={ruler.at(middle)} x2={ruler.at(middle)} y1={7} y2={37} className="stroke-cool" strokeWidth={2} />
          <text
            x={outside ? left - 10 : right + 10}
            y={27}
            textAnchor={outside ? "end" : "start"}
            className="num fill-ink stroke-ground text-[0.95rem] font-semibold"
            strokeWidth={4}
            paintOrder="stroke"
          >
            {scale.words(middle)}
          </text>
        </>
      )}
    </svg>
  );
}
const geometricMean = (values: readonly number[]): number => Math.exp(values.reduce((sum, v) => sum + Math.log(v), 0) / values.length);

/** Takes that stand apart, by their numbers. */
function oddTakesOf(row: SetupRow, compared: Comparison | null): string[] {
  const numbers = row.takes.filter((t) => (t.measures?.jitterRmsFrac ?? 0) > 0).map((t) => t.take.n);
  return compared === null ? [] : takesWords(compared, row.setup.id, numbers);
}

/** Brackets of two and more; one that holds a single setup needs no drawing. */
const lanesOf = ({ brackets }: Comparison): readonly (readonly string[])[] => brackets.filter((b) => b.length > 1);

/** The brackets beside a row: a dot on members, a thin line past others, ends hooked. */
function Lanes({ lanes, order, at }: { lanes: readonly (readonly string[])[]; order: readonly string[]; at: string }) {
  const here = order.indexOf(at);
  return (
    <td className="relative p-0" style={{ width: 14 * lanes.length + 6 }}>
      {lanes.map((members, i) => {
        const places = members.map((m) => order.indexOf(m));
        const [from, to] = [Math.min(...places), Math.max(...places)];
        if (here < from || here > to) return null;
        const member = members.includes(at);
        return (
          <span key={members.join()} className="absolute inset-y-0" style={{ left: 14 * i, width: 10 }}>
            <span
              className={`absolute left-[4px] ${member || from === to ? "border-l-2 border-ink" : "border-l border-soft"}`}
              style={{ top: here === from ? "50%" : 0, bottom: here === to ? "50%" : 0 }}
            />
            {member && <span className="absolute top-1/2 left-[1px] h-2 w-2 -translate-y-1/2 rounded-full bg-ink" />}
          </span>
        );
      })}
    </td>
  );
}

/** A frame in a frame. */
function Field({ share }: { share: number | null }) {
  if (share === null) return null;
  const kept = Math.min(1, share);
  return (
    <span className="flex items-center gap-1.5">
      <svg width={40} height={24} aria-hidden="true">
        <rect x={0.5} y={0.5} width={39} height={23} className="fill-none stroke-rule2" />
        <rect x={20 - 19.5 * kept} y={12 - 11.5 * kept} width={39 * kept} height={23 * kept} className="fill-rule stroke-soft" />
      </svg>
      {Math.round(100 * kept)}
    </span>
  );
}

const quantileOf = (values: readonly number[], q: number): number => {
  const order = values.map(Math.abs).sort((a, b) => a - b);
  return order[Math.floor(q * (order.length - 1))] ?? 0;
};
