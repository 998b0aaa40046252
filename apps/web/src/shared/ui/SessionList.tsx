// The tests of one kind, newest first: each line reads its test's facts, so older ones are read when they are asked for.

import type { SessionRow } from "@keep-rolling/contract/sessions";
import type { ReactNode } from "react";
import { useState } from "react";
import { useSessions } from "../../record/sessions.ts";
import { sentenceOf } from "../api/api.ts";
import { Button, Loading, Trouble } from "./parts.tsx";

const AT_ONCE = 20;

interface Props {
  kind: SessionRow["kind"];
  /** "the walking tests" */
  what: string;
  row: (session: { id: string; begunMs: number }) => ReactNode;
  /** The page's head, by how many there are; and what an empty list says. */
  head: (count: number) => ReactNode;
  empty: string;
}
export function SessionList({ kind, what, row, head, empty }: Props) {
  const { sessions, unread, error, refetch } = useSessions(kind);
  const [shown, setShown] = useState(AT_ONCE);
  if (unread && sessions.length === 0)
    return error === undefined ? <Loading what={what} /> : <Trouble sentence={sentenceOf(error)} retry={() => void refetch()} />;
  return (
    <>
      {head(sessions.length)}
      {sessions.length === 0 && <p className="max-w-2xl">{empty}</p>}
      <ul>{sessions.slice(0, shown).map(row)}</ul>
      {sessions.length > shown && (
        <p className="mt-3">
          <Button onClick={() => setShown(shown + AT_ONCE)}>{`Older ones: ${sessions.length - shown} more`}</Button>
        </p>
      )}
    </>
  );
}
