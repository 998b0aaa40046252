// At a temperature that was not tested: physics and regression beside each other, the ambient below which it should never shut down.

import type { AmbientPoint, AmbientTime } from "@keep-rolling/core/reading";
import { agreement, hms } from "@keep-rolling/core/reading";
import { formatTemperature } from "@keep-rolling/core/format";
import { useState } from "react";
import { useSettings } from "../../../shared/settings/settings.ts";
import { AmbientChart } from "../charts.tsx";
import { ChartTable, Lead, Opened, Reason, Reasons } from "../parts.tsx";
import type { Answerable } from "./ask.ts";

const REFUSED: Readonly<Record<(AmbientTime & { ok: false })["reason"], string>> = {
  "far-outside": "too far from what was tested to say",
  never: "should never shut down by heat",
  "no-slope": "cannot say",
};
const timeWords = (t: AmbientTime): string =>
  !t.ok
    ? REFUSED[t.reason]
    : t.time.mid > NEVER_SEC
      ? `perhaps never, at the least ${hms(t.time.lo)}`
      : `${hms(t.time.mid)} (${hms(t.time.lo)} to ${t.time.hi > NEVER_SEC ? "never" : hms(t.time.hi)})`;
/** What is expected later than this is not expected at all. */
const NEVER_SEC = 48 * 3600;

const PHYSICS_WHY = {
  "one-temperature": "Physics needs shutdowns in two rooms at least three degrees apart, all else the same.",
  "no-shutdown": "No counted run with these settings is known to have ended by heat unbroken, at any temperature.",
  "no-floor-in-reach":
    "These runs do not tell how their times fall with ambient: the body's law finds no floor within reach. Runs in a room farther off would.",
} as const;

export function Temperature({ full, runs }: Answerable) {
  const { temperature } = useSettings();
  const { ambient } = full;
  const known = ambient.points.filter((p) => p.physics.ok || p.regression.ok || (!p.physics.ok && p.physics.reason === "never"));
  const [wantedC, setWantedC] = useState<number | null>(null);
  const atC =
    wantedC ??
    farthest(
      ambient.points,
      ambient.tested.map((t) => t.ambientC),
    ) ??
    Math.round(full.setup.condition.ambientC);
  const point = ambient.points.find((p) => p.ambientC === atC);
  const degrees = (c: number): string => formatTemperature(c, temperature);
  const { physics } = ambient;
  const both = point === undefined ? ({ ok: false } as const) : agreement(point.physics, point.regression);
  return (
    <div>
      <Lead about={`${full.setup.mode.name} at ${degrees(atC)}, settings as in ${full.setup.condition.name}:`}>
        {point === undefined || known.length === 0 ? "nothing can be said yet." : leadOf(point)}
      </Lead>
      {known.length > 0 && (
        <label className="no-print mt-3 block text-sm font-semibold">
          Ambient {degrees(atC)}
          <input
            type="range"
            className="mt-1 block w-full max-w-md accent-cool"
            min={known[0]?.ambientC ?? 0}
            max={known.at(-1)?.ambientC ?? 0}
            step={1}
            value={atC}
            onChange={(event) => setWantedC(Number(event.target.value))}
          />
        </label>
      )}
      {known.length > 0 && <Chart known={known} full={full} degrees={degrees} />}
      <Reasons>
        {physics.ok ? (
          <>
            <Reason
              title={`Below ${degrees(Math.floor(physics.criticalRange.lo))} it should never shut down by heat,`}
              text={`by the cautious end of the range, the time constant's own range included (best guess ${degrees(physics.criticalC)}). A hot day, sun or a lighter breeze is another condition.`}
            />
            {point !== undefined && (
              <Reason title="Physics:" text={`${timeWords(point.physics)}. In the cool it is to be trusted more than the regression.`} />
            )}
          </>
        ) : (
          <Reason title="No physical model yet." text={PHYSICS_WHY[physics.reason]} />
        )}
        {point !== undefined && (
          <Reason
            title="Regression:"
            text={
              !point.regression.ok && point.regression.reason === "no-slope"
                ? "no slope can be given: too few runs, or ambient came together with another cause or did not vary."
                : `${timeWords(point.regression)}. It knows no floor and promises a finite time everywhere.`
            }
          />
        )}
        {both.ok && (
          <Reason
            title={both.agree ? "The two agree:" : "The two do not agree:"}
            text={`physics gives ${Math.round(100 * (both.ratio - 1)) >= 0 ? "+" : "−"}${Math.abs(Math.round(100 * (both.ratio - 1)))} % of the regression's time${both.agree ? "" : "; take the shorter, and test there"}.`}
          />
        )}
        <Reason title="Middles, not limits." text="A typical time at a temperature nobody tested; a dependable limit needs runs there." />
      </Reasons>
      {ambient.tested.length > 0 && (
        <Opened
          what="the prediction"
          runIds={ambient.tested.map((t) => t.runId)}
          runs={runs}
          method={`One lumped body: time = τ ln(rise / (ambient − critical)), τ ${full.ambient.physics.ok ? `${Math.round(full.ambient.physics.tauSec / 60)} min within a factor of ${full.ambient.physics.tauFactor.toFixed(2)}` : "as a range"}; rise and critical ambient by likelihood at its middle and both ends, runs that only lasted at least so long included, 90 % ranges by its profile over all three. The regression is the one of "Why runs differ". Nothing is said farther outside the tested range than three degrees or half of it.`}
        />
      )}
    </div>
  );
}

function leadOf({ physics, regression }: AmbientPoint): string {
  if (!physics.ok && physics.reason === "never") return "should never shut down by heat, over the whole range of what is known.";
  const best = physics.ok ? physics : regression;
  if (!best.ok) return "nothing can be said.";
  return best.time.mid > NEVER_SEC ? `${timeWords(best)}.` : `typically ${timeWords(best)}.`;
}

/** The degree that was not tested and lies farthest from those that were, still within reach. */
function farthest(points: readonly AmbientPoint[], tested: readonly number[]): number | null {
  const near = (c: number): number => Math.min(...tested.map((t) => Math.abs(t - c)));
  const can = points.filter((p) => p.physics.ok && tested.length > 0);
  return can.length === 0 ? null : can.reduce((best, p) => (near(p.ambientC) > near(best.ambientC) ? p : best)).ambientC;
}

function Chart({ known, full, degrees }: { known: readonly AmbientPoint[]; full: Answerable["full"]; degrees: (c: number) => string }) {
  const { tested, physics } = full.ambient;
  const top = 2 * Math.max(1200, ...tested.map((t) => t.timeSec));
  const cut = (v: number): number => Math.min(v, 2 * top);
  const curve = known.map((p) => ({
    ambientC: p.ambientC,
    ...(p.physics.ok
      ? { physics: cut(p.physics.time.mid), physicsBand: [cut(p.physics.time.lo), cut(p.physics.time.hi)] as [number, number] }
      : {}),
    ...(p.regression.ok
      ? {
          regression: cut(p.regression.time.mid),
          regressionBand: [cut(p.regression.time.lo), cut(p.regression.time.hi)] as [number, number],
        }
      : {}),
  }));
  const dots = tested.map((t) => (t.event === 1 ? { ambientC: t.ambientC, run: t.timeSec } : { ambientC: t.ambientC, atLeast: t.timeSec }));
  return (
    <>
      <AmbientChart rows={curve} runs={dots} criticalC={physics.ok ? physics.criticalC : null} topSec={top} at={degrees} />
      <p className="text-sm text-soft">Solid: physics with its range. Dashed: regression. Dots: runs ended by heat; chevrons: at least.</p>
      <ChartTable
        what="Times by ambient"
        heads={["Ambient", "Physics", "Regression"]}
        rows={known.map((p) => [degrees(p.ambientC), timeWords(p.physics), timeWords(p.regression)])}
      />
    </>
  );
}
