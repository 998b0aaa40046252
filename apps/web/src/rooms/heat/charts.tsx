// The room's statistical charts, in the colours of the face: survival, times against ambient, recovery, the chance to hold, a path.

import { formatTick } from "@keep-rolling/core/format";
import type { ReactElement, ReactNode } from "react";
import { Area, CartesianGrid, ComposedChart, Line, ReferenceLine, Scatter, XAxis, YAxis } from "recharts";
import { AtLeast } from "../../rulers/glyphs/End.tsx";
import { minuteTicks } from "../../rulers/axis/minutes.ts";
import { useWidth } from "../../shared/ui/useWidth.ts";

const HEIGHT = 250;
const axis = { stroke: "var(--rule2)", tick: { fill: "var(--soft)", fontSize: 12 } } as const;
export const tickOf = (sec: number): string => formatTick(Math.max(0, sec) * 1000);

interface FrameProps {
  label: string;
  data: readonly Record<string, unknown>[];
  children: ReactNode;
}

/** Drawn at the width there is; its words are the table beneath, so it is a picture to a screen reader. */
function Frame({ label, data, children }: FrameProps) {
  const [ref, width] = useWidth<HTMLDivElement>(520);
  return (
    <div ref={ref} role="img" aria-label={label} className="print-keep mt-3">
      <ComposedChart
        accessibilityLayer={false}
        width={Math.max(240, Math.min(760, width))}
        height={HEIGHT}
        data={[...data]}
        margin={{ top: 12, right: 18, bottom: 26, left: 4 }}
      >
        <CartesianGrid stroke="var(--rule)" vertical={false} />
        {children}
      </ComposedChart>
    </div>
  );
}

/** Round times, as on the minutes ruler. */
const timeAxis = (data: readonly Record<string, unknown>[], key: string) => {
  const most = Math.max(60, ...data.map((d) => Number(d[key])).filter((v) => Number.isFinite(v)));
  return {
    type: "number",
    domain: [0, most],
    ticks: minuteTicks(most * 1000, 6).labelled.map((ms) => ms / 1000),
    tickFormatter: tickOf,
  } as const;
};

const below = (value: string) => ({ value, position: "bottom" as const, fill: "var(--soft)", fontSize: 12 });
const still = { isAnimationActive: false, dot: false } as const;

export interface SurvivalPoint {
  sec: number;
  share: number;
  lo: number | null;
  hi: number | null;
  /** Runs that ended otherwise here. */
  cut: number | null;
}

export function SurvivalChart({ points, limitSec }: { points: readonly SurvivalPoint[]; limitSec: number | null }) {
  const data = points.map((p) => ({ ...p, band: p.lo === null || p.hi === null ? undefined : [p.lo, p.hi] }));
  return (
    <Frame label="Share of runs still recording, by time" data={data}>
      <XAxis dataKey="sec" {...timeAxis(data, "sec")} {...axis} label={below("recorded time, h:mm")} />
      <YAxis domain={[0, 1]} tickFormatter={(v: number) => `${Math.round(100 * v)} %`} width={48} {...axis} />
      <Area dataKey="band" type="stepAfter" stroke="none" fill="var(--cool)" fillOpacity={0.16} {...still} connectNulls={false} />
      <Line dataKey="share" type="stepAfter" stroke="var(--ink)" strokeWidth={2} {...still} />
      {dots("cut", data, { shape: chevrons })}
      {limitSec !== null && <ReferenceLine x={limitSec} stroke="var(--cool)" strokeWidth={2.4} />}
    </Frame>
  );
}

/** "At least": as on the strip. */
const chevrons = ({ cx, cy }: { cx?: number | undefined; cy?: number | undefined }): ReactElement =>
  cx === undefined || cy === undefined ? <g /> : <AtLeast at={cx - 8} y={cy - 5} height={10} width={5} />;

/** Points of their own beside the curves. A scatter without points would draw those of the whole chart. */
function dots<K extends string>(
  key: K,
  rows: readonly { [name in K]?: number | null }[],
  look: { fill: string } | { shape: typeof chevrons },
): ReactElement | null {
  const own = rows.filter((r) => typeof r[key] === "number");
  return own.length === 0 ? null : <Scatter data={own} dataKey={key} isAnimationActive={false} {...look} />;
}

export interface AmbientRow {
  ambientC: number;
  physics?: number;
  physicsBand?: [number, number];
  regression?: number;
  regressionBand?: [number, number];
  run?: number;
  atLeast?: number;
}

export function AmbientChart({
  rows,
  runs,
  criticalC,
  topSec,
  at,
}: {
  rows: readonly AmbientRow[];
  runs: readonly AmbientRow[];
  criticalC: number | null;
  topSec: number;
  at: (c: number) => string;
}) {
  return (
    <Frame
      label="Time to the end by ambient temperature: physics, regression and runs"
      data={rows as readonly Record<string, unknown>[] & AmbientRow[]}
    >
      <XAxis dataKey="ambientC" type="number" domain={["dataMin", "dataMax"]} tickFormatter={at} {...axis} label={below("ambient")} />
      <YAxis domain={[0, topSec]} allowDataOverflow tickFormatter={tickOf} width={48} {...axis} />
      <Area dataKey="physicsBand" stroke="none" fill="var(--cool)" fillOpacity={0.15} {...still} />
      <Area dataKey="regressionBand" stroke="none" fill="var(--soft)" fillOpacity={0.15} {...still} />
      <Line dataKey="physics" stroke="var(--cool)" strokeWidth={2.4} {...still} />
      <Line dataKey="regression" stroke="var(--soft)" strokeWidth={2} strokeDasharray="6 4" {...still} />
      {dots("run", runs, { fill: "var(--ink)" })}
      {dots("atLeast", runs, { shape: chevrons })}
      {criticalC !== null && <ReferenceLine x={criticalC} stroke="var(--cool)" strokeDasharray="3 3" />}
    </Frame>
  );
}

export interface RecoveryRow {
  restSec: number;
  fitted?: number;
  band?: [number, number];
  run?: number;
}

export function RecoveryChart({ rows, runs }: { rows: readonly RecoveryRow[]; runs: readonly RecoveryRow[] }) {
  return (
    <Frame label="Share of the cold time after a rest" data={rows as readonly Record<string, unknown>[] & RecoveryRow[]}>
      <XAxis
        dataKey="restSec"
        {...timeAxis(rows as readonly Record<string, unknown>[] & RecoveryRow[], "restSec")}
        {...axis}
        label={below("rest, h:mm")}
      />
      <YAxis
        domain={[0, 1.1]}
        ticks={[0, 0.25, 0.5, 0.75, 1]}
        tickFormatter={(v: number) => `${Math.round(100 * v)} %`}
        width={48}
        {...axis}
      />
      <Area dataKey="band" stroke="none" fill="var(--cool)" fillOpacity={0.15} {...still} />
      <Line dataKey="fitted" stroke="var(--cool)" strokeWidth={2.4} {...still} />
      <ReferenceLine y={0.8} stroke="var(--ink)" strokeDasharray="3 3" />
      {dots("run", runs, { fill: "var(--ink)" })}
    </Frame>
  );
}

export function HoldChart({ holds }: { holds: readonly { sec: number; lo: number; hi: number }[] }) {
  const rows = holds.map(({ sec, lo, hi }) => ({ sec, lo, band: [lo, hi] as [number, number] }));
  return (
    <Frame label="Chance to hold a given time: at least the line; between the line and one, where it is unknown" data={rows}>
      <XAxis dataKey="sec" {...timeAxis(holds, "sec")} {...axis} label={below("time to hold, h:mm")} />
      <YAxis domain={[0, 1]} tickFormatter={(v: number) => `${Math.round(100 * v)} %`} width={48} {...axis} />
      <Area dataKey="band" stroke="none" fill="var(--cool)" fillOpacity={0.16} isAnimationActive={false} />
      <Line dataKey="lo" stroke="var(--cool)" strokeWidth={2.4} {...still} />
    </Frame>
  );
}

export function PathChart({
  points,
  shutdownAt,
  plateau,
}: {
  points: readonly { sec: number; value: number }[];
  shutdownAt: number | null;
  plateau: number | null;
}) {
  return (
    <Frame label="Gauge or shell over the run" data={points}>
      <XAxis dataKey="sec" {...timeAxis(points, "sec")} {...axis} label={below("elapsed, h:mm")} />
      <YAxis domain={["auto", (most: number) => Math.max(most, shutdownAt ?? most)]} width={48} {...axis} />
      <Line dataKey="value" stroke="var(--ink)" strokeWidth={1.5} isAnimationActive={false} dot={{ r: 3, fill: "var(--ink)" }} />
      {shutdownAt !== null && (
        <ReferenceLine
          y={shutdownAt}
          stroke="var(--h3)"
          strokeWidth={2}
          label={{ value: "shutdown", position: "insideTopLeft", fill: "var(--ink)", fontSize: 12 }}
        />
      )}
      {plateau !== null && <ReferenceLine y={plateau} stroke="var(--cool)" strokeDasharray="5 4" />}
    </Frame>
  );
}
