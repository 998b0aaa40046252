// The files as the stopwatch: what a run's clips say, against its marks; what they propose; one key takes it over.

import { kitApi } from "../../shared/kit/api.ts";
import type { Clock } from "@keep-rolling/contract/clocks";
import type { Kit } from "@keep-rolling/contract/kit";
import type { Arranged, Clip, ClipConvention, Witness } from "@keep-rolling/core/clips";
import { arrange, contradictions, isReadable, witness } from "@keep-rolling/core/clips";
import { summarise } from "@keep-rolling/core/runs";
import { formatHms, formatSpan } from "@keep-rolling/core/format";
import { useState } from "react";
import { Link } from "react-router";
import { sentenceOf } from "../../shared/api/api.ts";
import { useBenchNow } from "../../record/benchTime.ts";
import { ClipDrop } from "../../shared/clips/ClipDrop.tsx";
import { ClipTable } from "../../shared/clips/ClipTable.tsx";
import { CUT_OFF_WHY, clockWords, EDGE_WORDS, inZone, WHY_NOT } from "../../shared/clips/clipWords.ts";
import { Convention } from "../../shared/clips/Convention.tsx";
import type { SeenRun } from "../../record/runs.ts";
import { Button, Fact, Loading, Note, PageHead, Trouble } from "../../shared/ui/parts.tsx";
import { Proposals } from "./Proposals.tsx";
import { RunGate } from "./RunGate.tsx";

export const FilesPage = () => (
  <RunGate>
    {(run, setup, clock) => (
      <>
        <PageHead
          title={`Files of ${setup.unit.name} · ${setup.mode.name}`}
          sub="What its clips say of themselves, against what was marked."
        >
          <Link to={`/runs/${run.id}`}>Back to the run</Link>
        </PageHead>
        <KitFiles run={run} clock={clock} />
      </>
    )}
  </RunGate>
);

function KitFiles({ run, clock }: { run: SeenRun; clock: Clock | undefined }) {
  const { data: kit, error, refetch } = kitApi.useKitQuery();
  if (kit === undefined)
    return error === undefined ? <Loading what="the kit" /> : <Trouble sentence={sentenceOf(error)} retry={() => void refetch()} />;
  return <Files run={run} kit={kit} clock={clock} />;
}

function Files({ run, kit, clock }: { run: SeenRun; kit: Kit; clock: Clock | undefined }) {
  const unit = kit.units.find((u) => u.id === run.fold.setup?.unit.id);
  const [clips, setClips] = useState<Clip[]>([]);
  const [said, setSaid] = useState<Partial<ClipConvention>>(unit?.clips ?? {});
  const stamp = said.stamp;
  const arrangement =
    clips.length === 0 || stamp === undefined || said.zone === undefined ? null : arrange(inZone(clips, said.zone), stamp);
  const arranged = arrangement?.ok === true ? arrangement : null;
  return (
    <div className="space-y-5">
      <ClipDrop cardOf={run.fold.setup?.unit.simulated === true ? run.id : null} onRead={setClips} />
      {clips.length > 0 && <ClipTable clips={clips} arranged={arranged} />}
      {clips.length > 0 && unit !== undefined && <Convention unit={unit} clips={clips} value={said} onChange={setSaid} />}
      {arrangement?.ok === false && <Note tone="alert">{WHY_NOT[arrangement.reason]}</Note>}
      {arranged !== null && said.stamp !== undefined && said.zone !== undefined && (
        <Answer
          run={run}
          clips={clips}
          arranged={arranged}
          unit={unit ?? null}
          convention={{ stamp: said.stamp, zone: said.zone }}
          clock={clock}
        />
      )}
    </div>
  );
}

/** Farther off than any time zone or summer time makes a clock. */
const FAR_MS = 36 * 3_600_000;

interface AnswerProps {
  run: SeenRun;
  clips: readonly Clip[];
  arranged: Arranged;
  unit: Kit["units"][number] | null;
  convention: ClipConvention;
  clock: Clock | undefined;
}

function Answer({ run, clips, arranged, unit, convention, clock }: AnswerProps) {
  const [chosenMs, setChosenMs] = useState<number | null>(null);
  const known = unit?.clips?.offsetMs ?? null;
  const seen = witness(run.fold, arranged, chosenMs ?? known);
  const nowMs = useBenchNow(clock, 1000);
  if (!seen.ok) return <Note tone="alert">No mark of this run has an edge in these files, so they cannot be laid beside it.</Note>;
  const open = chosenMs === null && known === null && seen.clock.rivals.length > 0;
  const { recordedMs } = summarise(run.fold, nowMs);
  const cut = !seen.cutOff.ok && seen.cutOff.reason !== "nothing-cut-off" ? CUT_OFF_WHY[seen.cutOff.reason] : null;
  return (
    <>
      <dl className="max-w-3xl border-b border-rule">
        <Fact label="by the files" value={filesWords(seen.recordedMs)} note={`recorded; placed by ${arranged.by}${codeWords(arranged)}`} />
        <Fact label="by the marks" value={formatHms(recordedMs.lo)} note="recorded, as the marks stand now" />
        <Fact
          label="clock"
          value={`${seen.clock.agreeing} of ${seen.clock.residuals.length + seen.clock.unwitnessed.length} marks agree`}
          note={clockWords(seen.clock)}
        />
      </dl>
      {Math.abs(seen.clock.offsetMs) > FAR_MS && (
        <Note tone="alert">
          These files are from another time than this run. Either the camera&apos;s clock was never set, or they are not of this run: look
          before you take anything over.
        </Note>
      )}
      <Mode run={run} arranged={arranged} />
      {cut !== null && <Note tone="alert">{cut}</Note>}
      <Residuals run={run} seen={seen} />
      {open ? (
        <Rivals run={run} arranged={arranged} offsets={[seen.clock.offsetMs, ...seen.clock.rivals]} onChoose={setChosenMs} />
      ) : (
        <Proposals
          key={seen.proposals.map((p) => p.key).join()}
          run={run}
          seen={seen}
          clips={clips}
          unit={unit}
          convention={convention}
          clock={clock}
        />
      )}
    </>
  );
}

const filesWords = ({ lo, hi }: Witness["recordedMs"]): string =>
  hi === null ? `at least ${formatHms(lo)}` : hi - lo < 1000 ? formatHms(lo) : `${formatHms(lo)} to ${formatHms(hi)}`;

const codeWords = ({ timeCode }: Arranged): string =>
  timeCode === "runs while recording" ? "; the time code runs only while recording and tells no gaps" : "";

/** What the files say against the mode the run was started in. */
function Mode({ run, arranged }: { run: SeenRun; arranged: Arranged }) {
  const mode = run.fold.setup?.mode;
  const read = arranged.placed.map((p) => p.clip).find(isReadable)?.read;
  const wrong = mode === undefined || read === undefined ? [] : contradictions(read, mode);
  if (wrong.length === 0 || mode === undefined || read === undefined) return null;
  return (
    <Note tone="alert">
      {`The files contradict the mode ${mode.name} in ${wrong.join(" and ")}: they are ${read.widthPx}×${read.heightPx} at ${Math.round((100 * read.fpsNum) / read.fpsDen) / 100} frames, ${read.codec.split(".")[0] ?? ""}, ${Math.round(read.mbps * 10) / 10} Mbit/s. If the camera was set otherwise than meant, leave this run out and enter it late from its files.`}
    </Note>
  );
}

function Residuals({ run, seen }: { run: SeenRun; seen: Witness }) {
  const startMs = run.fold.startMs ?? 0;
  return (
    <section aria-labelledby="residuals">
      <h2 id="residuals">Marks against the files</h2>
      <table className="text-left">
        <thead className="text-sm text-soft">
          <tr>
            <th className="py-1 pr-6 font-normal">mark</th>
            <th className="pr-6 font-normal">marked at</th>
            <th className="font-normal">against the file</th>
          </tr>
        </thead>
        <tbody>
          {seen.clock.residuals.map((r) => (
            <tr key={r.mark.markId} className="hairline">
              <td className="py-1 pr-6">{EDGE_WORDS[r.mark.kind]}</td>
              <td className="num pr-6">{formatHms(r.mark.atMs - startMs)}</td>
              <td>{residualWords(r.residualMs)}</td>
            </tr>
          ))}
          {seen.clock.hidden.map((m) => (
            <tr key={m.markId} className="hairline">
              <td className="py-1 pr-6">{EDGE_WORDS[m.kind]}</td>
              <td className="num pr-6">{formatHms(m.atMs - startMs)}</td>
              <td className="text-soft">in the file that was cut off</td>
            </tr>
          ))}
          {seen.clock.unwitnessed.map((m) => (
            <tr key={m.markId} className="hairline">
              <td className="py-1 pr-6">{EDGE_WORDS[m.kind]}</td>
              <td className="num pr-6">{formatHms(m.atMs - startMs)}</td>
              <td className="text-alert">the files show nothing of the kind near it</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

const residualWords = (ms: number): string =>
  Math.abs(ms) < 1000 ? "within a second" : `${formatSpan(Math.abs(ms))} ${ms > 0 ? "late" : "early"}`;

/** Two readings fit equally many marks: the tester says which press was right. */
function Rivals({
  run,
  arranged,
  offsets,
  onChoose,
}: {
  run: SeenRun;
  arranged: Arranged;
  offsets: readonly number[];
  onChoose: (offsetMs: number) => void;
}) {
  return (
    <section aria-labelledby="rivals">
      <h2 id="rivals">Which press was right?</h2>
      <p className="text-soft">
        The files and the marks disagree, and these files alone cannot tell which mark was pressed wrongly. The recorded time is the same
        either way.
      </p>
      <p className="mt-2 flex flex-wrap gap-3">
        {offsets.map((offsetMs) => {
          const tried = witness(run.fold, arranged, offsetMs);
          const right = tried.ok
            ? tried.clock.residuals.filter((r) => Math.abs(r.residualMs) < 4000).map((r) => EDGE_WORDS[r.mark.kind])
            : [];
          return <Button key={offsetMs} onClick={() => onChoose(offsetMs)}>{`The ${right.join(" and ")} was pressed right`}</Button>;
        })}
      </p>
    </section>
  );
}
