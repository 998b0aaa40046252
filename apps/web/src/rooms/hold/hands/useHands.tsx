// All shutter-speed tests read together: of one bench, never made hands beside real ones.

import type { HandsRow, ShotSession } from "@keep-rolling/core/holds";
import { holdOf, seenUsually } from "@keep-rolling/core/holds";
import type { ReactNode } from "react";
import { useCallback, useEffect, useState } from "react";
import { useSession, useSessions } from "../../../record/sessions.ts";
import { sentenceOf } from "../../../shared/api/api.ts";
import { useAnswer } from "../../../shared/reading/useAnswer.ts";
import { Loading, Note, Trouble } from "../../../shared/ui/parts.tsx";
import { pool } from "../../../workers/pool.ts";

/** More at once take too long to read; the newest count. */
const MOST = 60;

interface Seen {
  /** Null: without a plan, or not read. */
  session: ShotSession | null;
  failed: boolean;
  /** It has pictures that nobody has graded to the end. */
  waiting: boolean;
  clock: string;
}
export interface Hands {
  rows: readonly HandsRow[];
  sessions: readonly ShotSession[];
}

/** @param asked the sessions as JSON */
async function ask(asked: string, signal: AbortSignal): Promise<Hands> {
  const sessions = JSON.parse(asked) as ShotSession[];
  return { sessions, rows: await pool.call("readHands", { sessions }, { signal }) };
}

/** What stands in the way of them, or what is made of them. */
export function ReadHands({ children }: { children: (hands: Hands) => ReactNode }) {
  const { sessions, unread, unlisted, error, refetch } = useSessions("hold");
  const [seen, setSeen] = useState<ReadonlyMap<string, Seen>>(new Map());
  const keep = useCallback((id: string, one: Seen): void => setSeen((s) => new Map([...s, [id, one]])), []);
  const shown = sessions.slice(0, MOST);
  const read = shown.every((s) => seen.has(s.id));
  const known = shown.flatMap((s) => seen.get(s.id) ?? []);
  const failed = known.filter((k) => k.failed).length;
  // A plan without shots is no reason to hide the others.
  const shot = known.filter((k) => k.session !== null && k.session.shots.length > 0);
  const bench = shot.some((k) => k.clock === "real") ? "real" : shot[0]?.clock;
  const here = known.filter((k) => bench === undefined || k.clock === bench);
  const waiting = here.filter((k) => k.waiting).length;
  const unsaid = here.filter((k) => k.session !== null && k.session.shots.length === 0 && k.session.unsaid > 0).length;
  // By content: the same shots read again are no new question.
  const asked = JSON.stringify(known.flatMap((k) => (k.clock === bench && k.session !== null ? [k.session] : [])));
  const { answer: hands, stale, trouble } = useAnswer(read ? asked : null, ask);
  if (unlisted && shown.length === 0) return <Trouble sentence={sentenceOf(error)} retry={() => void refetch()} />;
  return (
    <>
      {unlisted && <Note tone="alert">Tests on record could not be listed just now: only those that wait on this device are here.</Note>}
      {shown.map((s) => (
        <Reader key={s.id} id={s.id} keep={keep} />
      ))}
      {bench !== undefined && bench !== "real" && (
        <Note tone="alert">{`From made hands (${bench}). It says nothing about any real ones.`}</Note>
      )}
      {failed > 0 && (
        <Note tone="alert">{`${failed} ${failed === 1 ? "test" : "tests"} could not be read just now and ${failed === 1 ? "is" : "are"} missing here. Nothing is lost.`}</Note>
      )}
      {waiting > 0 && (
        <Note>{`${waiting} ${waiting === 1 ? "test from pictures waits for its last grade and is" : "tests from pictures wait for their last grade and are"} missing here.`}</Note>
      )}
      {unsaid > 0 && (
        <Note tone="alert">{`${unsaid} ${unsaid === 1 ? "test has graded pictures of which none says" : "tests have graded pictures of which none says"} whether the stabiliser was off or on: missing here until it is said on the page of its pictures.`}</Note>
      )}
      {trouble !== null ? (
        <Note tone="alert">The table could not be computed just now. Reload the page; nothing is lost.</Note>
      ) : hands === null || !read || stale || (unread && !unlisted && hands.rows.length === 0) ? (
        <Loading what="the shutter-speed tests" />
      ) : shown.length === 0 ? (
        <p>No shutter-speed test yet.</p>
      ) : hands.rows.length === 0 ? (
        <p>Nothing is judged yet.</p>
      ) : (
        children(hands)
      )}
      {sessions.length > MOST && <p className="text-soft">{`The newest ${MOST} of ${sessions.length} tests.`}</p>}
    </>
  );
}

function Reader({ id, keep }: { id: string; keep: (id: string, one: Seen) => void }) {
  const { session, known, isLoading, error } = useSession(id);
  const { fold } = session;
  useEffect(() => {
    if (!known && isLoading) return;
    const hold = holdOf(fold);
    const { plan } = hold;
    const unitId = fold.begun?.unitIds[0] ?? null;
    const failed = error !== undefined;
    const read = plan === null ? null : { id, unitId, plan, ...seenUsually(plan, hold) };
    const open = hold.pictures.some((p) => p.counts) && !hold.judges.some((j) => j.left === 0);
    const waiting = open && (read === null || read.shots.length === 0);
    keep(id, { session: read, failed, waiting, clock: fold.begun?.clockId ?? "real" });
  }, [id, fold, known, isLoading, error, keep]);
  return null;
}
