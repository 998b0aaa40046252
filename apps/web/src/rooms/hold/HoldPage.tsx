// What one shutter-speed test says: the sentences, the stops ruler, the keep rate at each time, and how this is computed.

import type { HoldRead } from "@keep-rolling/core/holds";
import { readHold } from "@keep-rolling/core/holds";
import { useMemo } from "react";
import { Link } from "react-router";
import type { StopsMark } from "../../rulers/stops/StopsRuler.tsx";
import { StopsRuler } from "../../rulers/stops/StopsRuler.tsx";
import { Note, PageHead } from "../../shared/ui/parts.tsx";
import { useWidth } from "../../shared/ui/useWidth.ts";
import type { OpenedHold } from "./useHold.tsx";
import { OpenHold } from "./useHold.tsx";
import { claimWords, dialWords, doubtWords, gainWords, makersWords, referenceWords, rulerWords, settingWords, workWords } from "./words.ts";

export const HoldPage = () => <OpenHold>{(opened) => <Read {...opened} />}</OpenHold>;

function Read({ id, begun, hold, plan }: OpenedHold) {
  const read = useMemo(() => readHold(plan, hold.shots), [plan, hold.shots]);
  const [box, width] = useWidth<HTMLDivElement>(900);
  const bad = hold.shots.filter((s) => s.grade === "bad").length;
  const gain = gainWords(read.gain);
  const makers = makersWords(plan, read.gain);
  const leading = [...read.settings].reverse();
  return (
    <article className="max-w-5xl">
      <PageHead
        title={`${plan.lensName} at ${plan.focalMm} mm, ${plan.stance}`}
        sub={[
          begun?.place ?? "",
          plan.by,
          plan.equivalentMm === null ? "" : `${plan.equivalentMm} mm equivalent`,
          `${plan.shotsEach} shots at each time, off and on in turn, judged at once`,
          plan.state,
        ]
          .filter((w) => w !== "")
          .join(" · ")}
      >
        {hold.left > 0 && <Link to={`/hold/${id}/card`}>{`Shooting card: ${hold.left} to take`}</Link>}
      </PageHead>
      {begun?.clockId !== "real" && <Note tone="alert">On a simulated clock: it says nothing about any real hands.</Note>}
      {read.settings.length === 0 ? (
        <p>
          Nothing is shot yet. <Link to={`/hold/${id}/card`}>Take the first shot</Link>.
        </p>
      ) : (
        <>
          <div data-testid="hold-lead" className="my-4 space-y-1">
            {leading.map((s) => (
              <p key={s.setting} className="text-2xl leading-snug">
                {settingWords(s)}
              </p>
            ))}
            {gain !== null && <p className="text-xl">{gain}</p>}
            {makers !== null && <p>{makers}</p>}
            {leading.map((s) => workWords(s)).map((w) => w !== null && <p key={w}>{w}</p>)}
          </div>
          <div ref={box}>
            <StopsRuler
              rows={read.settings.map((s) => ({
                name: s.setting,
                shots: hold.shots
                  .filter((h) => h.setting === s.setting && h.grade !== "bad")
                  .map((h) => ({ x: h.x, kept: h.grade === "kept" })),
                interval: s.claim.interval,
                claim: s.claim.claim,
              }))}
              marks={marksOf(read, referenceWords(plan.reference))}
              bracket={bracketOf(read)}
              width={width}
              label={rulerWords(read)}
              labelOf={dialWords}
            />
          </div>
          <p className="text-sm text-soft">
            Kept solid, lost hollow, in the order they were shot. Teal: the dependable time, and between which times 8 of 10 are kept (90 %
            sure).
            {bad > 0 && ` ${bad} bad ${bad === 1 ? "try is" : "tries are"} not counted.`}
          </p>
          <ul className="mt-3 list-disc pl-5 text-soft">
            {read.settings.flatMap((s) => doubtWords(s).map((w) => <li key={`${s.setting} ${w}`}>{`with it ${s.setting}: ${w}`}</li>))}
            {read.unfinished && (
              <li>
                Not all planned shots are there: whoever stops may have stopped because of what was seen, so everything is held back a
                little more.
              </li>
            )}
            <li>Shots of one grip count as partly one shot. One session speaks for these hands, this stance and this day.</li>
          </ul>
          <Times read={read} />
          <details className="mt-6">
            <summary>How this is computed</summary>
            <p className="max-w-3xl text-soft">
              Keep rates fall along a curve whose steepness is found from the shots, within .4 to 6 per stop; up to 8 % of shots may be lost
              for other reasons, 2 % kept by luck, and shots of one go are alike by up to a quarter. The dependable time is where at least 8
              of 10 are kept with 90 % confidence; it is never slower than the slowest time shot. Times are told by their place on the dial,
              not by the printed label. Stops gained are the distance of the two limits, not of two labels.
            </p>
          </details>
        </>
      )}
    </article>
  );
}

function marksOf({ rule, claimed }: HoldRead, name: string): StopsMark[] {
  return [
    ...(rule === null ? [] : [{ x: rule, name, kind: "rule" as const }]),
    ...(claimed === null ? [] : [{ x: claimed, name: "the maker's claim from there", kind: "claim" as const }]),
  ];
}

/** Only where both limits and the stops between them are known on both sides. */
function bracketOf({ settings, gain }: HoldRead) {
  const [off, on] = ["off", "on"].map((n) => settings.find((s) => s.setting === n)?.claim.claim ?? null);
  if (gain?.ok !== true || gain.low === null || gain.high === null || off == null || on == null) return null;
  return {
    from: off,
    to: on,
    words: `${(Math.floor(gain.low * 10) / 10).toFixed(1)} to ${(Math.ceil(gain.high * 10) / 10).toFixed(1)} stops`,
  };
}

function Times({ read }: { read: HoldRead }) {
  return (
    <div className="mt-6 grid gap-8 md:grid-cols-2">
      {read.settings.map((s) => (
        <table key={s.setting} className="w-full border-collapse self-start text-left">
          <caption className="text-left font-semibold">{`Stabiliser ${s.setting}`}</caption>
          <thead className="text-sm text-soft">
            <tr>
              <th className="font-normal">time</th>
              <th className="font-normal">kept</th>
              <th className="font-normal">keep rate, 90 % bar</th>
            </tr>
          </thead>
          <tbody className="num">
            {s.times.map((t) => (
              <tr key={t.x} className="hairline">
                <th scope="row" className="py-1 font-semibold">{`${dialWords(t.x)} s`}</th>
                <td>{`${t.kept} of ${t.shots}`}</td>
                <td>{t.bar === null ? "" : `${Math.floor(100 * t.bar.lower)} to ${Math.ceil(100 * t.bar.upper)} %`}</td>
              </tr>
            ))}
          </tbody>
          {s.claim.claim !== null && s.there !== null && (
            <tfoot className="text-sm text-soft">
              <tr>
                <td colSpan={3}>
                  {s.there.least < 0.05
                    ? `At ${claimWords(s.claim.claim)}: close to none can be promised.`
                    : `At ${claimWords(s.claim.claim)} about ${Math.round(100 * s.there.mean)} % are kept, at least ${Math.floor(100 * s.there.least)} % (90 % sure).`}
                </td>
              </tr>
            </tfoot>
          )}
        </table>
      ))}
    </div>
  );
}
