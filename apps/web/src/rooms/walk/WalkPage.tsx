// A walking test: one row a setup within one move, its wake, its shake on the sway ruler, and what it costs.

import type { Clock } from "@keep-rolling/contract/clocks";
import type { ComparisonResult, MeasuredTake, MoveKind, SetupRow, Walk, WalkMove, WalkPlan } from "@keep-rolling/core/walks";
import { degreesOf } from "@keep-rolling/core/motion";
import { fieldLeft, hfovDegOf, oddTakes, rowsOf, whirrOf } from "@keep-rolling/core/walks";
import { Link, useParams, useSearchParams } from "react-router";
import { sentenceOf as troubleOf } from "../../shared/api/api.ts";
import { formatDate } from "../../shared/dates/dates.ts";
import { Button, Loading, Note, PageHead, Trouble } from "../../shared/ui/parts.tsx";
import type { TakeRead } from "../../workers/jobs/readTakes.ts";
import type { SwayScale } from "./SetupRows.tsx";
import { SetupRows } from "./SetupRows.tsx";
import { BodiesBeside } from "./BodiesBeside.tsx";
import { Compared, Lead } from "./Compared.tsx";
import { LeftOut } from "./LeftOut.tsx";
import { Method } from "./Method.tsx";
import { saveText } from "../../shared/ui/saveFile.ts";
import { takesCsv } from "./takesCsv.ts";
import { WalkTabs } from "./WalkTabs.tsx";
import type { Body } from "./useBodies.ts";
import { useBodies } from "./useBodies.ts";
import { useCompared } from "./useCompared.ts";
import { useCrops } from "./useCrops.ts";
import type { Numbers, SeenWalk } from "./useWalk.ts";
import { isWhole, measuredOf, useNumbers, useWalk } from "./useWalk.ts";
import { findingWords, oddWords, reminderWords, whirrWords } from "./words.ts";
import { forgottenIn } from "@keep-rolling/core/walks";
import { percentWords } from "../../shared/walks/words.ts";

export function WalkPage() {
  const { sessionId = "" } = useParams();
  const seen = useWalk(sessionId);
  const numbers = useNumbers(sessionId, seen.walk);
  useCrops(sessionId, seen.walk);
  if (!seen.known)
    return seen.isLoading ? (
      <Loading what="the walking test" />
    ) : (
      <Trouble sentence={troubleOf(seen.error)} retry={() => void seen.refetch()} />
    );
  return <Shown id={sessionId} seen={seen} numbers={numbers} />;
}

function Shown({ id, seen, numbers }: { id: string; seen: SeenWalk; numbers: Numbers }) {
  const { walk, begun, begunMs, clock } = seen;
  const { plan } = walk;
  const [params] = useSearchParams();
  const move = plan?.moves.find((m) => m.id === params.get("move")) ?? plan?.moves[0];
  const kind: Clock["kind"] = clock?.kind ?? "real";
  const bodies = useBodies(begun?.unitIds ?? []);
  const body = bodies.find((b) => b.id === params.get("body")) ?? bodies[0];
  // Each body has a control of its own: two are never mixed in one row.
  const takes = measuredOf(walk, numbers).filter(({ take }) => bodies.length < 2 || take.unitId === body?.id);
  const when = daysOf(begunMs, walk, kind);
  return (
    <>
      <PageHead title={begun?.place || "Walking test"} sub={plan === null ? when : subOf(plan, when, kind)}>
        <Link to={`/walk/${id}/card`}>Walk card</Link>
        <Link to={`/walk/${id}/clips`}>Clips</Link>
        <Link to={`/walk/${id}/plan`}>Change the plan</Link>
        {plan !== null && walk.takes.length > 0 && (
          <Button
            tone="quiet"
            disabled={!isWhole(numbers)}
            onClick={() =>
              saveText(
                "walking-test.csv",
                "text/csv",
                takesCsv(plan, measuredOf(walk, numbers), (unitId) => bodies.find((b) => b.id === unitId)?.name ?? ""),
              )
            }
          >
            Numbers as CSV
          </Button>
        )}
      </PageHead>
      {plan === null || move === undefined ? (
        <p>
          Nothing is planned for it yet. <Link to={`/walk/${id}/plan`}>Plan it</Link>.
        </p>
      ) : (
        <>
          <WalkTabs id={id} plan={plan} at="table" moveId={move.id} />
          {bodies.length > 1 && <BodyTabs bodies={bodies} at={body} />}
          <Rows
            id={id}
            bodyId={body?.id ?? ""}
            plan={plan}
            move={move}
            takes={takes}
            numbers={numbers}
            inDegrees={body === bodies[0]}
            day={when}
          />
          {bodies[0] !== undefined && bodies[1] !== undefined && (
            <BodiesBeside
              plan={plan}
              takes={measuredOf(walk, numbers).filter((t) => t.take.moveId === move.id)}
              first={bodies[0]}
              second={bodies[1]}
            />
          )}
        </>
      )}
      <Findings seen={seen} />
    </>
  );
}

/** The day it was begun; with it the day of the last take, when that is another. */
function daysOf(begunMs: number | null, walk: Walk, kind: Clock["kind"]): string {
  if (begunMs === null) return "";
  const day = (ms: number): string => formatDate(ms, "long", kind);
  const last = Math.max(begunMs, ...walk.takes.filter((t) => t.timed).map((t) => t.startMs));
  return day(last) === day(begunMs) ? day(begunMs) : `${day(begunMs)} to ${day(last)}`;
}

function subOf(plan: WalkPlan, when: string, kind: string): string {
  const focal =
    plan.focalMm === null
      ? ""
      : ` at ${plan.focalMm} mm${plan.equivalentMm === null ? "" : `, ${Math.round(plan.equivalentMm)} mm equivalent`}`;
  const lens = plan.lensName === "" ? "" : `${plan.lensName}${focal} · `;
  const route = plan.routeM === null ? "" : `${plan.routeM} m${plan.ground === "" ? "" : `, ${plan.ground}`} · `;
  const walker = plan.walker === "" ? "" : ` · walked by ${plan.walker}`;
  return `${lens}${route}${plan.setups.length} ${plan.setups.length === 1 ? "setup" : "setups"}, ${plan.takesWanted} ${plan.takesWanted === 1 ? "take" : "takes"} each${walker} · ${when}${kind === "real" ? "" : ` · ${kind}, made clips`}`;
}

/** Two bodies carried together: one at a time. */
function BodyTabs({ bodies, at }: { bodies: readonly Body[]; at: Body | undefined }) {
  const [params] = useSearchParams();
  const to = (id: string): string => {
    const next = new URLSearchParams(params);
    next.set("body", id);
    return `?${next.toString()}`;
  };
  return (
    <nav aria-label="Bodies" className="mb-4 flex flex-wrap gap-x-6 gap-y-1">
      {bodies.map((b) => (
        <Link
          key={b.id}
          to={to(b.id)}
          replace
          aria-current={b.id === at?.id ? "page" : undefined}
          className={b.id === at?.id ? "font-semibold text-ink no-underline" : ""}
        >
          {b.name}
        </Link>
      ))}
    </nav>
  );
}

interface RowsProps {
  id: string;
  bodyId: string;
  plan: WalkPlan;
  move: WalkMove;
  takes: readonly MeasuredTake[];
  numbers: Numbers;
  /** The plan's focal length is that of the first body's sensor. */
  inDegrees: boolean;
  day: string;
}

function Rows({ id, bodyId, plan, move, takes, numbers, inDegrees, day }: RowsProps) {
  const compared = useCompared(`${move.id} ${bodyId}`, plan, rowsOf(plan, move.id, takes), numbers);
  const [params] = useSearchParams();
  if (compared === null) return <h2 className="mb-1 max-w-5xl text-2xl leading-snug">Reading the takes …</h2>;
  const { comparison } = compared;
  const shake = comparison?.columns.shake ?? null;
  const rows = sortedBy(compared.rows, shake);
  const equivalentMm = inDegrees ? plan.equivalentMm : null;
  const odd = oddTakes(rows);
  const readOf = (row: SetupRow): TakeRead | undefined => middleTake(row, numbers);
  return (
    <>
      {numbers.trouble === null ? (
        <Lead plan={plan} move={move} rows={rows} comparison={comparison} day={day} />
      ) : (
        <Note tone="alert">{numbers.trouble}</Note>
      )}
      <Views equivalentMm={equivalentMm} />
      <SetupRows
        id={id}
        rows={rows}
        readOf={readOf}
        fieldOf={(r) => (r.cropFactor === null ? null : fieldLeft(r.cropFactor))}
        scale={params.get("unit") === "deg" && equivalentMm !== null ? degrees(equivalentMm) : PERCENT}
        along={params.get("way") === "y" ? "y" : "x"}
        pans={PANS.includes(move.kind)}
        compared={shake?.ok === true ? shake : null}
        whole={numbers.trouble === null}
      />
      {odd.length > 0 && (
        <ul className="mt-3 list-disc pl-5 text-alert" aria-label="Walked under other conditions">
          {odd.map((o) => (
            <li key={o.take.id}>{oddWords(o)}</li>
          ))}
        </ul>
      )}
      <p className="mt-3 text-sm text-soft">
        line on the left: cannot be told apart · wake: path of the take in the middle, thick where soft, grey while panning · upright ticks:
        takes; bar: where the setup's level lies, 90 % sure · field kept: share of the control's width · a blank was not measured · every
        name opens its takes
      </p>
      {comparison !== null && <Compared rows={rows} comparison={comparison} />}
      <LeftOut {...{ id, plan, move, rows, comparison }} whole={numbers.trouble === null} />
      <Microphones rows={rows} />
      <Method />
    </>
  );
}

/** The steadiest first by their levels, which a bad take moves little; what has none stays last. */
function sortedBy(rows: readonly SetupRow[], shake: ComparisonResult | null): readonly SetupRow[] {
  if (shake?.ok !== true) return rows;
  const point = (r: SetupRow): number => shake.setups.find((s) => s.id === r.setup.id)?.point ?? Number.POSITIVE_INFINITY;
  return [...rows].sort((a, b) => point(a) - point(b) || 0);
}

/** The microphone of each setup beside the control's: a stabiliser whirrs. */
function Microphones({ rows }: { rows: readonly SetupRow[] }) {
  const heard = whirrOf(rows);
  if (heard.length === 0) return null;
  return (
    <section aria-labelledby="microphone" className="mt-8 max-w-4xl">
      <h2 id="microphone" className="text-lg">
        Microphone
      </h2>
      <p className="text-sm text-soft">Only comparable at one fixed recording level: an automatic one raises every quiet moment.</p>
      <ul>
        {heard.map((w) => (
          <li key={w.setupId} className="hairline flex flex-wrap justify-between gap-x-6 py-1">
            <span>{rows.find((r) => r.setup.id === w.setupId)?.setup.name}</span>
            <span className="text-soft">{whirrWords(w)}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}

const PANS: readonly MoveKind[] = ["slow pan", "tripod pan"];

const PERCENT: SwayScale = {
  head: "shake, % of the picture's width",
  of: ({ measures }) => (measures?.jitterRmsFrac == null || measures.jitterRmsFrac <= 0 ? null : 100 * measures.jitterRmsFrac),
  words: (v) => percentWords(v / 100),
  unit: " %",
  compares: true,
};
/** By the field of view each take was left with; a take whose crop is not known has none. */
const degrees = (equivalentMm: number): SwayScale => ({
  head: "shake, degrees",
  of: ({ measures, cropFactor }) =>
    measures?.jitterRmsFrac == null || measures.jitterRmsFrac <= 0 || cropFactor === null
      ? null
      : degreesOf(measures.jitterRmsFrac, hfovDegOf(equivalentMm * cropFactor)),
  words: (v) => v.toFixed(v < 1 ? 2 : 1),
  unit: "°",
  compares: false,
});

/** What the ruler counts, and which way the wakes run. */
function Views({ equivalentMm }: { equivalentMm: number | null }) {
  const [params, setParams] = useSearchParams();
  const set = (name: string, value: string | null): void =>
    setParams(
      (before) => {
        const next = new URLSearchParams(before);
        if (value === null) next.delete(name);
        else next.set(name, value);
        return next;
      },
      { replace: true },
    );
  return (
    <p className="no-print mb-2 flex flex-wrap gap-x-6 gap-y-1 text-sm">
      <label className="flex items-center gap-2">
        <input type="checkbox" checked={params.get("way") === "y"} onChange={(e) => set("way", e.target.checked ? "y" : null)} />
        Wakes up and down
      </label>
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          disabled={equivalentMm === null}
          checked={params.get("unit") === "deg" && equivalentMm !== null}
          onChange={(e) => set("unit", e.target.checked ? "deg" : null)}
        />
        Degrees{equivalentMm === null && ": needs body and focal length in the plan"}
      </label>
    </p>
  );
}

/** The take whose shake lies in the middle. */
function middleTake(row: SetupRow, { reads }: Numbers): TakeRead | undefined {
  const known = row.takes
    .flatMap((t) => (t.measures === null ? [] : [{ key: t.take.clips[0]?.key ?? "", jitter: t.measures.jitterRmsFrac ?? 0 }]))
    .sort((a, b) => a.jitter - b.jitter);
  return reads.get(known[(known.length - 1) >> 1]?.key ?? "");
}

function Findings({ seen }: { seen: SeenWalk }) {
  const { walk } = seen;
  const reminders = walk.plan === null ? [] : forgottenIn(walk.plan, seen.begun?.unitIds.length ?? 1);
  const merged = new Map<string, string[]>();
  for (const f of walk.findings) merged.set(f.code, [...(merged.get(f.code) ?? []), ...f.factIds]);
  const said = [...merged].map(([code, factIds]) => findingWords({ code, factIds } as Parameters<typeof findingWords>[0]));
  const all = [...said, ...reminders.map(reminderWords)];
  if (all.length === 0) return null;
  return (
    <section aria-labelledby="beware" className="mt-8 max-w-4xl">
      <h2 id="beware" className="text-lg">
        To beware of
      </h2>
      <ul className="list-disc pl-5 text-soft">
        {all.map((words) => (
          <li key={words}>{words}</li>
        ))}
      </ul>
    </section>
  );
}
