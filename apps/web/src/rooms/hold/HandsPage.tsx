// This lens, down to this shutter: every lens, stance and pair of hands with all sessions, on a page for the pocket.

import type { HandsRow, ShotSession } from "@keep-rolling/core/holds";
import { holdOf } from "@keep-rolling/core/holds";
import { useCallback, useEffect, useState } from "react";
import { Link } from "react-router";
import { useSession, useSessions } from "../../record/sessions.ts";
import { Button, Loading, Note, PageHead } from "../../shared/ui/parts.tsx";
import { isAbandoned, pool } from "../../workers/pool.ts";
import { cellWords, gainWords, sessionsWords } from "./words.ts";

/** More at once take too long to read; the newest count. */
const MOST = 60;

interface Seen {
  /** Null: without a plan, or not read. */
  session: ShotSession | null;
  failed: boolean;
  clock: string;
}

export function HandsPage() {
  const { sessions, unread } = useSessions("hold");
  const [seen, setSeen] = useState<ReadonlyMap<string, Seen>>(new Map());
  const keep = useCallback((id: string, one: Seen): void => setSeen((s) => new Map([...s, [id, one]])), []);
  const shown = sessions.slice(0, MOST);
  const read = shown.every((s) => seen.has(s.id));
  const known = shown.flatMap((s) => seen.get(s.id) ?? []);
  const failed = known.filter((k) => k.failed).length;
  // Made hands never stand beside real ones.
  const bench = known.some((k) => k.clock === "real" && k.session !== null) ? "real" : known[0]?.clock;
  const rows = useRows(
    known.flatMap((k) => (k.clock === bench && k.session !== null ? [k.session] : [])),
    read,
  );
  return (
    <article className="limit-sheet">
      <PageHead
        title="This lens, down to this shutter"
        sub="the slowest time at which at least 8 of 10 are kept, 90 % sure; by lens, stance and hands"
      >
        <Link to="/hold">All shutter-speed tests</Link>
        {rows !== null && rows !== "failed" && rows.length > 0 && (
          <Button tone="main" onClick={() => print()}>
            Print
          </Button>
        )}
      </PageHead>
      {shown.map((s) => (
        <Reader key={s.id} id={s.id} keep={keep} />
      ))}
      {bench !== undefined && bench !== "real" && (
        <Note tone="alert">{`From made hands (${bench}). It says nothing about any real ones.`}</Note>
      )}
      {failed > 0 && (
        <Note tone="alert">{`${failed} ${failed === 1 ? "test" : "tests"} could not be read just now and ${failed === 1 ? "is" : "are"} missing here. Nothing is lost.`}</Note>
      )}
      {rows === "failed" ? (
        <Note tone="alert">The table could not be computed just now. Reload the page; nothing is lost.</Note>
      ) : rows === null ? (
        unread || shown.length > 0 ? (
          <Loading what="the shutter-speed tests" />
        ) : (
          <p>No shutter-speed test yet.</p>
        )
      ) : rows.length === 0 ? (
        <p>Nothing is shot yet.</p>
      ) : (
        <Table rows={rows} />
      )}
      {sessions.length > MOST && <p className="text-soft">{`The newest ${MOST} of ${sessions.length} tests.`}</p>}
    </article>
  );
}

function Reader({ id, keep }: { id: string; keep: (id: string, one: Seen) => void }) {
  const { session, known, isLoading, error } = useSession(id);
  const { fold } = session;
  useEffect(() => {
    if (!known && isLoading) return;
    const { plan, shots } = holdOf(fold);
    const failed = error !== undefined;
    keep(id, { session: plan === null ? null : { id, plan, shots }, failed, clock: fold.begun?.clockId ?? "real" });
  }, [id, fold, known, isLoading, error, keep]);
  return null;
}

/** Null until they are read. */
function useRows(sessions: readonly ShotSession[], ready: boolean): readonly HandsRow[] | "failed" | null {
  const [found, setFound] = useState<{ asked: string; rows: readonly HandsRow[] | "failed" } | null>(null);
  const asked = JSON.stringify(sessions);
  useEffect(() => {
    if (!ready) return;
    const stop = new AbortController();
    pool.call("readHands", { sessions: JSON.parse(asked) as ShotSession[] }, { signal: stop.signal }).then(
      (rows) => setFound({ asked, rows }),
      (error: unknown) => void (isAbandoned(error) || stop.signal.aborted || setFound({ asked, rows: "failed" })),
    );
    return () => stop.abort();
  }, [asked, ready]);
  return ready && found?.asked === asked ? found.rows : null;
}

function Table({ rows }: { rows: readonly HandsRow[] }) {
  return (
    <div className="overflow-x-auto">
      <table className="w-full border-collapse text-left">
        <thead className="align-bottom text-sm text-soft">
          <tr>
            {["lens", "stance", "hands", "with it off", "with it on", "stops gained", "shot in"].map((h) => (
              <th key={h} scope="col" className="pr-4 font-normal">
                {h}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((r) => (
            <tr key={r.sessionIds.join(" ")} className="hairline align-top">
              <th scope="row" className="py-2 pr-4 font-semibold">
                {r.sessionIds[0] === undefined ? (
                  r.lensName
                ) : (
                  <Link to={`/hold/${r.sessionIds[0]}`}>{`${r.lensName} at ${r.focalMm} mm`}</Link>
                )}
              </th>
              <td className="pr-4">{r.stance}</td>
              <td className="pr-4">{r.by}</td>
              {(["off", "on"] as const).map((s) => (
                <td key={s} className="pr-4">
                  <Cell claim={r.claims[s]} />
                </td>
              ))}
              <td className="pr-4 text-sm">{gainWords(r.gain) ?? ""}</td>
              <td className="text-sm text-soft">{sessionsWords(fewestOf(r))}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-3 text-sm text-soft">
        Work one to two stops faster than these. A blank was never shot. Hands, stance and the day decide: another pair of hands is another
        row.
      </p>
    </div>
  );
}

/** A claim speaks for new sessions only where each setting was shot in enough of them. */
const fewestOf = ({ claims, sessionIds }: HandsRow): number =>
  Math.min(sessionIds.length, ...[claims.off, claims.on].flatMap((c) => (c === null ? [] : [c.sessions])));

function Cell({ claim }: { claim: HandsRow["claims"]["on"] }) {
  if (claim === null) return null;
  const { time, note } = cellWords(claim);
  return (
    <>
      {time !== "" && <span className={`num text-lg font-semibold ${note === "" ? "text-cool" : "text-soft"}`}>{time}</span>}
      {note !== "" && <span className="block text-sm text-soft">{note}</span>}
    </>
  );
}
