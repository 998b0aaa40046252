// What a take shows beside its way: how often it shakes, and how sharp its frames are.

import type { Measures, Spectrum } from "@keep-rolling/core/motion";
import { linear } from "../../rulers/axis/linear.ts";

const CHART = { width: 440, height: 120 };

export function SpectrumChart({ spectrum, measures }: { spectrum: Spectrum | null; measures: Measures }) {
  if (spectrum === null) return <p className="text-soft">No spectrum: too short, or not followed.</p>;
  const top = Math.max(...spectrum.power);
  const x = linear([0, 12], [0, CHART.width]);
  const y = linear([0, Math.sqrt(top)], [CHART.height - 18, 4]);
  const step = measures.stepHz;
  return (
    <figure>
      <figcaption className="text-sm text-soft">
        how often it shakes, times a second{step === null ? "" : "; upright: steps, and sway at half of them"}
      </figcaption>
      <svg
        role="img"
        aria-label={step === null ? "Spectrum without a step rate" : `Spectrum, steps ${step.toFixed(2)} a second`}
        viewBox={`0 0 ${CHART.width} ${CHART.height}`}
        className="w-full max-w-lg"
      >
        {step !== null &&
          [step, step / 2].map((hz) => (
            <line key={hz} x1={x(hz)} x2={x(hz)} y1={0} y2={CHART.height - 18} className="stroke-cool" strokeWidth={1.5} />
          ))}
        <polyline
          points={[...spectrum.hz].map((hz, i) => `${x(hz).toFixed(1)},${y(Math.sqrt(spectrum.power[i] ?? 0)).toFixed(1)}`).join(" ")}
          className="fill-none stroke-ink"
          strokeWidth={1.25}
        />
        {[0, 2, 4, 6, 8, 10, 12].map((hz) => (
          <text
            key={hz}
            x={x(hz)}
            y={CHART.height - 3}
            textAnchor={hz === 0 ? "start" : hz === 12 ? "end" : "middle"}
            className="num fill-soft text-[0.75rem]"
          >
            {hz}
          </text>
        ))}
      </svg>
    </figure>
  );
}

export function SharpnessCurve({ sharpness, measures }: { sharpness: readonly number[]; measures: Measures }) {
  if (measures.sharpnessArea === null) return <p className="text-soft">No contrast to judge sharpness by.</p>;
  const x = linear([0, Math.max(1, sharpness.length - 1)], [0, CHART.width]);
  const y = linear([0, 1], [CHART.height - 4, 4]);
  return (
    <figure className="mt-4">
      <figcaption className="text-sm text-soft">
        sharpness of each frame against the best, best first: {measures.sharpnessArea.toFixed(2)} on average. A clip that is soft all along
        looks perfect here; its edge width tells
      </figcaption>
      <svg
        role="img"
        aria-label={`Sharpness curve, mean ${measures.sharpnessArea.toFixed(2)} of the best frame`}
        viewBox={`0 0 ${CHART.width} ${CHART.height}`}
        className="w-full max-w-lg"
      >
        <line x1={0} x2={CHART.width} y1={y(0)} y2={y(0)} className="stroke-rule2" />
        <polyline
          points={sharpness.map((s, i) => `${x(i).toFixed(1)},${y(s).toFixed(1)}`).join(" ")}
          className="fill-none stroke-ink"
          strokeWidth={1.25}
        />
      </svg>
    </figure>
  );
}
