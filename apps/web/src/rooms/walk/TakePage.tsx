// One take: its way, where it is trimmed, its spectrum, its sharpness curve, its flags and stills.

import type { Measures } from "@keep-rolling/core/motion";
import { degreesOf } from "@keep-rolling/core/motion";
import type { MeasuredTake, Whirr, WalkPlan, WalkTake } from "@keep-rolling/core/walks";
import { againstControl, fieldLeft, hfovDegOf, rowsOf, togetherWith, whirrOf } from "@keep-rolling/core/walks";
import { Link, useParams } from "react-router";
import { sentenceOf as troubleOf } from "../../shared/api/api.ts";
import { Fact, Loading, Note, PageHead, Trouble } from "../../shared/ui/parts.tsx";
import type { TakeRead } from "../../workers/jobs/readTakes.ts";
import { Method } from "./Method.tsx";
import type { Numbers, SeenWalk } from "./useWalk.ts";
import { takeName } from "./Assignments.tsx";
import { LeaveOut } from "./LeaveOut.tsx";
import { SharpnessCurve, SpectrumChart } from "./TakeCharts.tsx";
import { Ways } from "./TakeWays.tsx";
import { bodyNameOf, useBodies } from "./useBodies.ts";
import { useSync } from "./useSync.ts";
import { measuredOf, useNumbers, useWalk } from "./useWalk.ts";
import { flagWords, noteWords, momentsOf, signedWords, syncWords } from "./words.ts";
import { moveWords, percentWords } from "../../shared/walks/words.ts";

export function TakePage() {
  const { sessionId = "", takeId = "" } = useParams();
  const seen = useWalk(sessionId);
  const numbers = useNumbers(sessionId, seen.walk);
  if (!seen.known)
    return seen.isLoading ? <Loading what="the take" /> : <Trouble sentence={troubleOf(seen.error)} retry={() => void seen.refetch()} />;
  const take = seen.walk.takes.find((t) => t.id === takeId);
  const { plan } = seen.walk;
  if (take === undefined || plan === null)
    return (
      <p>
        There is no such take in this test. <Link to={`/walk/${sessionId}`}>Back to it</Link>.
      </p>
    );
  return <Shown id={sessionId} seen={seen} numbers={numbers} take={take} plan={plan} />;
}

interface Props {
  id: string;
  seen: SeenWalk;
  numbers: Numbers;
  take: WalkTake;
  plan: WalkPlan;
}

function Shown({ id, seen, numbers, take, plan }: Props) {
  const setup = plan.setups.find((s) => s.id === take.setupId);
  const move = plan.moves.find((m) => m.id === take.moveId);
  const clip = take.clips[0];
  const read = clip === undefined ? undefined : numbers.reads.get(clip.key);
  const row = numbers.rows.find((r) => r.sha256 === clip?.sha256);
  const body = bodyNameOf(useBodies(seen.begun?.unitIds ?? []), take.unitId);
  const sub = `${body === "" ? "" : `${body} · `}${move === undefined ? "" : moveWords(move.kind)}${clip === undefined ? "" : ` · ${clip.name}`}${take.bad === null ? "" : ` · bad${take.bad === "" ? "" : `: ${take.bad}`}, not counted`}`;
  return (
    <>
      <PageHead title={`${setup?.name ?? "A setup no longer on the plan"}, take ${take.n}`} sub={sub}>
        <Link to={`/walk/${id}?move=${take.moveId}`}>The test</Link>
      </PageHead>
      {clip === undefined && (
        <p>
          This take has no clip yet. <Link to={`/walk/${id}/clips`}>Bring it in</Link>.
        </p>
      )}
      {clip !== undefined &&
        read === undefined &&
        (numbers.reading ? (
          <Loading what="its path" />
        ) : (
          <Note tone="alert">{numbers.trouble ?? "Its path is not on this bench. Drop the clip again to measure it anew."}</Note>
        ))}
      {clip !== undefined && read !== undefined && (
        <>
          <Ways {...{ id, seen, plan, take, clip, read }} />
          <Kin {...{ id, seen, numbers, take, plan }} />
          <div className="mt-6 grid gap-x-10 gap-y-6 lg:grid-cols-2">
            <NumbersOf read={read} plan={plan} take={take} numbers={numbers} seen={seen} />
            <div>
              <SpectrumChart spectrum={read.spectrum} measures={read.measures} />
              <SharpnessCurve sharpness={read.sharpness} measures={read.measures} />
              <Flags measures={read.measures} notes={row?.notes ?? []} />
            </div>
          </div>
          <LeaveOut id={id} seen={seen} take={take} />
          <Moments measures={read.measures} startSec={read.inFrame / read.measures.fps} />
          <Watch key={row?.proxySha256} row={row} read={read} />
          <Stills row={row} />
          <Method />
        </>
      )}
    </>
  );
}

/** What this take belongs to: the walk it corrects, its corrected copies, and the other body's take of the same walk. */
function Kin({ id, seen, numbers, take, plan }: Omit<Props, "plan"> & { plan: WalkPlan }) {
  const { takes } = seen.walk;
  const bodies = useBodies(seen.begun?.unitIds ?? []);
  const jitterOf = (t: WalkTake): number | null => numbers.reads.get(t.clips[0]?.key ?? "")?.measures.jitterRmsFrac ?? null;
  const parent = takes.find((t) => t.id === take.of);
  const copies = takes.filter((t) => t.of === take.id);
  const beside = togetherWith(takes, take);
  const link = (t: WalkTake) => <Link to={`/walk/${id}/takes/${t.id}`}>{takeName(t, plan, bodies)}</Link>;
  if (parent === undefined && copies.length === 0 && beside.length === 0) return null;
  return (
    <ul className="mt-4" aria-label="Takes of the same walk">
      {parent !== undefined && (
        <li>
          A corrected copy of {link(parent)}
          {changeWords(jitterOf(parent), jitterOf(take))}
        </li>
      )}
      {copies.map((c) => (
        <li key={c.id}>
          Corrected: {link(c)}
          {changeWords(jitterOf(take), jitterOf(c))}
        </li>
      ))}
      {beside.map((t) => (
        <li key={t.id}>
          Filmed together with {link(t)}
          <Together a={take} b={t} numbers={numbers} />
        </li>
      ))}
    </ul>
  );
}

const changeWords = (before: number | null, after: number | null): string =>
  before === null || after === null ? "" : `: shake from ${percentWords(before)} to ${percentWords(after)} % of each picture's own width`;

/** When the other body's clip begins, by sound and path. */
function Together({ a, b, numbers }: { a: WalkTake; b: WalkTake; numbers: Numbers }) {
  const sync = useSync(a, b, numbers);
  if (b.clips.length === 0) return <span className="text-soft">{", which has no clip yet"}</span>;
  if (sync === undefined) return <span className="text-soft">{": comparing them …"}</span>;
  return <span className="text-soft">{`: ${syncWords(sync)}`}</span>;
}

function NumbersOf({
  read,
  plan,
  take,
  numbers,
  seen,
}: {
  read: TakeRead;
  plan: WalkPlan;
  take: WalkTake;
  numbers: Numbers;
  seen: SeenWalk;
}) {
  const m = read.measures;
  const measured = measuredOf(seen.walk, numbers).filter((t) => t.take.unitId === take.unitId);
  const rows = rowsOf(plan, take.moveId, measured);
  const control = rows.find((r) => r.isControl);
  const against = take.setupId === plan.controlId ? null : againstControl(m, control);
  const mine = measured.find((t) => t.take.id === take.id);
  const crop = mine?.cropFactor ?? null;
  const sound = mine?.sound;
  const own = whirrOf(rows).find((w) => w.setupId === take.setupId);
  // Without the crop the field is not known, and so no angle; the plan's focal length is that of the first body's sensor.
  const first = seen.begun?.unitIds[0] ?? take.unitId;
  const hfov = plan.equivalentMm === null || crop === null || take.unitId !== first ? null : hfovDegOf(plan.equivalentMm * crop);
  const share = (v: number | null, note?: string) => (v === null ? { value: "not told", note } : { value: `${percentWords(v)} %`, note });
  const deg =
    m.jitterRmsFrac === null || hfov === null
      ? undefined
      : `${degreesOf(m.jitterRmsFrac, hfov).toFixed(2)}° by a field of ${hfov.toFixed(0)}°`;
  return (
    <dl>
      <Fact label="Shake" {...pick(share(m.jitterRmsFrac, deg))} />
      <Fact label="Sideways" {...pick(share(m.jitterXFrac))} />
      <Fact label="Up, down" {...pick(share(m.jitterYFrac))} />
      <Fact label="Roll" value={m.rollRmsDeg === null ? "not told" : `${m.rollRmsDeg.toFixed(2)}°`} />
      <Fact label="Zoom" {...pick(share(m.zoomRmsFrac))} />
      <Fact label="Above 4 Hz" {...pick(share(m.highFrequencyRmsFrac))} />
      <Fact
        label="Drift, swing"
        {...pick(
          share(m.driftRmsFrac, m.driftRmsFrac === null ? "needs 8 s between in and out" : `roll ${m.driftRollDeg?.toFixed(2) ?? "?"}°`),
        )}
      />
      <Fact
        label="Steps"
        value={m.stepHz === null ? (m.jitterRmsFrac === null ? "not told" : "none seen") : `${m.stepHz.toFixed(2)} a second`}
        {...(against?.paceHz == null ? {} : { note: `${signedWords(against.paceHz, 2)} against the control` })}
      />
      <Fact
        label="Bending"
        value={m.wobbleHomographyPx640 === null ? "not told" : `${m.wobbleHomographyPx640.toFixed(2)} px`}
        note={
          m.wobbleSimilarityPx640 === null ? undefined : `${m.wobbleSimilarityPx640.toFixed(2)} px with leaning; px of a picture 640 wide`
        }
      />
      <Fact
        label="Edge width"
        value={m.edgeSigmaPx640 === null ? "not told" : `${m.edgeSigmaPx640.toFixed(2)} px`}
        note="how soft all along"
      />
      <Fact
        label="Field kept"
        value={crop === null ? "not told" : `${Math.round(100 * Math.min(1, fieldLeft(crop)))} %`}
        note={take.setupId === plan.controlId ? "the control's own" : "of the control's width"}
      />
      <Fact
        label="Soft pulses"
        value={m.sharpnessArea === null ? "not told" : m.dips.length}
        note={m.dips.length === 0 ? undefined : "below, with their moments; a focus hunt looks the same"}
      />
      <Fact
        label="Light"
        value={m.lightStops <= DARKEST_STOPS ? "too dark to tell" : `${signedWords(m.lightStops, 1)} stops`}
        note={lightNote(m, against?.lightStops ?? null)}
      />
      {sound != null && <Fact label="Microphone" value={`${signedWords(sound.floorDb, 0)} dB`} note={soundNote(sound, own)} />}
      {m.pan !== null && (
        <Fact
          label="Pan start"
          value={`${m.pan.delaySec.toFixed(2)} s late`}
          note={`then ${m.pan.peakRatio.toFixed(1)} times its speed, ${percentWords(m.pan.excessFrac)} % of the width to catch up`}
        />
      )}
    </dl>
  );
}
/** As dark as the measurement goes. */
const DARKEST_STOPS = -16;
function lightNote({ clippedFrac, lightStops }: Measures, told: number | null): string {
  const against = lightStops <= DARKEST_STOPS ? null : told;
  const blown = `${percentWords(clippedFrac)} % of the picture blown out`;
  return `${against === null ? "below full white" : `${signedWords(against, 2)} stops against the control`}; ${blown}`;
}
function soundNote({ peaks }: NonNullable<MeasuredTake["sound"]>, own: Whirr | undefined): string {
  const tones = peaks.slice(0, 3).map((p) => `${Math.round(p.hz)} Hz`);
  const heard = tones.length === 0 ? "" : `; tones at ${tones.join(", ")}`;
  const against = own?.overControlDb == null ? "" : `; this setup ${signedWords(own.overControlDb, 1)} dB against the control`;
  return `in its quietest moments${heard}${against}`;
}
const pick = ({ value, note }: { value: string; note?: string | undefined }) => (note === undefined ? { value } : { value, note });

function Flags({ measures, notes }: { measures: Measures; notes: readonly string[] }) {
  const all = [...measures.flags.map((f) => flagWords(f, measures.jitterRmsFrac !== null)), ...notes.map(noteWords)];
  if (all.length === 0) return <p className="mt-4 text-soft">Nothing was flagged in this clip.</p>;
  return (
    <ul className="mt-4 list-disc pl-5 text-soft" aria-label="To beware of">
      {all.map((words) => (
        <li key={words}>{words}</li>
      ))}
    </ul>
  );
}

/** What happened when: softness, exposure, leaps and pans, in seconds of the clip. */
function Moments({ measures, startSec }: { measures: Measures; startSec: number }) {
  const moments = momentsOf(measures, startSec);
  if (moments.length === 0) return null;
  return (
    <section aria-labelledby="moments" className="mt-6 max-w-3xl">
      <h2 id="moments" className="text-lg">
        Moments
      </h2>
      <ol>
        {moments.map((m) => (
          <li key={`${m.atSec} ${m.words}`} className="hairline grid grid-cols-[5rem_1fr] py-1">
            <span className="num">{m.atSec.toFixed(2)} s</span>
            <span className="text-soft">{m.words}</span>
          </li>
        ))}
      </ol>
    </section>
  );
}

/** The small copy, from where the take is counted; silent, as it was kept. */
function Watch({ row, read }: { row: Numbers["rows"][number] | undefined; read: TakeRead }) {
  if (row?.proxySha256 === null) return <p className="mt-6 text-soft">No small copy could be made of this clip.</p>;
  if (row?.proxySha256 === undefined) return null;
  const fromSec = read.inFrame / read.measures.fps;
  const toSec = read.outFrame / read.measures.fps;
  return (
    <figure className="mt-6">
      <video
        className="w-full max-w-2xl"
        src={`/api/walks/proxies/${row.proxySha256}#t=${fromSec.toFixed(2)},${toSec.toFixed(2)}`}
        poster={row.stills[0] === undefined ? undefined : `/api/photos/${row.stills[0].sha256}`}
        controls
        muted
        playsInline
        preload="metadata"
        aria-label="The take, small and without sound"
      />
      <figcaption className="text-sm text-soft">a small copy, for looking at only: fine detail is lost in it</figcaption>
    </figure>
  );
}

function Stills({ row }: { row: Numbers["rows"][number] | undefined }) {
  if (row === undefined || row.stills.length === 0) return null;
  return (
    <ul className="mt-6 grid grid-cols-2 gap-3 sm:grid-cols-3 lg:grid-cols-5">
      {row.stills.map((s) => (
        <li key={s.sha256}>
          <img src={`/api/photos/${s.sha256}`} alt={`The picture ${s.timeSec} s after the first frame`} className="w-full" loading="lazy" />
          <span className="num text-sm text-soft">{s.timeSec.toFixed(1)} s</span>
        </li>
      ))}
    </ul>
  );
}
