// Walks laid beside each other: the same move, the same setups, each against its own control. Another day, another walker, or another firmware.

import type { ReadWalk, SetupOverWalks, SeveralWalks } from "@keep-rolling/core/walks";
import { MOVES, rowsOf, severalWalks, WALKS_FOR_NEW } from "@keep-rolling/core/walks";
import { useCallback, useEffect, useState } from "react";
import { Link, useSearchParams } from "react-router";
import { useSessions } from "../../../record/sessions.ts";
import { formatDate } from "../../../shared/dates/dates.ts";
import { sentenceOf } from "../../../shared/api/api.ts";
import { useBodyName } from "../../../shared/kit/useBodyName.ts";
import { Loading, Note, PageHead, Trouble } from "../../../shared/ui/parts.tsx";
import { useComparison } from "../useComparison.ts";
import { measuredOf, useNumbers, useWalk } from "../useWalk.ts";
import { againstWords, changeWords, leftOutWords, overWords, unsaidWords } from "./severalWords.ts";
import { moveWords } from "../../../shared/walks/words.ts";

/** More at once take too long to read. */
const MOST = 12;

export interface SeenOne {
  title: string;
  begunMs: number;
  walk: ReadWalk | null;
  /** Its takes are still being read: nothing is known of it yet. */
  reading: boolean;
  /** They could not be read: what it says is not known. */
  unread: boolean;
  /** Bodies carried on it. */
  unitIds: readonly string[];
  clock: "real" | "rehearsal" | "demo";
}

export function SeveralPage() {
  const { sessions, unread, unlisted, error, refetch } = useSessions("walk");
  const [params, setParams] = useSearchParams();
  const [seen, setSeen] = useState<ReadonlyMap<string, SeenOne>>(new Map());
  const kind = MOVES.find((m) => m === params.get("move")) ?? "walk";
  const out = params.getAll("not");
  const body = params.get("body") ?? "";
  const bodyOf = useBodyName();
  const keep = useCallback((id: string, one: SeenOne): void => setSeen((s) => new Map([...s, [id, one]])), []);
  const shown = sessions.slice(0, MOST);
  const known = shown.flatMap((s) => {
    const one = seen.get(s.id);
    return one?.walk == null ? [] : [{ ...one, id: s.id, walk: one.walk }];
  });
  // Made walks never stand beside real ones.
  const bench = known.some((k) => k.clock === "real") ? "real" : known[0]?.clock;
  const alike = known.filter((k) => k.clock === bench);
  const bodies = [...new Set([...seen.values()].flatMap((one) => one.unitIds))];
  const leftOut = shown.flatMap((s) => (seen.get(s.id)?.unread === true ? [seen.get(s.id)?.title ?? ""] : []));
  const chosen = alike.filter((k) => !out.includes(k.id)).sort((a, b) => a.begunMs - b.begunMs);
  const set = (change: (p: URLSearchParams) => void): void =>
    setParams(
      (before) => {
        const next = new URLSearchParams(before);
        change(next);
        return next;
      },
      { replace: true },
    );
  return (
    <>
      <PageHead title="Walks beside each other" sub="the same setups on several days or by several walkers, each against its own control">
        <Link to="/walk">All walking tests</Link>
      </PageHead>
      {shown.map((s) => (
        <Reader key={`${s.id} ${kind} ${body}`} id={s.id} kind={kind} body={body} keep={keep} />
      ))}
      <p className="mb-3 flex flex-wrap items-center gap-x-6 gap-y-2">
        <label className="flex items-center gap-2">
          Move
          <select value={kind} onChange={(e) => set((p) => p.set("move", e.target.value))}>
            {MOVES.map((m) => (
              <option key={m} value={m}>
                {moveWords(m)}
              </option>
            ))}
          </select>
        </label>
        {bodies.length > 1 && (
          <label className="flex items-center gap-2">
            Body
            <select value={body} onChange={(e) => set((p) => (e.target.value === "" ? p.delete("body") : p.set("body", e.target.value)))}>
              <option value="">the first of each walk</option>
              {bodies.map((id) => (
                <option key={id} value={id}>
                  {bodyOf(id)}
                </option>
              ))}
            </select>
          </label>
        )}
        {alike.map((k) => (
          <label key={k.id} className="flex items-center gap-2">
            <input
              type="checkbox"
              checked={!out.includes(k.id)}
              onChange={(e) =>
                set((p) => {
                  const left = p.getAll("not").filter((id) => id !== k.id);
                  p.delete("not");
                  for (const id of e.target.checked ? left : [...left, k.id]) p.append("not", id);
                })
              }
            />
            {`${k.title}, ${k.walk.day}`}
          </label>
        ))}
      </p>
      {unlisted && shown.length === 0 ? (
        <Trouble sentence={sentenceOf(error)} retry={() => void refetch()} />
      ) : (unread && shown.length === 0) || (chosen.length === 0 && shown.some((s) => seen.get(s.id)?.reading !== false)) ? (
        <Loading what="the walking tests" />
      ) : (
        (leftOut.length === 0 || chosen.length > 0) && <Laid walks={chosen} bodyOf={bodyOf} />
      )}
      {unlisted && shown.length > 0 && (
        <Note tone="alert">Walks on record could not be listed just now: only those that wait on this device are here.</Note>
      )}
      {leftOut.length > 0 && <Note tone="alert">{leftOutWords(leftOut)}</Note>}
    </>
  );
}

interface ReaderProps {
  id: string;
  kind: (typeof MOVES)[number];
  /** Empty: the first of the walk. */
  body: string;
  keep: (id: string, one: SeenOne) => void;
}
/** Reads one walk and hands on what is compared of it. */
function Reader({ id, kind, body, keep }: ReaderProps) {
  const { walk, begun, begunMs, clock, known, isLoading } = useWalk(id);
  const numbers = useNumbers(id, walk);
  const { plan } = walk;
  const move = plan?.moves.find((m) => m.kind === kind);
  const unitIds = begun?.unitIds ?? NOBODY;
  const unitId = body === "" ? unitIds[0] : body;
  const takes =
    body !== "" && !unitIds.includes(body)
      ? []
      : measuredOf(walk, numbers).filter(({ take }) => unitIds.length < 2 || take.unitId === unitId);
  const rows = plan === null || move === undefined ? [] : rowsOf(plan, move.id, takes);
  const comparison = useComparison(plan, rows);
  const shake = comparison?.columns.shake;
  const unread = known ? numbers.trouble !== null || comparison === null : !isLoading;
  const reading = known ? move !== undefined && (numbers.reading || comparison === undefined) : isLoading;
  useEffect(() => {
    const read =
      plan === null || shake?.ok !== true || begunMs === null || unread
        ? null
        : { id, unitId: unitId ?? null, plan, day: formatDate(begunMs, "long", clock?.kind ?? "real"), shake };
    const title = begun?.place || "Walking test";
    keep(id, { title, begunMs: begunMs ?? 0, walk: read, reading, unread, unitIds, clock: clock?.kind ?? "real" });
  }, [id, unitId, plan, shake, begun, begunMs, clock, reading, unread, unitIds, keep]);
  return null;
}

const NOBODY: readonly string[] = [];

interface LaidProps {
  walks: readonly { title: string; walk: ReadWalk }[];
  bodyOf: (id: string | null) => string;
}
function Laid({ walks, bodyOf }: LaidProps) {
  if (walks.length === 0) return <p>No walk with this move has two takes of a setup yet.</p>;
  const told = severalWalks(walks.map((w) => w.walk));
  const unsaid = unsaidWords(told.unsaid);
  return (
    <div className="overflow-x-auto">
      <table className="w-full border-collapse text-left">
        <thead className="align-bottom text-sm text-soft">
          <tr>
            <th className="pr-4 font-normal">shake against the control, 90 % sure of each</th>
            {walks.map((w) => (
              <th key={w.walk.id} scope="col" className="pr-4 font-normal">
                <Link to={`/walk/${w.walk.id}`}>{w.title}</Link>, {w.walk.day}
                {w.walk.plan.walker === "" ? "" : `, ${w.walk.plan.walker}`}
                <span className="block">{[bodyOf(w.walk.unitId), lensOf(w.walk)].filter((t) => t !== "").join(" · ")}</span>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {told.setups.map((s) => (
            <SetupLine key={s.key} setup={s} varied={told.varied} walks={walks.length} />
          ))}
        </tbody>
      </table>
      {unsaid !== null && <p className="mt-2">{unsaid}</p>}
      {walks.length > 1 && (
        <p className="mt-2 text-soft">Whatever else differed between the walks, ground, pace or shutter, is in these numbers.</p>
      )}
      {walks.length < WALKS_FOR_NEW && (
        <p className="mt-2 text-soft">From three walks on, on other days or by other walkers, something can be said of a next one.</p>
      )}
    </div>
  );
}

const lensOf = ({ plan: { lensName, focalMm } }: ReadWalk): string =>
  [lensName, focalMm === null ? "" : `${focalMm} mm`].filter((t) => t !== "").join(" at ");

function SetupLine({ setup, varied, walks }: { setup: SetupOverWalks; varied: SeveralWalks["varied"]; walks: number }) {
  // Said once beneath, where it is so of all.
  const over = setup.over === null && walks < WALKS_FOR_NEW ? [] : overWords(setup, varied);
  const said = [...over, ...(setup.change === null ? [] : [changeWords(setup.change, setup.changeBeside)])];
  return (
    <>
      <tr className="hairline">
        <th scope="row" className="py-1 pr-4 font-semibold">
          {setup.key}
        </th>
        {setup.walks.map((w, i) => (
          <td key={i} className="pr-4">
            {w === null ? "" : againstWords(w)}
          </td>
        ))}
      </tr>
      <tr>
        <td colSpan={walks + 1} className="pb-2 text-sm text-soft">
          {said.join(" · ")}
        </td>
      </tr>
    </>
  );
}
