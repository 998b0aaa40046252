// What one shutter-speed test says: the sentences, the stops ruler, the keep rate at each time, and how this is computed.

import type { HoldRead, SettingRead } from "@keep-rolling/core/holds";
import { readHold } from "@keep-rolling/core/holds";
import { useMemo } from "react";
import { Link } from "react-router";
import type { StopsMark } from "../../rulers/stops/StopsRuler.tsx";
import { StopsRuler } from "../../rulers/stops/StopsRuler.tsx";
import { saveText } from "../../shared/ui/saveFile.ts";
import { Button, Note, PageHead } from "../../shared/ui/parts.tsx";
import { useWidth } from "../../shared/ui/useWidth.ts";
import { DimLight } from "./reading/DimLight.tsx";
import { InHand } from "./reading/InHand.tsx";
import { Judges } from "./reading/Judges.tsx";
import { shotsCsv } from "./reading/shotsCsv.ts";
import { Times } from "./reading/Times.tsx";
import { useSeen } from "./reading/useSeen.ts";
import { classicalWords, tiringWords } from "./reading/readingWords.ts";
import type { OpenedHold } from "./useHold.tsx";
import { OpenHold } from "./useHold.tsx";
import {
  dialWords,
  doubtWords,
  gainWords,
  heldBackWords,
  inViewWords,
  makersWords,
  orderWords,
  referenceWords,
  rulerWords,
  settingWords,
  shareWords,
  workWords,
} from "./words.ts";

export const HoldPage = () => <OpenHold>{(opened) => <Read {...opened} />}</OpenHold>;

function Read(opened: OpenedHold) {
  const { id, begun, hold, plan } = opened;
  const { seen, by, use, choose } = useSeen(opened);
  const read = useMemo(() => readHold(plan, seen), [plan, seen]);
  const toGrade = hold.pictures.some((p) => p.counts) && !hold.judges.some((j) => j.left === 0);
  const { unsaid } = seen;
  return (
    <article className="max-w-5xl">
      <PageHead
        title={`${plan.lensName} at ${plan.focalMm} mm, ${plan.stance}`}
        sub={[
          begun?.place ?? "",
          plan.by,
          plan.equivalentMm === null ? "" : `${plan.equivalentMm} mm equivalent`,
          orderWords(plan),
          by === null ? "judged at once" : `${by} judged the pictures`,
          plan.state,
        ]
          .filter((w) => w !== "")
          .join(" · ")}
      >
        <Link to={`/hold/${id}/plan`}>Change the plan</Link>
        <Link to={`/hold/${id}/pictures`}>Pictures</Link>
        {hold.pictures.length > 0 && <Link to={`/hold/${id}/table`}>Table of shots</Link>}
        {hold.left !== 0 && (hold.pictures.length === 0 || hold.shots.length > 0) && (
          <Link to={`/hold/${id}/card`}>{hold.left === null ? "Shooting card" : `Shooting card: ${hold.left} to take`}</Link>
        )}
        {(hold.shots.length > 0 || hold.pictures.length > 0) && (
          <Button tone="quiet" onClick={() => saveText(`shots ${plan.lensName}.csv`, "text/csv", shotsCsv(plan, hold))}>
            Shots as CSV
          </Button>
        )}
      </PageHead>
      {begun !== null && begun.clockId !== "real" && <Note tone="alert">On a simulated clock: it says nothing about any real hands.</Note>}
      {toGrade && (
        <Note>
          {hold.judges.length === 0
            ? "The pictures are not graded yet."
            : hold.judges.map((j) => `${j.by}: ${j.graded} graded, ${j.left} to go.`).join(" ")}{" "}
          What they say is shown after the last grade. <Link to={`/hold/${id}/table`}>Grade them, blind</Link>.
        </Note>
      )}
      {unsaid > 0 && (
        <Note tone="alert">
          {`${unsaid} ${unsaid === 1 ? "picture does" : "pictures do"} not say whether the stabiliser was off or on, and ${unsaid === 1 ? "is" : "are"} not read. `}
          <Link to={`/hold/${id}/pictures`}>Say it</Link>.
        </Note>
      )}
      {by !== null && use !== null && <Judges {...opened} by={by} use={use} choose={choose} />}
      {read.settings.length === 0 ? (
        !toGrade && (
          <p>
            Nothing is judged yet. <Link to={`/hold/${id}/card`}>To the shooting card</Link>, or{" "}
            <Link to={`/hold/${id}/pictures`}>bring in pictures</Link>.
          </p>
        )
      ) : (
        <Said {...opened} read={read} inView={seen.inView} />
      )}
    </article>
  );
}

function Said({ id, hold, plan, read, inView }: OpenedHold & { read: HoldRead; inView: number }) {
  const [box, width] = useWidth<HTMLDivElement>(900);
  const bad = hold.shots.filter((s) => s.grade === "bad").length;
  const gain = gainWords(read.gain);
  const makers = makersWords(plan, read.gain);
  const leading: SettingRead[] = [...read.settings].reverse();
  return (
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
            shots: read.shots.filter((h) => h.setting === s.setting).map((h) => ({ x: h.x, kept: h.grade === "kept" })),
            interval: s.claim.interval,
            claim: s.claim.claim,
            rates: s.times.map((t) => ({ x: t.x, share: t.kept / t.shots, bar: t.bar })),
            curve: s.curve,
          }))}
          marks={marksOf(read, referenceWords(plan.reference))}
          bracket={bracketOf(read)}
          width={width}
          label={rulerWords(read)}
          labelOf={dialWords}
        />
      </div>
      <p className="text-sm text-soft">
        {`Kept solid, lost hollow, in the order they were shot. Teal: the dependable time, and between which times ${shareWords(plan.share)} are kept (90 % sure). Beneath: the share kept at each time with its bar (90 %, if shots were independent), and the curve.`}
        {bad > 0 && ` ${bad} bad ${bad === 1 ? "try is" : "tries are"} not counted.`}
      </p>
      <ul className="mt-3 list-disc pl-5 text-soft">
        {read.settings.flatMap((s) => doubtWords(s).map((w) => <li key={`${s.setting} ${w}`}>{`with it ${s.setting}: ${w}`}</li>))}
        {read.heldBack !== null && <li>{heldBackWords(read.heldBack)}</li>}
        {inView > 0 && <li className="text-ink">{inViewWords(inView, read.shots.length)}</li>}
        <li>{tiringWords(read.shots)}</li>
        <li>Shots of one grip count as partly one shot. One session speaks for these hands, this stance and this day.</li>
      </ul>
      <Times read={read} />
      <InHand read={read} />
      <DimLight id={id} plan={plan} read={read} />
      <details className="mt-6">
        <summary>How this is computed</summary>
        <p className="max-w-3xl text-soft">
          {`Keep rates fall along a curve whose steepness is found from the shots, within .4 to 6 per stop; up to 8 % of shots may be lost for other reasons, 2 % kept by luck, and shots of one go are alike by up to a quarter. The dependable time is where at least ${shareWords(plan.share)} are kept with 90 % confidence; it is never slower than the slowest time shot. Times are told by their place on the dial, not by the printed label. Stops gained are the distance of the two limits, not of two labels.`}
        </p>
        {read.settings.map((s) => (
          <p key={s.setting} className="max-w-3xl text-soft">
            {classicalWords(s)}
          </p>
        ))}
      </details>
    </>
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
