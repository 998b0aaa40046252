// Is the rating true, and why do others' figures differ? Rated figures where end and temperature allow; outside figures as a waterfall.

import type { FigureReading, Waterfall } from "@keep-rolling/core/reading";
import { causeWords, fewWords, hms, ratingWords } from "@keep-rolling/core/reading";
import { formatTemperature } from "@keep-rolling/core/format";
import { Link } from "react-router";
import { useSettings } from "../../../shared/settings/settings.ts";
import type { FactorRow } from "../../../rulers/strips/FactorRuler.tsx";
import { FactorRuler } from "../../../rulers/strips/FactorRuler.tsx";
import { useWidth } from "../../../shared/ui/useWidth.ts";
import { statedWords } from "../../../rulers/glyphs/words.ts";
import { ChartTable, Lead, lowerFirst, Opened, Reason, Reasons } from "../parts.tsx";
import type { Answerable } from "./ask.ts";

export function Rating(a: Answerable) {
  const { full, runs } = a;
  const { temperature } = useSettings();
  const apart = temperature === "C" ? "3 °C" : "5.4 °F";
  const rated = full.figures.filter((f) => f.figure.kind === "rated");
  const outside = full.figures.filter((f) => f.figure.kind === "outside");
  const first = rated[0];
  return (
    <div>
      <Lead about={`${full.setup.mode.name}:`}>
        {first?.check == null ? (
          <>
            no published time in the kit for this mode. <Link to={`/kit/figures/new?parent=${full.setup.mode.id}`}>Add it</Link>
          </>
        ) : (
          lowerFirst(ratingWords(first.check, a.levels.confidence))
        )}
      </Lead>
      <Reasons>
        {rated.map((f) => (
          <Rated key={f.figure.id} f={f} confidence={a.levels.confidence} />
        ))}
      </Reasons>
      {rated.map(
        (f) =>
          f.check !== null && (
            <Opened
              key={f.figure.id}
              what={`the rating (${statedWords(f.figure)})`}
              runIds={[...f.check.fellShort, ...f.check.outlasted]}
              runs={runs}
              method={`A run speaks when it outlasted the published time in a room not more than ${apart} cooler, or ended by heat before it in a room not more than ${apart} warmer and out of direct sun. What a battery, a card or the tester ended before it says nothing. Shares by Clopper and Pearson, one-sided; the limit is the dependable limit of the runs in its condition. Where no limit is stated, runs that heat ended in a room not more than ${apart} warmer and out of direct sun are told, and no share is claimed.`}
            />
          ),
      )}
      {outside.length > 0 && <h3 className="mt-6 text-lg font-semibold">Why do others' published times differ?</h3>}
      {outside.map((f) => (
        <Outside key={f.figure.id} f={f} typicalSec={full.typicalSec} />
      ))}
    </div>
  );
}

function Rated({ f, confidence }: { f: FigureReading; confidence: number }) {
  const { temperature } = useSettings();
  const { figure, check } = f;
  const at = figure.ambientC === null ? "" : ` at ${formatTemperature(figure.ambientC, temperature)}`;
  return (
    <Reason
      title={`Published ${statedWords(figure)}${at}.`}
      text={check === null ? "" : `${ratingWords(check, confidence)} ${silentWords(check.silent.length)}`}
    />
  );
}

const silentWords = (n: number): string => (n === 0 ? "" : n === 1 ? "One run cannot speak about it." : `${n} runs cannot speak about it.`);

function Outside({ f, typicalSec }: { f: FigureReading; typicalSec: number | null }) {
  const { temperature } = useSettings();
  const [ref, width] = useWidth<HTMLDivElement>(520);
  const { figure, waterfall } = f;
  const at = figure.ambientC === null ? ", temperature not said" : ` at ${formatTemperature(figure.ambientC, temperature)}`;
  return (
    <section ref={ref} aria-label={`Another's published time ${statedWords(figure)}`} className="print-keep mt-3">
      <p>
        <strong className="font-semibold">{`Theirs: ${statedWords(figure)}${at}.`}</strong>{" "}
        {waterfall?.ok === true && typicalSec !== null
          ? `${signed(waterfall.ratio)} of our typical ${hms(typicalSec)}.`
          : f.few !== null && fewWords(f.few)}
      </p>
      {waterfall?.ok === true && (
        <>
          <FactorRuler rows={stepsOf(waterfall)} width={width} label="From our typical time to theirs, cause by cause" />
          <ChartTable
            what="The difference"
            heads={["Because of", "Times", "90 % interval"]}
            rows={waterfall.bars.map((b) => [
              nameOf(b.what),
              b.factor.mid.toFixed(2),
              `${b.factor.lo.toFixed(2)} to ${b.factor.hi.toFixed(2)}`,
            ])}
          />
          <p className="mt-1 text-sm">{unsaidOf(waterfall)}</p>
        </>
      )}
    </section>
  );
}

const signed = (f: number): string => `${f < 1 ? "−" : "+"}${Math.round(100 * Math.abs(f - 1))} %`;
const nameOf = (what: Waterfall["bars"][number]["what"]): string =>
  what === "codec" || what === "unexplained"
    ? what
    : what === "start heat"
      ? "warm start"
      : what === "ambient"
        ? "ambient"
        : causeWords(what);

/** Each bar begins where the one before ended; the last ends at their time. */
function stepsOf({ bars }: Waterfall): FactorRow[] {
  return bars.map((b, i) => ({
    key: b.what,
    label: nameOf(b.what),
    ...b.factor,
    from: bars.slice(0, i).reduce((product, before) => product * before.factor.mid, 1),
  }));
}

function unsaidOf({ unsaid, bars }: Waterfall): string {
  const rest = bars.find((b) => b.what === "unexplained")?.factor.mid ?? 1;
  const could = unsaid.filter((u) => Math.abs(Math.log(u.factor.mid)) > 0.02 && Math.log(u.factor.mid) * Math.log(rest) > 0);
  if (unsaid.length === 0) return "Every setting whose price we know was said.";
  const list = (of: typeof unsaid): string => of.map((u) => `${nameOf(u.what)} (${signed(u.factor.mid)})`).join(", ");
  if (could.length === 0) return `Not said: ${list(unsaid)}. None of these would explain the rest.`;
  return `Not said, and could explain the rest: ${list(could)}. Ask for them.`;
}
